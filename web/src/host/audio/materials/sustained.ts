import type { Material } from './material';

/** Strings, brass and reeds, and the plucked and fingered basses. */
export const SUSTAINED: Readonly<Record<string, Material>> = {
  'bowline/slow-tide': { parts: [{ program: 49 }], attackS: 0.5, filter: { hz: 3000, centsPerKey: 40 } },
  'bowline/ensemble': { parts: [{ program: 48 }] },
  'bowline/plucked': { parts: [{ program: 45 }] },
  'bowline/short-bows': {
    parts: [{ program: 48 }],
    decayS: 0.9,
    releaseS: 0.18,
    effects: [{ kind: 'equaliser', lowDb: -2, middleHz: 2600, middleDb: 5, highDb: 4 }],
  },
  'bowline/low-section': {
    parts: [
      { program: 48, bank: 40 },
      { program: 48, bank: 50, levelDb: -4, semitones: -12 },
    ],
    filter: { hz: 3200, centsPerKey: 30 },
  },
  'bowline/single-fiddle': { parts: [{ program: 40 }] },
  'bowline/whole-hall': {
    parts: [
      { program: 48, cents: -6 },
      { program: 49, cents: 6 },
    ],
    releaseS: 1.4,
    effects: [{ kind: 'reverb', seconds: 4.5, mix: 45 }],
  },
  'bowline/held-breath': {
    parts: [{ program: 49 }],
    attackS: 1.3,
    releaseS: 1.6,
    filter: { hz: 1500, centsPerKey: 40 },
  },
  'bowline/trembling': { parts: [{ program: 44 }] },
  'bowline/small-pluck': {
    parts: [
      { program: 45, bank: 20 },
      { program: 46, levelDb: -6 },
    ],
    decayS: 0.7,
    filter: { hz: 5200, softCents: 2400 },
  },
  'bowline/old-cello': { parts: [{ program: 42 }], filter: { hz: 4200, centsPerKey: 20 } },
  'bowline/on-the-bridge': {
    parts: [{ program: 49, bank: 20 }],
    effects: [{ kind: 'equaliser', lowDb: -14, middleHz: 3200, middleDb: 10, highDb: 6 }],
  },
  'quayside/stabs': { parts: [{ program: 61, bank: 8 }], decayS: 2.6, releaseS: 0.16 },
  'quayside/swell-section': { parts: [{ program: 61, bank: 8 }], attackS: 0.9, releaseS: 0.4 },
  'quayside/soft-horns': {
    parts: [{ program: 60 }],
    attackS: 0.06,
    filter: { hz: 2400, centsPerKey: 40, softCents: 1800 },
  },
  'quayside/town-band': {
    parts: [
      { program: 56, levelDb: -2, cents: 4, pan: -0.4 },
      { program: 57, pan: 0.4, cents: -4 },
      { program: 58, semitones: -12, levelDb: -4 },
    ],
  },
  'quayside/low-brass': {
    parts: [{ program: 57 }, { program: 58, levelDb: -3 }],
    filter: { hz: 2600, centsPerKey: 30 },
  },
  'quayside/muted': { parts: [{ program: 59 }] },
  'quayside/one-cornet': { parts: [{ program: 56 }], filter: { hz: 4200, softCents: 2400 } },
  'quayside/evening-flugel': {
    parts: [{ program: 56 }],
    attackS: 0.05,
    filter: { hz: 1300, centsPerKey: 50, softCents: 1800 },
    vibrato: { hz: 4.6, cents: 7, delayS: 0.5 },
  },
  'quayside/falling-off': { parts: [{ program: 61 }], glide: { afterS: 0.35, overS: 1, cents: -900 }, decayS: 2.2 },
  'quayside/wide-section': {
    parts: [
      { program: 61, bank: 8, cents: -5 },
      { program: 60, levelDb: -4, cents: 5 },
    ],
    effects: [{ kind: 'chorus', rateHz: 0.5, depth: 55, mix: 45 }],
  },
  'quayside/tuba-walk': { parts: [{ program: 58 }], releaseS: 0.2 },
  'quayside/saxes': {
    parts: [
      { program: 66, pan: 0.3, cents: -4 },
      { program: 65, pan: -0.3, cents: 4, levelDb: -2 },
    ],
  },
  'keelson/upright': { parts: [{ program: 32 }] },
  'keelson/picked': { parts: [{ program: 34 }] },
  // Its recordings stand a little to one side.
  'keelson/fretless': {
    parts: [{ program: 35 }],
    effects: [{ kind: 'filter', type: 'highpass', hz: 20, resonance: 0 }],
  },
  'keelson/slapped': { parts: [{ program: 36 }] },
  'keelson/muted-thumb': {
    parts: [{ program: 33 }],
    decayS: 0.9,
    filter: { hz: 1100, softCents: 1800, centsPerKey: 40 },
  },
};
