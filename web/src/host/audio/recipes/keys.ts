import type { Recipe } from '../recipe';
import { bars, env, osc, twoReeds, vary } from './make';

const tines: Recipe = {
  oscillators: [
    { ...osc('sine', 1, 0.9), fm: { ratio: 1, index: 0.9, decayS: 1.2, sustain: 0.1 } },
    { wave: 'sine', ratio: 14, gain: 0.06, decayS: 0.12 },
  ],
  envelope: env(0.002, 3.2, 0, 0.3),
  gainDb: -9,
  touch: 0.9,
};
const piano: Recipe = {
  oscillators: [osc([0, 1, 0.5, 0.28, 0.16, 0.1, 0.06, 0.03], 1, 0.8), osc([0, 0.6, 0.3, 0.1], 1, 0.35, 4)],
  envelope: env(0.002, 4, 0, 0.22),
  filter: { type: 'lowpass', hz: 700, keyTrack: 1.6, velocityHz: 4200, sweepHz: 1600, sweepS: 0.5 },
  noise: { gain: 0.05, decayS: 0.03, hz: 1800 },
  gainDb: -8,
  touch: 0.95,
};
const organ: Recipe = {
  oscillators: [osc(bars(8, 6, 8, 0, 0, 0, 0, 0, 0), 0.5)],
  envelope: env(0.006, 0.05, 1, 0.05),
  noise: { gain: 0.03, decayS: 0.012, hz: 3200 },
  vibrato: { hz: 6.2, cents: 5 },
  gainDb: -13,
  touch: 0.1,
};
/** Tones of wheels through a rotary speaker. */
const wheels: Recipe = { ...organ, vibrato: undefined, effects: [{ kind: 'rotary' }] };
const reeds: Recipe = {
  oscillators: twoReeds(7),
  envelope: env(0.035, 0.1, 0.9, 0.09),
  filter: { type: 'lowpass', hz: 2400, keyTrack: 0.5, velocityHz: 1500 },
  gainDb: -15,
  touch: 0.5,
};
/** Pianos, electric pianos and their kin. */
export const KEYS: Readonly<Record<string, Recipe>> = {
  'causeway/late-boat': tines,
  'causeway/wet-planks': vary(tines, { tremolo: { hz: 4.6, depth: 0.45 } }),
  'causeway/tin-cup': vary(tines, {
    oscillators: [
      { ...osc('sine'), fm: { ratio: 3, index: 0.7, decayS: 0.5, sustain: 0.05 } },
      { wave: 'sine', ratio: 7, gain: 0.12, decayS: 0.2 },
    ],
    envelope: { decayS: 2 },
  }),
  'causeway/harbour-bar': vary(tines, {
    oscillators: [
      osc('triangle', 1, 0.5),
      { ...osc('sine', 1, 0.6), fm: { ratio: 2, index: 0.5, decayS: 0.8, sustain: 0.2 } },
    ],
    filter: { type: 'lowpass', hz: 1400, velocityHz: 2600 },
  }),
  'causeway/felt-oar': vary(tines, {
    oscillators: [osc('sine', 1, 1), osc('sine', 2, 0.08)],
    envelope: { attackS: 0.008, decayS: 2.2 },
  }),
  'causeway/morning-gull': vary(tines, {
    oscillators: [
      { ...osc('sine', 1, 0.8, -4), fm: { ratio: 1, index: 1.4, decayS: 1.6, sustain: 0.2 } },
      { ...osc('sine', 1, 0.5, 5), fm: { ratio: 14, index: 0.12, decayS: 0.4, sustain: 0 } },
    ],
    envelope: { releaseS: 0.8 },
  }),
  'causeway/bright-rail': vary(tines, {
    oscillators: [
      { ...osc('sine'), fm: { ratio: 1, index: 2.4, decayS: 0.8, sustain: 0.15 } },
      { wave: 'sine', ratio: 14, gain: 0.14, decayS: 0.2 },
    ],
  }),
  'causeway/slack-water': vary(tines, {
    oscillators: [{ ...osc('sine', 1, 0.9), fm: { ratio: 1, index: 0.45, decayS: 2, sustain: 0.3 } }],
    envelope: { decayS: 5, releaseS: 0.8 },
  }),
  'causeway/rope-bridge': vary(tines, {
    vibrato: { hz: 5.6, cents: 9 },
    oscillators: [
      { ...osc('sine', 1, 0.8), fm: { ratio: 1, index: 1.1, decayS: 0.9, sustain: 0.12 } },
      { wave: 'sine', ratio: 4, gain: 0.1, decayS: 0.5 },
    ],
  }),
  'causeway/coal-quay': vary(tines, {
    oscillators: [
      osc('square', 1, 0.28),
      { ...osc('sine', 1, 0.7), fm: { ratio: 1, index: 2, decayS: 0.5, sustain: 0.2 } },
    ],
    filter: { type: 'lowpass', hz: 1500, keyTrack: 0.6, velocityHz: 2600 },
    gainDb: -10,
  }),
  'causeway/glass-tide': vary(tines, {
    oscillators: [
      { ...osc('sine', 1, 0.8), fm: { ratio: 5, index: 0.6, decayS: 1.6, sustain: 0.1 } },
      { wave: 'sine', ratio: 2.01, gain: 0.25, decayS: 2.4 },
    ],
  }),
  'causeway/old-ferry': vary(tines, {
    tremolo: { hz: 2.6, depth: 0.3 },
    oscillators: [
      { ...osc('sine', 1, 0.8, -7), fm: { ratio: 1, index: 0.8, decayS: 1, sustain: 0.1 } },
      osc('triangle', 1, 0.3, 7),
    ],
    filter: { type: 'lowpass', hz: 1900, keyTrack: 0.8 },
  }),
  'parlour/front-room': piano,
  'parlour/lid-down': vary(piano, {
    filter: { type: 'lowpass', hz: 420, keyTrack: 1.3, velocityHz: 1700, sweepHz: 600, sweepS: 0.4 },
  }),
  'parlour/upright-aunt': vary(piano, {
    oscillators: [osc([0, 1, 0.7, 0.4, 0.3, 0.15], 1, 0.6, -7), osc([0, 1, 0.5, 0.4], 1, 0.6, 8)],
    envelope: { decayS: 2.4 },
  }),
  'parlour/sunday': vary(piano, {
    envelope: { decayS: 5, releaseS: 0.6 },
    oscillators: [osc([0, 1, 0.35, 0.12, 0.05], 1, 1)],
  }),
  'parlour/glass-door': vary(piano, {
    oscillators: [osc([0, 1, 0.3, 0.1], 1, 0.8), { wave: 'sine', ratio: 4.02, gain: 0.16, decayS: 1.4 }],
  }),
  'parlour/far-corner': vary(piano, {
    envelope: { attackS: 0.012, releaseS: 1.2 },
    filter: { type: 'lowpass', hz: 900, keyTrack: 1, velocityHz: 900 },
    gainDb: -10,
  }),
  'parlour/music-room': vary(piano, {
    oscillators: [osc([0, 1, 0.6, 0.34, 0.22, 0.16, 0.1, 0.07, 0.05], 1, 0.8), osc([0, 0.5, 0.3, 0.12], 1, 0.3, -3)],
    filter: { type: 'lowpass', hz: 1000, keyTrack: 1.6, velocityHz: 6200, sweepHz: 2400, sweepS: 0.4 },
  }),
  'parlour/felt-strip': vary(piano, {
    filter: { type: 'lowpass', hz: 300, keyTrack: 1.2, velocityHz: 900 },
    noise: { gain: 0.16, decayS: 0.05, hz: 900 },
    envelope: { attackS: 0.012, decayS: 2.6 },
  }),
  'parlour/tack-row': vary(piano, {
    oscillators: [osc([0, 1, 0.6, 0.5, 0.45, 0.4, 0.32, 0.25, 0.2], 1, 0.7), osc([0, 0.6, 0.4], 1, 0.4, 6)],
    noise: { gain: 0.14, decayS: 0.018, hz: 6200 },
    envelope: { decayS: 2 },
  }),
  'parlour/cellar-door': vary(piano, {
    oscillators: [osc([0, 1, 0.3, 0.1], 1, 0.7), osc([0, 0.8, 0.3], 0.5, 0.5)],
    filter: { type: 'lowpass', hz: 500, keyTrack: 1, velocityHz: 1400 },
    gainDb: -10,
  }),
  'parlour/two-rooms': vary(piano, {
    oscillators: [osc([0, 1, 0.5, 0.2], 1, 0.6, -11), osc([0, 1, 0.5, 0.2], 1, 0.6, 11), osc([0, 0.4, 0.2], 2, 0.2)],
    envelope: { releaseS: 0.5 },
  }),
  'parlour/late-guest': vary(piano, {
    envelope: { attackS: 0.05, decayS: 6, releaseS: 1.8 },
    oscillators: [osc([0, 1, 0.25, 0.06], 1, 0.9), osc('sine', 2, 0.16, 5)],
    filter: { type: 'lowpass', hz: 1200, keyTrack: 0.8 },
  }),
  'drawbar-house/chapel-row': organ,
  'drawbar-house/full-house': vary(wheels, { oscillators: [osc(bars(8, 8, 8, 7, 6, 6, 5, 6, 8), 0.5)], gainDb: -16 }),
  'drawbar-house/small-stop': vary(wheels, { oscillators: [osc(bars(0, 0, 8, 3, 0, 2, 0, 0, 0), 0.5)] }),
  'drawbar-house/reed-stop': vary(wheels, {
    oscillators: [osc('sawtooth', 1, 0.5), osc(bars(4, 0, 8, 0, 4, 0, 4, 0, 2), 0.5, 0.5)],
    filter: { type: 'lowpass', hz: 3400 },
  }),
  'drawbar-house/cellar-pipes': vary(organ, {
    oscillators: [osc(bars(8, 3, 8, 2, 0, 0, 0, 0, 0), 0.5), osc('square', 0.5, 0.12)],
    noise: { gain: 0.07, decayS: 0.02, hz: 2400 },
  }),
  'drawbar-house/bright-mixture': vary(wheels, {
    oscillators: [osc(bars(0, 0, 6, 6, 0, 7, 0, 6, 8), 0.5)],
    gainDb: -15,
  }),
  'drawbar-house/evening-service': vary(organ, {
    oscillators: [osc(bars(6, 0, 6, 2, 0, 1, 0, 0, 0), 0.5, 1, -3), osc(bars(0, 0, 5, 2), 0.5, 0.6, 5)],
    envelope: { attackS: 0.06, releaseS: 0.25 },
  }),
  'drawbar-house/flute-loft': vary(organ, {
    oscillators: [osc(bars(0, 0, 8, 0, 0, 0, 0, 0, 0), 0.5), osc('sine', 2, 0.12)],
    noise: { gain: 0.05, decayS: 0.3, hz: 4200, sustain: 0.4 },
    gainDb: -10,
  }),
  'drawbar-house/dance-night': vary(wheels, {
    oscillators: [osc(bars(8, 6, 8, 0, 0, 3, 0, 5, 8), 0.5)],
    effects: [{ kind: 'rotary', speed: 100, depth: 85 }],
    noise: { gain: 0.08, decayS: 0.02, hz: 3600 },
  }),
  'drawbar-house/quiet-bench': vary(wheels, {
    oscillators: [osc(bars(5, 0, 4, 0, 0, 0, 0, 0, 0), 0.5)],
    filter: { type: 'lowpass', hz: 900 },
    gainDb: -10,
  }),
  'drawbar-house/tin-whistles': vary(organ, {
    oscillators: [osc(bars(0, 0, 0, 4, 0, 8, 0, 5, 6), 0.5, 0.8)],
    gainDb: -15,
  }),
  'drawbar-house/hollow-stop': vary(organ, {
    oscillators: [osc([0, 1, 0, 0.5, 0, 0.34, 0, 0.2, 0, 0.1], 1, 0.7)],
    envelope: { attackS: 0.02, releaseS: 0.12 },
  }),
  'bellows/musette': vary(reeds, { oscillators: [...twoReeds(12), osc('sawtooth', 1, 0.3)] }),
  'bellows/harmonium': vary(reeds, {
    oscillators: [osc('sawtooth', 1, 0.4, -2), osc('square', 0.5, 0.25)],
    envelope: { attackS: 0.09, releaseS: 0.2 },
    filter: { type: 'lowpass', hz: 1500 },
  }),
  'bellows/two-reeds': reeds,
  'bellows/bass-side': vary(reeds, {
    oscillators: [osc('sawtooth', 0.5, 0.5), osc('sawtooth', 1, 0.3, 4), osc('square', 0.5, 0.2)],
    filter: { type: 'lowpass', hz: 1100, velocityHz: 800 },
    gainDb: -11,
  }),
  'bellows/dry-squeeze': vary(reeds, {
    oscillators: [osc('square', 1, 0.35), osc('sawtooth', 1, 0.35)],
    envelope: { attackS: 0.015, releaseS: 0.05 },
  }),
  'bellows/pump-organ': vary(reeds, {
    oscillators: [osc('sawtooth', 1, 0.3, -5), osc('sawtooth', 2, 0.15, 4), osc('triangle', 0.5, 0.5)],
    envelope: { attackS: 0.16, releaseS: 0.4 },
    filter: { type: 'lowpass', hz: 1300 },
    tremolo: { hz: 3.1, depth: 0.12 },
  }),
  'bellows/street-corner': vary(reeds, { oscillators: [...twoReeds(18), osc('square', 2, 0.08)], gainDb: -14 }),
  'bellows/soft-reed': vary(reeds, {
    oscillators: [osc('triangle', 1, 0.7), osc('sawtooth', 1, 0.12, 3)],
    envelope: { attackS: 0.06, releaseS: 0.14 },
  }),
  'bellows/concert-hands': vary(reeds, {
    oscillators: [osc('sawtooth', 1, 0.4, -3), osc('sawtooth', 2, 0.22, 3), osc('sawtooth', 0.5, 0.2)],
    filter: { type: 'lowpass', hz: 3400, keyTrack: 0.5, velocityHz: 2200 },
    gainDb: -14,
  }),
  'bellows/chapel-pedals': vary(reeds, {
    oscillators: [osc('sawtooth', 1, 0.3, -4), osc('triangle', 1, 0.4, 4), osc('triangle', 2, 0.12)],
    envelope: { attackS: 0.22, releaseS: 0.5 },
    tremolo: { hz: 4.2, depth: 0.14 },
  }),
  'bellows/button-box': vary(reeds, {
    oscillators: [osc('square', 1, 0.3, -9), osc('sawtooth', 1, 0.3, 9)],
    envelope: { attackS: 0.01, releaseS: 0.04 },
    noise: { gain: 0.12, decayS: 0.02, hz: 2200 },
  }),
  'bellows/mouth-reeds': vary(reeds, {
    oscillators: [osc([0, 1, 0.5, 0.7, 0.3, 0.4, 0.2], 1, 0.5)],
    filter: { type: 'bandpass', hz: 1500, keyTrack: 0.3, q: 0.9 },
    vibrato: { hz: 5.4, cents: 12 },
    gainDb: -7,
  }),
};
