import { LIMITED, type Material } from './material';

const TINES = 4;
const TINES_APART = { program: 4, bank: 8 };
const STRUCK_BARS = 5;
const GRAND = { parts: [{ program: 0 }], isLarge: true } as const;
const MELLOW = { parts: [{ program: 0, bank: 8 }], isLarge: true } as const;

/** Pianos, electric pianos, and what has bellows. */
export const KEYS: Readonly<Record<string, Material>> = {
  'causeway/late-boat': { parts: [{ program: TINES }], filter: { hz: 9000, softCents: 4200, centsPerKey: 40 } },
  'causeway/wet-planks': {
    parts: [{ program: TINES }, { program: STRUCK_BARS, levelDb: -8, cents: 4 }],
    filter: { hz: 4800, softCents: 3600, centsPerKey: 40 },
    effects: [
      { kind: 'equaliser', lowDb: -7, middleHz: 2200, middleDb: 5, highDb: 6 },
      { kind: 'phaser', rateHz: 0.3, depth: 50, mix: 40 },
      { kind: 'tremolo', note: null, rateHz: 4.6, depth: 60 },
    ],
  },
  'causeway/tin-cup': {
    parts: [{ program: STRUCK_BARS }],
    decayS: 7,
    filter: { hz: 12_000, softCents: 3600, centsPerKey: 30 },
  },
  'causeway/harbour-bar': {
    parts: [{ program: TINES }],
    filter: { hz: 2200, softCents: 3000, centsPerKey: 60 },
    effects: [
      { kind: 'drive', amount: 38, mix: 70 },
      { kind: 'equaliser', lowDb: -6, middleHz: 800, middleDb: 8, highDb: -5 },
    ],
  },
  'causeway/felt-oar': {
    parts: [{ program: TINES }],
    attackS: 0.008,
    filter: { hz: 900, softCents: 2400, centsPerKey: 70 },
  },
  'causeway/morning-gull': {
    parts: [{ program: STRUCK_BARS, bank: 8 }],
    decayS: 9,
    filter: { hz: 9000, softCents: 3600, centsPerKey: 30 },
    releaseS: 0.8,
    effects: [{ kind: 'chorus', rateHz: 0.6, depth: 60, mix: 50 }],
  },
  'causeway/bright-rail': {
    parts: [{ program: TINES }, { program: STRUCK_BARS, levelDb: -5 }],
    decayS: 8,
    filter: { hz: 16_000, softCents: 3600, centsPerKey: 20 },
    effects: [{ kind: 'equaliser', lowDb: -3, middleHz: 2400, middleDb: 4, highDb: 4 }],
  },
  'causeway/slack-water': {
    parts: [TINES_APART],
    filter: { hz: 2600, softCents: 3000, centsPerKey: 50 },
    releaseS: 1.2,
    effects: [{ kind: 'chorus', rateHz: 0.3, depth: 70, mix: 50 }],
  },
  'causeway/rope-bridge': {
    parts: [{ program: 2 }],
    decayS: 6,
    filter: { hz: 8000, softCents: 3600, centsPerKey: 40 },
    vibrato: { hz: 5.6, cents: 9 },
  },
  'causeway/coal-quay': {
    parts: [
      { program: TINES, semitones: 0 },
      { program: 7, levelDb: -9 },
    ],
    filter: { hz: 3600, softCents: 5400, centsPerKey: 50 },
    effects: [{ kind: 'drive', amount: 45, mix: 100 }],
  },
  'causeway/glass-tide': {
    parts: [{ program: STRUCK_BARS }, { program: 9, levelDb: -16 }],
    decayS: 8,
    filter: { hz: 14_000, softCents: 3600, centsPerKey: 20 },
    effects: [{ kind: 'reverb', seconds: 2.4, mix: 22 }],
  },
  'causeway/old-ferry': {
    parts: [TINES_APART],
    filter: { hz: 1900, softCents: 2700, centsPerKey: 60 },
    effects: [
      { kind: 'phaser', rateHz: 0.4, depth: 60, mix: 50 },
      { kind: 'tremolo', note: null, rateHz: 2.6, depth: 35 },
    ],
  },
  'parlour/front-room': GRAND,
  'parlour/lid-down': { ...MELLOW, effects: [{ kind: 'filter', hz: 1500 }] },
  'parlour/upright-aunt': {
    ...GRAND,
    parts: [
      { program: 0, cents: -7, withoutSwells: true },
      { program: 0, cents: 7, withoutSwells: true },
    ],
    decayS: 7,
    effects: [{ kind: 'equaliser', lowDb: -6, middleHz: 900, middleDb: 6, highDb: -5 }],
  },
  'parlour/sunday': {
    ...MELLOW,
    releaseS: 1.2,
    effects: [
      { kind: 'filter', hz: 4200 },
      { kind: 'reverb', seconds: 2.6, mix: 30 },
    ],
  },
  'parlour/glass-door': {
    ...GRAND,
    parts: [{ program: 0 }, { program: 8, levelDb: -7, semitones: 12 }],
    effects: [{ kind: 'equaliser', lowDb: -4, middleDb: 0, highDb: 4 }],
  },
  'parlour/far-corner': {
    ...MELLOW,
    attackS: 0.012,
    effects: [
      { kind: 'filter', hz: 1900 },
      { kind: 'reverb', seconds: 4, mix: 55 },
    ],
  },
  'parlour/music-room': {
    ...GRAND,
    parts: [{ program: 1 }],
    effects: [
      { kind: 'equaliser', lowDb: -1, middleHz: 3000, middleDb: 3, highDb: 4 },
      { kind: 'reverb', seconds: 1.4, mix: 16 },
    ],
  },
  'parlour/felt-strip': { ...MELLOW, attackS: 0.014, decayS: 5, effects: [{ kind: 'filter', hz: 1150, resonance: 0 }] },
  'parlour/tack-row': {
    ...GRAND,
    parts: [{ program: 3 }],
    effects: [{ kind: 'equaliser', lowDb: -9, middleHz: 3600, middleDb: 8, highDb: 6 }, LIMITED],
  },
  'parlour/cellar-door': {
    ...MELLOW,
    parts: [
      { program: 0, bank: 8, withoutSwells: true },
      { program: 0, bank: 8, semitones: -12, levelDb: -3, withoutSwells: true },
    ],
    effects: [{ kind: 'filter', hz: 2000 }],
  },
  'parlour/two-rooms': {
    ...GRAND,
    parts: [
      { program: 0, cents: -11, pan: -0.7, withoutSwells: true },
      { program: 0, cents: 11, pan: 0.7, withoutSwells: true },
    ],
    releaseS: 0.9,
    effects: [{ kind: 'chorus', rateHz: 0.5, depth: 50, mix: 40 }],
  },
  'parlour/late-guest': {
    ...MELLOW,
    attackS: 0.06,
    releaseS: 2.4,
    effects: [
      { kind: 'filter', hz: 2600 },
      { kind: 'chorus', rateHz: 0.25, depth: 70, mix: 50 },
      { kind: 'reverb', seconds: 5, mix: 40 },
    ],
  },
  'bellows/musette': {
    parts: [
      { program: 21, bank: 8 },
      { program: 21, cents: 14, levelDb: -3 },
    ],
  },
  'bellows/harmonium': { parts: [{ program: 20 }], attackS: 0.09, releaseS: 0.3, filter: { hz: 2600 } },
  'bellows/two-reeds': {
    parts: [
      { program: 21, cents: -5, pan: -0.3 },
      { program: 21, cents: 5, pan: 0.3 },
    ],
  },
  'bellows/bass-side': { parts: [{ program: 23, semitones: -12 }], filter: { hz: 1800, centsPerKey: 30 } },
  'bellows/dry-squeeze': { parts: [{ program: 23 }], releaseS: 0.08 },
  'bellows/pump-organ': {
    parts: [{ program: 20 }, { program: 20, semitones: 12, levelDb: -7, cents: 4 }],
    attackS: 0.16,
    releaseS: 0.5,
    filter: { hz: 3400 },
    effects: [{ kind: 'tremolo', note: null, rateHz: 3.1, depth: 18 }],
  },
  'bellows/street-corner': {
    parts: [
      { program: 21, cents: -18, pan: -0.4 },
      { program: 21, cents: 18, pan: 0.4 },
    ],
    effects: [{ kind: 'equaliser', lowDb: -4, middleHz: 2200, middleDb: 5, highDb: 5 }],
  },
  'bellows/soft-reed': {
    parts: [{ program: 21 }],
    attackS: 0.06,
    releaseS: 0.2,
    filter: { hz: 1100, centsPerKey: 60 },
  },
  'bellows/concert-hands': {
    parts: [{ program: 23 }, { program: 21, semitones: 12, levelDb: -6, cents: 3 }],
    effects: [{ kind: 'reverb', seconds: 1.8, mix: 20 }],
  },
  'bellows/chapel-pedals': {
    parts: [
      { program: 20, semitones: -12 },
      { program: 20, levelDb: -3, cents: -4 },
    ],
    attackS: 0.22,
    releaseS: 0.7,
    filter: { hz: 1500 },
    effects: [{ kind: 'reverb', seconds: 3.4, mix: 40 }],
  },
  'bellows/button-box': { parts: [{ program: 21 }, { program: 23, levelDb: -4, cents: 8 }], releaseS: 0.06 },
  'bellows/mouth-reeds': { parts: [{ program: 22 }], vibrato: { hz: 5.4, cents: 10, delayS: 0.3 } },
};
