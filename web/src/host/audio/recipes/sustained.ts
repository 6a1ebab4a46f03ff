import type { Recipe } from '../recipe';
import { env, osc, vary } from './make';

const bows: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.4, -6), osc('sawtooth', 1, 0.4, 6), osc('sawtooth', 1, 0.3, 1)],
  envelope: env(0.35, 0.3, 0.9, 0.6),
  filter: { type: 'lowpass', hz: 1500, keyTrack: 0.7, velocityHz: 1800 },
  vibrato: { hz: 5.1, cents: 6 },
  gainDb: -14,
  touch: 0.6,
};
const brass: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.5, -4), osc('sawtooth', 1, 0.5, 5)],
  envelope: env(0.03, 0.2, 0.75, 0.12),
  filter: { type: 'lowpass', hz: 500, keyTrack: 0.8, velocityHz: 3600, sweepHz: 2600, sweepS: 0.18, q: 1 },
  gainDb: -13,
  touch: 0.8,
};
const pad: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.3, -9), osc('sawtooth', 1, 0.3, 9), osc('triangle', 0.5, 0.4)],
  envelope: env(0.9, 1, 0.85, 1.8),
  filter: { type: 'lowpass', hz: 900, keyTrack: 0.4, velocityHz: 700 },
  vibrato: { hz: 0.3, cents: 2.5 },
  gainDb: -15,
  touch: 0.4,
  // As wide as a hall: all of it comes from one place otherwise.
  effects: [{ kind: 'chorus', rateHz: 0.3, depth: 55, mix: 50 }],
};
const lead: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.6, -3), osc('square', 1, 0.3, 4)],
  envelope: env(0.006, 0.2, 0.85, 0.12),
  filter: { type: 'lowpass', hz: 1800, keyTrack: 0.7, velocityHz: 2200, sweepHz: 1400, sweepS: 0.3, q: 2 },
  vibrato: { hz: 5.4, cents: 7 },
  gainDb: -14,
  touch: 0.6,
};

/** Organs, strings, pads, reeds and leads. */
export const SUSTAINED: Readonly<Record<string, Recipe>> = {
  'bowline/slow-tide': bows,
  'bowline/ensemble': vary(bows, {
    envelope: { attackS: 0.14 },
    filter: { type: 'lowpass', hz: 2200, keyTrack: 0.7, velocityHz: 2600 },
  }),
  'bowline/plucked': vary(bows, {
    oscillators: [osc([0, 1, 0.6, 0.4, 0.2, 0.1])],
    envelope: { attackS: 0.002, decayS: 0.55, sustain: 0, releaseS: 0.25 },
    noise: { gain: 0.08, decayS: 0.015, hz: 2600 },
    gainDb: -6,
  }),
  'bowline/short-bows': vary(bows, {
    envelope: { attackS: 0.03, decayS: 0.24, sustain: 0.25, releaseS: 0.14 },
    noise: { gain: 0.06, decayS: 0.05, hz: 3000 },
    gainDb: -11,
  }),
  'bowline/low-section': vary(bows, {
    oscillators: [osc('sawtooth', 1, 0.5, -5), osc('sawtooth', 0.5, 0.4, 4)],
    filter: { type: 'lowpass', hz: 950, velocityHz: 1200 },
  }),
  'bowline/single-fiddle': vary(bows, {
    oscillators: [osc('sawtooth', 1, 0.7), osc('square', 1, 0.1)],
    envelope: { attackS: 0.09, releaseS: 0.2 },
    vibrato: { hz: 5.8, cents: 16 },
    filter: { type: 'bandpass', hz: 1800, keyTrack: 0.5, q: 0.6 },
    gainDb: -9,
  }),
  'bowline/whole-hall': vary(bows, {
    oscillators: [
      osc('sawtooth', 1, 0.26, -12),
      osc('sawtooth', 1, 0.26, 12),
      osc('sawtooth', 0.5, 0.2, 4),
      osc('sawtooth', 2, 0.1, -4),
    ],
    envelope: { attackS: 0.28, releaseS: 1 },
    filter: { type: 'lowpass', hz: 2600, keyTrack: 0.6, velocityHz: 2400 },
  }),
  'bowline/held-breath': vary(bows, {
    envelope: { attackS: 1.3, releaseS: 1.6 },
    filter: { type: 'lowpass', hz: 800, keyTrack: 0.5 },
    gainDb: -12,
  }),
  'bowline/trembling': vary(bows, { tremolo: { hz: 9.5, depth: 0.7 }, envelope: { attackS: 0.09, releaseS: 0.3 } }),
  'bowline/small-pluck': vary(bows, {
    oscillators: [osc([0, 1, 0.3, 0.4, 0.1, 0.2])],
    envelope: { attackS: 0.002, decayS: 0.28, sustain: 0, releaseS: 0.12 },
    filter: { type: 'lowpass', hz: 2600, keyTrack: 0.6 },
    gainDb: -9,
  }),
  'bowline/old-cello': vary(bows, {
    oscillators: [osc('sawtooth', 0.5, 0.6), osc([0, 1, 0.4, 0.5, 0.2], 0.5, 0.3, 3)],
    envelope: { attackS: 0.12, releaseS: 0.3 },
    vibrato: { hz: 5.2, cents: 13 },
    gainDb: -11,
  }),
  'bowline/on-the-bridge': vary(bows, {
    oscillators: [osc('sawtooth', 1, 0.3, -5), osc('sawtooth', 3, 0.16, 5)],
    filter: { type: 'highpass', hz: 900, keyTrack: 0.6 },
    noise: { gain: 0.1, decayS: 0.4, hz: 5200, sustain: 0.3 },
  }),
  'quayside/stabs': vary(brass, { envelope: { attackS: 0.012, decayS: 0.22, sustain: 0.45, releaseS: 0.08 } }),
  'quayside/swell-section': vary(brass, {
    envelope: { attackS: 0.22 },
    filter: { type: 'lowpass', hz: 450, keyTrack: 0.8, velocityHz: 3000, sweepHz: -200, sweepS: 0.6 },
  }),
  'quayside/soft-horns': vary(brass, {
    oscillators: [osc('triangle', 1, 0.8), osc('sawtooth', 1, 0.2, 3)],
    envelope: { attackS: 0.08, releaseS: 0.25 },
    filter: { type: 'lowpass', hz: 700, velocityHz: 900 },
  }),
  'quayside/town-band': vary(brass, {
    oscillators: [osc('sawtooth', 1, 0.4, -11), osc('sawtooth', 1, 0.4, 12), osc('square', 1, 0.2)],
  }),
  'quayside/low-brass': vary(brass, {
    oscillators: [osc('sawtooth', 0.5, 0.6, -3), osc('sawtooth', 1, 0.35, 4)],
    filter: { type: 'lowpass', hz: 380, velocityHz: 1700, sweepHz: 900, sweepS: 0.2 },
  }),
  'quayside/muted': vary(brass, {
    filter: { type: 'bandpass', hz: 1500, keyTrack: 0.4, q: 2.4 },
    envelope: { attackS: 0.02 },
    gainDb: -7,
  }),
  'quayside/one-cornet': vary(brass, {
    oscillators: [osc('sawtooth', 1, 0.8)],
    vibrato: { hz: 5.4, cents: 9 },
    envelope: { attackS: 0.045, releaseS: 0.14 },
  }),
  'quayside/evening-flugel': vary(brass, {
    oscillators: [osc('triangle', 1, 0.7), osc('sawtooth', 1, 0.25)],
    filter: { type: 'lowpass', hz: 700, keyTrack: 0.8, velocityHz: 1300 },
    envelope: { attackS: 0.07, releaseS: 0.2 },
    noise: { gain: 0.05, decayS: 0.2, hz: 1800, sustain: 0.3 },
  }),
  'quayside/falling-off': vary(brass, {
    drop: { from: 0.94, s: 0.09 },
    envelope: { attackS: 0.02, decayS: 0.5, sustain: 0.5 },
  }),
  'quayside/wide-section': vary(brass, {
    oscillators: [
      osc('sawtooth', 1, 0.3, -15),
      osc('sawtooth', 1, 0.3, 15),
      osc('sawtooth', 2, 0.15, 5),
      osc('sawtooth', 0.5, 0.2),
    ],
    gainDb: -15,
  }),
  'quayside/tuba-walk': vary(brass, {
    oscillators: [osc('sawtooth', 0.5, 0.4), osc('sine', 0.5, 0.6)],
    filter: { type: 'lowpass', hz: 260, velocityHz: 900, sweepHz: 500, sweepS: 0.1 },
    envelope: { attackS: 0.03, releaseS: 0.1 },
    gainDb: -9,
  }),
  'quayside/saxes': vary(brass, {
    oscillators: [osc([0, 1, 0.8, 0.6, 0.5, 0.3, 0.3, 0.2], 1, 0.4, -6), osc('square', 1, 0.2, 6)],
    filter: { type: 'bandpass', hz: 1100, keyTrack: 0.6, q: 0.6 },
    noise: { gain: 0.07, decayS: 0.15, hz: 2600, sustain: 0.25 },
    vibrato: { hz: 5, cents: 10 },
    gainDb: -8,
  }),
  'fogbank/harbour': pad,
  'fogbank/low-cloud': vary(pad, {
    oscillators: [osc('triangle', 0.5, 0.6, -5), osc('triangle', 1, 0.5, 6)],
    filter: { type: 'lowpass', hz: 600 },
    gainDb: -12,
  }),
  'fogbank/dawn': vary(pad, {
    oscillators: [osc('sawtooth', 1, 0.25, -11), osc('sawtooth', 2, 0.12, 9), osc('triangle', 1, 0.4)],
    filter: { type: 'lowpass', hz: 700, sweepHz: 1800, sweepS: 3 },
  }),
  'fogbank/choir-of-gulls': vary(pad, {
    oscillators: [osc('sawtooth', 1, 0.5, -8), osc('sawtooth', 1, 0.5, 8)],
    filter: { type: 'bandpass', hz: 1000, q: 1.6 },
    vibrato: { hz: 4.7, cents: 11 },
    envelope: { attackS: 0.4 },
    gainDb: -9,
  }),
  'fogbank/warm-hold': vary(pad, {
    oscillators: [osc([0, 1, 0.5, 0.25, 0.1], 1, 0.5, -6), osc([0, 1, 0.4, 0.2], 0.5, 0.5, 5)],
    envelope: { attackS: 0.6, releaseS: 2.4 },
  }),
  'fogbank/ice': vary(pad, {
    oscillators: [osc('sine', 2, 0.4, -4), osc('sine', 3.01, 0.2, 5), osc('triangle', 1, 0.4)],
    filter: { type: 'highpass', hz: 400 },
    envelope: { attackS: 0.5 },
  }),
  'fogbank/undertow': vary(pad, {
    oscillators: [osc('square', 0.5, 0.3, -7), osc('sawtooth', 0.5, 0.3, 8)],
    filter: { type: 'lowpass', hz: 340, sweepHz: 700, sweepS: 2.2, q: 4 },
    gainDb: -11,
  }),
  'fogbank/tin-roof-rain': vary(pad, {
    oscillators: [osc('triangle', 1, 0.4, -4), osc('triangle', 1.5, 0.2, 4)],
    noise: { gain: 0.16, decayS: 2, hz: 6000, sustain: 0.5 },
    envelope: { attackS: 0.5 },
  }),
  'fogbank/slow-lamp': vary(pad, {
    tremolo: { hz: 0.28, depth: 0.6 },
    oscillators: [osc('triangle', 1, 0.5, -6), osc('triangle', 1, 0.5, 6), osc('sine', 2, 0.25)],
    filter: { type: 'lowpass', hz: 2600, keyTrack: 0.4 },
  }),
  'fogbank/brass-mist': vary(pad, {
    oscillators: [osc('sawtooth', 1, 0.4, -7), osc('sawtooth', 1, 0.4, 7)],
    filter: { type: 'lowpass', hz: 400, velocityHz: 1400, sweepHz: -300, sweepS: 1.4 },
    envelope: { attackS: 0.5 },
  }),
  'fogbank/open-water': vary(pad, {
    oscillators: [
      osc('sawtooth', 1, 0.22, -14),
      osc('sawtooth', 1, 0.22, 14),
      osc('sawtooth', 1.5, 0.14),
      osc('sine', 0.5, 0.4),
    ],
    envelope: { attackS: 1.4, releaseS: 3 },
  }),
  'fogbank/glass-harbour': vary(pad, {
    oscillators: [
      osc('sine', 1, 0.5, -3),
      osc('sine', 4, 0.12, 3),
      { ...osc('sine', 2, 0.2), fm: { ratio: 1.5, index: 0.5, decayS: 3, sustain: 0.6 } },
    ],
    envelope: { attackS: 0.7, releaseS: 2.4 },
  }),
  'wicklight/flame': lead,
  'wicklight/whistle': vary(lead, {
    oscillators: [osc('sine', 2, 0.9), osc('triangle', 2, 0.2, 3)],
    noise: { gain: 0.05, decayS: 0.2, hz: 5000, sustain: 0.3 },
    filter: undefined,
    vibrato: { hz: 5.5, cents: 14 },
    gainDb: -10,
  }),
  'wicklight/square-lantern': vary(lead, {
    oscillators: [osc('square', 1, 0.7)],
    filter: { type: 'lowpass', hz: 2600, keyTrack: 0.5 },
  }),
  'wicklight/reedy': vary(lead, {
    oscillators: [osc([0, 1, 0.1, 0.7, 0.1, 0.5, 0.1, 0.3])],
    filter: { type: 'lowpass', hz: 3000, velocityHz: 1500 },
    envelope: { attackS: 0.04 },
  }),
  'wicklight/fifth-lamp': vary(lead, { oscillators: [osc('sawtooth', 1, 0.5), osc('sawtooth', 1.4983, 0.4, 4)] }),
  'wicklight/thin-beam': vary(lead, {
    oscillators: [osc('sawtooth', 1, 0.6)],
    filter: { type: 'highpass', hz: 900, q: 1 },
    gainDb: -11,
  }),
  'wicklight/long-wick': vary(lead, {
    envelope: { attackS: 0.12, releaseS: 0.6 },
    filter: { type: 'lowpass', hz: 1300, keyTrack: 0.7, velocityHz: 1400, q: 1 },
    vibrato: { hz: 5.2, cents: 10 },
  }),
  'wicklight/two-lamps': vary(lead, {
    oscillators: [osc('sawtooth', 1, 0.4, -10), osc('sawtooth', 1, 0.4, 10), osc('square', 0.5, 0.2)],
    gainDb: -13,
  }),
  'wicklight/slate-flute': vary(lead, {
    oscillators: [osc('sine', 1, 0.9), osc('sine', 2, 0.1)],
    noise: { gain: 0.12, decayS: 0.1, hz: 2600, sustain: 0.3 },
    vibrato: { hz: 5, cents: 8 },
    envelope: { attackS: 0.05, releaseS: 0.15 },
  }),
  'wicklight/spark': vary(lead, {
    oscillators: [{ ...osc('sine', 1, 0.8), fm: { ratio: 2, index: 3, decayS: 0.25, sustain: 0.15 } }],
    envelope: { decayS: 0.4, sustain: 0.5 },
  }),
  'wicklight/sub-beam': vary(lead, {
    oscillators: [osc('square', 0.5, 0.5), osc('sawtooth', 1, 0.3, 5)],
    filter: { type: 'lowpass', hz: 900, keyTrack: 0.5, velocityHz: 1800, sweepHz: 1400, sweepS: 0.2, q: 3 },
  }),
  'wicklight/singing-saw': vary(lead, {
    oscillators: [osc('sine', 1, 0.9), osc('triangle', 1, 0.1, 4)],
    vibrato: { hz: 6.2, cents: 26 },
    drop: { from: 0.96, s: 0.12 },
    envelope: { attackS: 0.09, releaseS: 0.4 },
  }),
};
