import { LIMITED, type Material } from './material';

const DRUMS = 128;

/** Bells, mallets and kits. */
export const STRUCK: Readonly<Record<string, Material>> = {
  'bellrope/music-box': { parts: [{ program: 10 }] },
  'bellrope/bell-buoy': {
    parts: [{ program: 14, bank: 8, semitones: -5 }],
    effects: [{ kind: 'tremolo', note: null, rateHz: 1.1, depth: 45 }],
  },
  'bellrope/chapel-bell': { parts: [{ program: 14, bank: 8 }], effects: [{ kind: 'reverb', seconds: 4, mix: 30 }] },
  'bellrope/handbells': { parts: [{ program: 14, semitones: 12, levelDb: -3 }, { program: 9 }] },
  'bellrope/glass-chime': {
    parts: [
      { program: 9, semitones: 12 },
      { program: 8, levelDb: -3 },
    ],
    releaseS: 1.6,
    effects: [{ kind: 'chorus', rateHz: 0.7, depth: 60, mix: 45 }],
  },
  'bellrope/ship-bell': { parts: [{ program: 14, semitones: 7 }], decayS: 2.2 },
  'bellrope/night-watch': {
    parts: [{ program: 11, semitones: -12 }],
    releaseS: 4,
    filter: { hz: 1600, softCents: 1800 },
    effects: [{ kind: 'reverb', seconds: 4, mix: 40 }],
  },
  'bellrope/spoons': {
    parts: [{ program: 115, bank: 8 }],
    effects: [{ kind: 'drive', amount: 30 }, { kind: 'reverb', seconds: 0.5, mix: 30 }, LIMITED],
  },
  'bellrope/toy-piano': { parts: [{ program: 8 }, { program: 13, levelDb: -7 }], decayS: 1.6 },
  'bellrope/vibes': { parts: [{ program: 11 }], effects: [{ kind: 'tremolo', note: null, rateHz: 5.2, depth: 50 }] },
  'bellrope/frost': {
    parts: [{ program: 98 }, { program: 9, levelDb: -12, semitones: 12 }],
    effects: [{ kind: 'reverb', seconds: 5, mix: 45 }],
  },
  'slipway/marimba': { parts: [{ program: 12 }] },
  'slipway/kalimba': { parts: [{ program: 108 }], decayS: 2.6 },
  'slipway/boat-ribs': { parts: [{ program: 13, semitones: -12 }], filter: { hz: 2600, softCents: 2400 } },
  'slipway/bottle': { parts: [{ program: 76 }], decayS: 1.2 },
  'slipway/wet-wood': {
    parts: [{ program: 13 }, { program: 12, levelDb: -4 }],
    effects: [{ kind: 'reverb', seconds: 2.2, mix: 40 }],
  },
  'slipway/pebbles': {
    parts: [{ program: 13, semitones: 12 }],
    decayS: 0.5,
    effects: [{ kind: 'drive', amount: 25 }, LIMITED],
  },
  'slipway/soft-mallets': {
    parts: [{ program: 12 }],
    attackS: 0.006,
    filter: { hz: 400, softCents: 1500, centsPerKey: 60 },
  },
  'slipway/low-planks': {
    parts: [{ program: 12, semitones: -12 }],
    effects: [{ kind: 'equaliser', lowDb: 4, highDb: -4 }],
  },
  'slipway/rosewood': {
    parts: [{ program: 12 }, { program: 13, levelDb: 2 }],
    effects: [{ kind: 'equaliser', lowDb: -4, middleHz: 2600, middleDb: 6, highDb: 4 }],
  },
  'slipway/steel-tub': { parts: [{ program: 114 }] },
  'slipway/thumb-box': {
    parts: [{ program: 108 }, { program: 108, semitones: 12, levelDb: -4, cents: 6 }],
    decayS: 2,
    filter: { hz: 3600, softCents: 2400 },
  },
  'slipway/dripping': {
    parts: [{ program: 108, semitones: 12 }],
    decayS: 1,
    effects: [{ kind: 'delay', note: '1/8.', repeats: 35, mix: 30 }, LIMITED],
  },
  'deckhand/boots-and-boxes': { parts: [{ bank: DRUMS, program: 0 }] },
  'deckhand/brushes': { parts: [{ bank: DRUMS, program: 40 }] },
  'deckhand/big-hits': { parts: [{ bank: DRUMS, program: 16 }], effects: [{ kind: 'reverb', seconds: 1.6, mix: 18 }] },
  'deckhand/dance-floor': { parts: [{ bank: DRUMS, program: 25 }] },
  'deckhand/engine-room': { parts: [{ bank: DRUMS, program: 24 }], effects: [{ kind: 'drive', amount: 40, mix: 60 }] },
  'deckhand/stage-boards': {
    parts: [{ bank: DRUMS, program: 8 }],
    effects: [
      { kind: 'equaliser', lowDb: 5, middleHz: 600, middleDb: 4, highDb: -8 },
      { kind: 'reverb', seconds: 0.8, mix: 25 },
    ],
  },
};
