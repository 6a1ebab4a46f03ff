import type { Recipe } from '../recipe';
import { kitHits } from './kit';
import { bellPartials, env, osc, vary } from './make';

const bell: Recipe = {
  oscillators: bellPartials([1, 2, 2.76, 5.4, 8.9], 3),
  envelope: env(0.002, 4, 0, 1.2),
  gainDb: -12,
  touch: 0.9,
};
const bass: Recipe = {
  oscillators: [osc('triangle', 1, 0.8), osc('sine', 1, 0.5)],
  envelope: env(0.004, 1.6, 0.35, 0.09),
  filter: { type: 'lowpass', hz: 420, keyTrack: 0.5, velocityHz: 900, sweepHz: 500, sweepS: 0.15 },
  gainDb: -6,
  touch: 0.8,
};
const bar: Recipe = {
  oscillators: [
    { wave: 'sine', ratio: 1, gain: 1, decayS: 1 },
    { wave: 'sine', ratio: 3.93, gain: 0.3, decayS: 0.18 },
    { wave: 'sine', ratio: 9.2, gain: 0.08, decayS: 0.06 },
  ],
  envelope: env(0.001, 1.3, 0, 0.3),
  gainDb: -7,
  touch: 0.95,
};
const kick: Recipe = {
  oscillators: [osc('sine', 1, 1)],
  envelope: env(0.001, 0.28, 0, 0.1),
  drop: { from: 4, s: 0.06 },
  noise: { gain: 0.12, decayS: 0.02, hz: 900 },
  gainDb: -2,
  touch: 0.8,
};
const box: Recipe = {
  oscillators: [osc('triangle', 3, 0.5)],
  envelope: env(0.001, 0.14, 0, 0.08),
  noise: { gain: 0.7, decayS: 0.13, hz: 2200 },
  gainDb: -7,
  touch: 0.9,
};
const hat: Recipe = {
  oscillators: [],
  envelope: env(0.001, 0.06, 0, 0.05),
  noise: { gain: 0.6, decayS: 0.05, hz: 8500, q: 2 },
  gainDb: -12,
  touch: 0.9,
};
const tom: Recipe = {
  oscillators: [osc('sine', 2, 1)],
  envelope: env(0.001, 0.4, 0, 0.1),
  drop: { from: 1.6, s: 0.1 },
  noise: { gain: 0.1, decayS: 0.03, hz: 700 },
  gainDb: -5,
  touch: 0.8,
};
const brush: Recipe = {
  oscillators: [],
  envelope: env(0.02, 0.22, 0, 0.1),
  noise: { gain: 0.5, decayS: 0.2, hz: 4200, q: 0.7 },
  gainDb: -10,
  touch: 0.9,
};
const hit: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.5, -12), osc('sawtooth', 1.5, 0.4, 10), osc('square', 0.5, 0.4)],
  envelope: env(0.002, 0.5, 0, 0.2),
  noise: { gain: 0.3, decayS: 0.1, hz: 1800 },
  gainDb: -9,
  touch: 0.8,
};
const click: Recipe = {
  oscillators: [osc('square', 8, 0.4)],
  envelope: env(0.001, 0.03, 0, 0.02),
  gainDb: -10,
  touch: 0.6,
};
const kitOf = (hits: Parameters<typeof kitHits>[0]): Recipe => ({
  oscillators: [],
  envelope: env(0.001, 0.1, 0, 0.1),
  gainDb: 0,
  kit: kitHits(hits),
});
const open = vary(hat, { envelope: { decayS: 0.3 }, noise: { gain: 0.5, decayS: 0.26, hz: 7600, q: 1 } });
const crash = vary(hat, { envelope: { decayS: 1.2 }, noise: { gain: 0.6, decayS: 1.1, hz: 5600, q: 0.5 } });

/** What is struck or plucked. */
export const STRUCK: Readonly<Record<string, Recipe>> = {
  'bellrope/music-box': vary(bell, {
    oscillators: bellPartials([1, 4, 6.3], 1.1),
    envelope: { decayS: 1.6, releaseS: 0.8 },
  }),
  'bellrope/bell-buoy': vary(bell, { oscillators: bellPartials([0.5, 1, 1.19, 1.56, 2, 2.51], 4) }),
  'bellrope/chapel-bell': vary(bell, {
    oscillators: bellPartials([0.5, 1, 1.2, 1.5, 2, 2.67, 3.01], 6),
    envelope: { decayS: 7, releaseS: 3 },
  }),
  'bellrope/handbells': vary(bell, { oscillators: bellPartials([1, 3, 5.9], 1.9) }),
  'bellrope/glass-chime': vary(bell, { oscillators: bellPartials([2, 5.4, 8.2, 11.3], 2.2), gainDb: -14 }),
  'bellrope/ship-bell': vary(bell, {
    oscillators: bellPartials([1, 1.5, 2.02, 2.74, 4.1], 2.6),
    noise: { gain: 0.08, decayS: 0.03, hz: 5200 },
  }),
  'bellrope/night-watch': vary(bell, {
    oscillators: bellPartials([0.5, 1, 2.4], 5),
    envelope: { attackS: 0.01, decayS: 6, releaseS: 2.5 },
    gainDb: -10,
  }),
  'bellrope/spoons': vary(bell, {
    oscillators: bellPartials([3.1, 5.2, 8.4], 0.5),
    envelope: { decayS: 0.7, releaseS: 0.3 },
    noise: { gain: 0.1, decayS: 0.02, hz: 7000 },
  }),
  'bellrope/toy-piano': vary(bell, {
    oscillators: bellPartials([1, 2.9, 5.1, 7.8], 1),
    envelope: { decayS: 1.1, releaseS: 0.2 },
    noise: { gain: 0.14, decayS: 0.015, hz: 3000 },
  }),
  'bellrope/vibes': vary(bell, {
    oscillators: bellPartials([1, 4], 3),
    tremolo: { hz: 4.8, depth: 0.45 },
    envelope: { decayS: 4.5, releaseS: 1 },
  }),
  'bellrope/frost': vary(bell, {
    oscillators: bellPartials([4, 6.7, 9.1, 12.4], 3),
    gainDb: -17,
    envelope: { attackS: 0.02, releaseS: 2 },
  }),
  'bellrope/low-gong': vary(bell, {
    oscillators: bellPartials([0.25, 0.51, 0.77, 1.13, 1.6], 8),
    envelope: { attackS: 0.03, decayS: 9, releaseS: 4 },
    vibrato: { hz: 0.4, cents: 8 },
  }),
  'keelson/round': bass,
  'keelson/upright': vary(bass, {
    oscillators: [osc([0, 1, 0.5, 0.3, 0.1])],
    envelope: { decayS: 0.9, sustain: 0.1 },
    noise: { gain: 0.07, decayS: 0.02, hz: 900 },
  }),
  'keelson/picked': vary(bass, {
    oscillators: [osc('sawtooth', 1, 0.45), osc('triangle', 1, 0.5)],
    filter: { type: 'lowpass', hz: 700, velocityHz: 1900, sweepHz: 1300, sweepS: 0.09 },
    envelope: { sustain: 0.25 },
  }),
  'keelson/sub': vary(bass, {
    oscillators: [osc('sine', 1, 1), osc('sine', 0.5, 0.4)],
    envelope: { attackS: 0.01, sustain: 0.9 },
  }),
  'keelson/growl': vary(bass, {
    oscillators: [osc('sawtooth', 1, 0.5, -5), osc('square', 1, 0.4, 6)],
    filter: { type: 'lowpass', hz: 260, velocityHz: 900, sweepHz: 1400, sweepS: 0.3, q: 6 },
    gainDb: -9,
  }),
  'keelson/rubber': vary(bass, {
    oscillators: [{ ...osc('sine'), fm: { ratio: 1, index: 1.6, decayS: 0.18, sustain: 0.1 } }],
    envelope: { sustain: 0.5 },
  }),
  'keelson/fretless': vary(bass, {
    oscillators: [osc([0, 1, 0.4, 0.15, 0.05], 1, 0.8)],
    drop: { from: 0.97, s: 0.07 },
    vibrato: { hz: 4.8, cents: 7 },
    envelope: { decayS: 2, sustain: 0.4 },
  }),
  'keelson/organ-feet': vary(bass, {
    oscillators: [osc([0, 1, 0.5, 0.3, 0.2, 0, 0.12], 0.5, 0.6), osc('sine', 1, 0.4)],
    envelope: { attackS: 0.02, sustain: 1, releaseS: 0.12 },
  }),
  'keelson/slapped': vary(bass, {
    oscillators: [osc('sawtooth', 1, 0.4), osc('sine', 1, 0.6)],
    filter: { type: 'lowpass', hz: 500, velocityHz: 3800, sweepHz: 2600, sweepS: 0.06, q: 2 },
    noise: { gain: 0.16, decayS: 0.015, hz: 3600 },
    envelope: { decayS: 0.8 },
  }),
  'keelson/muted-thumb': vary(bass, {
    oscillators: [osc('triangle', 1, 0.9)],
    envelope: { decayS: 0.3, sustain: 0, releaseS: 0.05 },
    filter: { type: 'lowpass', hz: 500 },
  }),
  'keelson/square-hold': vary(bass, {
    oscillators: [osc('square', 1, 0.5), osc('sine', 0.5, 0.4)],
    filter: { type: 'lowpass', hz: 600, keyTrack: 0.5 },
    envelope: { sustain: 0.9 },
  }),
  'keelson/biting-tide': vary(bass, {
    oscillators: [osc('sawtooth', 1, 0.7)],
    filter: { type: 'lowpass', hz: 240, velocityHz: 1200, sweepHz: 2600, sweepS: 0.22, q: 7 },
    envelope: { decayS: 0.5, sustain: 0.4 },
    gainDb: -12,
  }),
  'slipway/marimba': bar,
  'slipway/kalimba': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 1, gain: 1, decayS: 1.4 },
      { wave: 'sine', ratio: 5.8, gain: 0.2, decayS: 0.1 },
    ],
    noise: { gain: 0.06, decayS: 0.02, hz: 3000 },
  }),
  'slipway/boat-ribs': vary(bar, {
    oscillators: [
      { wave: 'triangle', ratio: 1, gain: 0.9, decayS: 0.3 },
      { wave: 'sine', ratio: 2.6, gain: 0.4, decayS: 0.1 },
    ],
    envelope: { decayS: 0.4 },
  }),
  'slipway/bottle': vary(bar, {
    oscillators: [{ wave: 'sine', ratio: 1, gain: 1 }],
    envelope: { attackS: 0.03, decayS: 0.5, sustain: 0.25, releaseS: 0.2 },
    noise: { gain: 0.12, decayS: 0.3, hz: 1200, q: 3, sustain: 0.1 },
  }),
  'slipway/wet-wood': vary(bar, { drop: { from: 1.35, s: 0.09 }, envelope: { decayS: 0.35 } }),
  'slipway/pebbles': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 2.4, gain: 0.9, decayS: 0.1 },
      { wave: 'sine', ratio: 6.1, gain: 0.4, decayS: 0.05 },
    ],
    envelope: { decayS: 0.16 },
    noise: { gain: 0.12, decayS: 0.01, hz: 4200 },
  }),
  'slipway/soft-mallets': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 1, gain: 1, decayS: 1.3 },
      { wave: 'sine', ratio: 3.93, gain: 0.08, decayS: 0.1 },
    ],
    envelope: { attackS: 0.008 },
  }),
  'slipway/low-planks': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 0.5, gain: 1, decayS: 1.2 },
      { wave: 'sine', ratio: 2, gain: 0.25, decayS: 0.2 },
    ],
  }),
  'slipway/rosewood': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 1, gain: 0.9, decayS: 0.6 },
      { wave: 'sine', ratio: 3, gain: 0.4, decayS: 0.16 },
      { wave: 'sine', ratio: 6, gain: 0.2, decayS: 0.06 },
    ],
    noise: { gain: 0.06, decayS: 0.012, hz: 3800 },
  }),
  'slipway/steel-tub': vary(bar, {
    oscillators: [
      { wave: 'sine', ratio: 1, gain: 0.8, decayS: 1.4 },
      { wave: 'sine', ratio: 2.01, gain: 0.5, decayS: 0.8 },
      { wave: 'sine', ratio: 3.02, gain: 0.25, decayS: 0.5 },
    ],
    vibrato: { hz: 5.6, cents: 5 },
  }),
  'slipway/thumb-box': vary(bar, {
    oscillators: [
      { wave: 'triangle', ratio: 1, gain: 0.7, decayS: 0.9 },
      { wave: 'sine', ratio: 5.4, gain: 0.14, decayS: 0.07 },
    ],
    noise: { gain: 0.2, decayS: 0.02, hz: 1200 },
  }),
  'slipway/dripping': vary(bar, {
    drop: { from: 0.6, s: 0.05 },
    envelope: { decayS: 0.25 },
    oscillators: [{ wave: 'sine', ratio: 2, gain: 1 }],
  }),
  'deckhand/boots-and-boxes': kitOf({ kick, snare: box, tom, closedHat: hat, openHat: open, crash, stick: click }),
  'deckhand/foghorn': {
    oscillators: [osc('sawtooth', 1, 0.5, -5), osc('sawtooth', 1.5, 0.3, 6), osc('square', 0.5, 0.3)],
    envelope: env(0.25, 0.4, 0.95, 0.7),
    filter: { type: 'lowpass', hz: 420, sweepHz: 300, sweepS: 0.5 },
    drop: { from: 1.06, s: 0.4 },
    transpose: 12,
    gainDb: -8,
    touch: 0.3,
  },
  'deckhand/brushes': kitOf({ kick, snare: brush, tom, closedHat: hat, openHat: open, crash, stick: box }),
  'deckhand/hand-drums': kitOf({
    kick: vary(tom, { transpose: -7 }),
    snare: vary(tom, { noise: { gain: 0.4, decayS: 0.05, hz: 1400 } }),
    stick: box,
    tom,
    closedHat: vary(brush, { envelope: { attackS: 0.004, decayS: 0.08 } }),
  }),
  'deckhand/big-hits': kitOf({
    kick: hit,
    snare: vary(hit, { transpose: 5 }),
    tom: vary(hit, { transpose: 3 }),
    crash,
  }),
  'deckhand/clicks': kitOf({
    kick: vary(click, { transpose: -12 }),
    snare: click,
    stick: vary(click, { transpose: 5 }),
    closedHat: hat,
  }),
  'deckhand/dance-floor': kitOf({
    kick: vary(kick, { envelope: { decayS: 0.2 } }),
    snare: vary(box, { gainDb: -4 }),
    stick: click,
    tom,
    closedHat: hat,
    openHat: open,
    crash,
  }),
  'deckhand/rope-and-chain': kitOf({
    kick: vary(box, { transpose: -7 }),
    snare: vary(hat, { noise: { gain: 0.5, decayS: 0.16, hz: 3400, q: 5 } }),
    closedHat: vary(hat, { noise: { gain: 0.5, decayS: 0.09, hz: 5200, q: 7 } }),
    stick: vary(click, { transpose: -12 }),
  }),
  'deckhand/engine-room': kitOf({
    kick: vary(kick, { transpose: -5, envelope: { decayS: 0.5 } }),
    tom: vary(tom, { transpose: -8 }),
    crash: vary(hit, { transpose: -12 }),
    snare: vary(box, { transpose: -12 }),
  }),
  'deckhand/shakers': kitOf({
    kick: vary(brush, { envelope: { attackS: 0.03, decayS: 0.1 } }),
    snare: vary(hat, { noise: { gain: 0.5, decayS: 0.03, hz: 6400, q: 1.5 } }),
    openHat: vary(brush, { noise: { gain: 0.4, decayS: 0.3, hz: 7000, q: 1 } }),
    closedHat: hat,
  }),
  'deckhand/stage-boards': kitOf({
    kick: vary(tom, { noise: { gain: 0.5, decayS: 0.04, hz: 500 } }),
    snare: vary(box, { noise: { gain: 0.3, decayS: 0.05, hz: 1100 } }),
    tom: vary(tom, { transpose: 4, noise: { gain: 0.4, decayS: 0.03, hz: 800 } }),
    stick: vary(click, { transpose: -24 }),
  }),
  'deckhand/thunder-sheet': vary(hit, {
    oscillators: [osc('sawtooth', 0.25, 0.2, -20)],
    noise: { gain: 0.9, decayS: 2.4, hz: 300, q: 0.4 },
    envelope: { attackS: 0.08, decayS: 3, releaseS: 1.4 },
  }),
};
