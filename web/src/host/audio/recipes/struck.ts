import type { Recipe } from '../recipe';
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
const kitOf = (...kit: Recipe[]): Recipe => ({ oscillators: [], envelope: env(0.001, 0.1, 0, 0.1), gainDb: 0, kit });

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
    oscillators: [osc([0, 1, 0.3, 0.1], 0.5, 0.6), osc('sine', 1, 0.4)],
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
  'deckhand/boots-and-boxes': kitOf(kick, box, kick, box, tom, hat, tom, hat, tom, hat, tom, hat),
  'deckhand/foghorn': {
    oscillators: [osc('sawtooth', 1, 0.5, -5), osc('sawtooth', 1.5, 0.3, 6), osc('square', 0.5, 0.3)],
    envelope: env(0.25, 0.4, 0.95, 0.7),
    filter: { type: 'lowpass', hz: 420, sweepHz: 300, sweepS: 0.5 },
    drop: { from: 1.06, s: 0.4 },
    transpose: 12,
    gainDb: -8,
    touch: 0.3,
  },
  'deckhand/brushes': kitOf(kick, brush, brush, brush, tom, hat, tom, hat, tom, brush, tom, hat),
  'deckhand/hand-drums': kitOf(tom, box, tom, box, kick, tom, tom, tom, box, tom, tom, box),
  'deckhand/big-hits': kitOf(
    hit,
    vary(hit, { transpose: 3 }),
    vary(hit, { transpose: 5 }),
    vary(hit, { transpose: 7 }),
  ),
  'deckhand/clicks': kitOf(click, vary(click, { transpose: 5 }), hat, box),
  'deckhand/dance-floor': kitOf(
    vary(kick, { envelope: { decayS: 0.2 } }),
    vary(box, { gainDb: -4 }),
    vary(kick, { envelope: { decayS: 0.2 } }),
    click,
    tom,
    hat,
    tom,
    hat,
    tom,
    vary(hat, { envelope: { decayS: 0.3 }, noise: { gain: 0.5, decayS: 0.26, hz: 7600, q: 1 } }),
    tom,
    hat,
  ),
  'deckhand/rope-and-chain': kitOf(
    vary(hat, { noise: { gain: 0.5, decayS: 0.16, hz: 3400, q: 5 } }),
    vary(box, { transpose: -7 }),
    vary(hat, { noise: { gain: 0.5, decayS: 0.09, hz: 5200, q: 7 } }),
    vary(click, { transpose: -12 }),
  ),
  'deckhand/engine-room': kitOf(
    vary(kick, { transpose: -5, envelope: { decayS: 0.5 } }),
    vary(tom, { transpose: -8 }),
    vary(hit, { transpose: -12 }),
    vary(box, { transpose: -12 }),
  ),
  'deckhand/shakers': kitOf(
    vary(brush, { envelope: { attackS: 0.03, decayS: 0.1 } }),
    vary(hat, { noise: { gain: 0.5, decayS: 0.03, hz: 6400, q: 1.5 } }),
    vary(brush, { noise: { gain: 0.4, decayS: 0.3, hz: 7000, q: 1 } }),
    hat,
  ),
  'deckhand/stage-boards': kitOf(
    vary(tom, { noise: { gain: 0.5, decayS: 0.04, hz: 500 } }),
    vary(box, { noise: { gain: 0.3, decayS: 0.05, hz: 1100 } }),
    vary(tom, { transpose: 4, noise: { gain: 0.4, decayS: 0.03, hz: 800 } }),
    vary(click, { transpose: -24 }),
  ),
  'deckhand/thunder-sheet': vary(hit, {
    oscillators: [osc('sawtooth', 0.25, 0.2, -20)],
    noise: { gain: 0.9, decayS: 2.4, hz: 300, q: 0.4 },
    envelope: { attackS: 0.08, decayS: 3, releaseS: 1.4 },
  }),
};
