import type { OscillatorRecipe, Recipe } from './recipe';

type Change = Omit<Partial<Recipe>, 'envelope'> & { envelope?: Partial<Recipe['envelope']> };

const vary = (base: Recipe, change: Change): Recipe => ({ ...base, ...change, envelope: { ...base.envelope, ...change.envelope } });
const env = (attackS: number, decayS: number, sustain: number, releaseS: number): Recipe['envelope'] => ({ attackS, decayS, sustain, releaseS });
const osc = (wave: OscillatorRecipe['wave'], ratio = 1, gain = 1, detuneCents = 0): OscillatorRecipe => ({ wave, ratio, gain, detuneCents });
/** Drawbars from the lowest up, 0–8 each, as partials of half the note's frequency. */
const bars = (...levels: number[]): number[] => {
  const partials = new Array<number>(17).fill(0);
  [1, 3, 2, 4, 6, 8, 10, 12, 16].forEach((partial, i) => { partials[partial] = (levels[i] ?? 0) / 8; });
  return partials;
};
const bellPartials = (ratios: number[], decayS: number): OscillatorRecipe[] => ratios.map((ratio, i) => ({ wave: 'sine', ratio, gain: 0.7 / (i + 1), decayS: decayS / (1 + i * 0.7) }));
const twoReeds = (cents: number): OscillatorRecipe[] => [osc('sawtooth', 1, 0.4, -cents), osc('sawtooth', 1, 0.4, cents), osc('square', 1, 0.15)];

const tines: Recipe = {
  oscillators: [{ ...osc('sine', 1, 0.9), fm: { ratio: 1, index: 0.9, decayS: 1.2, sustain: 0.1 } }, { wave: 'sine', ratio: 14, gain: 0.06, decayS: 0.12 }],
  envelope: env(0.002, 3.2, 0, 0.3), gainDb: -9, touch: 0.9,
};
const piano: Recipe = {
  oscillators: [osc([0, 1, 0.5, 0.28, 0.16, 0.1, 0.06, 0.03], 1, 0.8), osc([0, 0.6, 0.3, 0.1], 1, 0.35, 4)],
  envelope: env(0.002, 4, 0, 0.22), filter: { type: 'lowpass', hz: 700, keyTrack: 1.6, velocityHz: 4200, sweepHz: 1600, sweepS: 0.5 }, noise: { gain: 0.05, decayS: 0.03, hz: 1800 }, gainDb: -8, touch: 0.95,
};
const organ: Recipe = { oscillators: [osc(bars(8, 6, 8, 0, 0, 0, 0, 0, 0), 0.5)], envelope: env(0.006, 0.05, 1, 0.05), noise: { gain: 0.03, decayS: 0.012, hz: 3200 }, vibrato: { hz: 6.2, cents: 5 }, gainDb: -13, touch: 0.1 };
const reeds: Recipe = { oscillators: twoReeds(7), envelope: env(0.035, 0.1, 0.9, 0.09), filter: { type: 'lowpass', hz: 2400, keyTrack: 0.5, velocityHz: 1500 }, gainDb: -15, touch: 0.5 };
const bows: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.4, -6), osc('sawtooth', 1, 0.4, 6), osc('sawtooth', 1, 0.3, 1)], envelope: env(0.35, 0.3, 0.9, 0.6),
  filter: { type: 'lowpass', hz: 1500, keyTrack: 0.7, velocityHz: 1800 }, vibrato: { hz: 5.1, cents: 6 }, gainDb: -14, touch: 0.6,
};
const brass: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.5, -4), osc('sawtooth', 1, 0.5, 5)], envelope: env(0.03, 0.2, 0.75, 0.12),
  filter: { type: 'lowpass', hz: 500, keyTrack: 0.8, velocityHz: 3600, sweepHz: 2600, sweepS: 0.18, q: 1 }, gainDb: -13, touch: 0.8,
};
const bell: Recipe = { oscillators: bellPartials([1, 2, 2.76, 5.4, 8.9], 3), envelope: env(0.002, 4, 0, 1.2), gainDb: -12, touch: 0.9 };
const bass: Recipe = { oscillators: [osc('triangle', 1, 0.8), osc('sine', 1, 0.5)], envelope: env(0.004, 1.6, 0.35, 0.09), filter: { type: 'lowpass', hz: 420, keyTrack: 0.5, velocityHz: 900, sweepHz: 500, sweepS: 0.15 }, gainDb: -6, touch: 0.8 };
const pad: Recipe = {
  oscillators: [osc('sawtooth', 1, 0.3, -9), osc('sawtooth', 1, 0.3, 9), osc('triangle', 0.5, 0.4)], envelope: env(0.9, 1, 0.85, 1.8),
  filter: { type: 'lowpass', hz: 900, keyTrack: 0.4, velocityHz: 700 }, vibrato: { hz: 0.3, cents: 7 }, gainDb: -15, touch: 0.4,
};
const bar: Recipe = { oscillators: [{ wave: 'sine', ratio: 1, gain: 1, decayS: 1 }, { wave: 'sine', ratio: 3.93, gain: 0.3, decayS: 0.18 }, { wave: 'sine', ratio: 9.2, gain: 0.08, decayS: 0.06 }], envelope: env(0.001, 1.3, 0, 0.3), gainDb: -7, touch: 0.95 };
const lead: Recipe = { oscillators: [osc('sawtooth', 1, 0.6, -3), osc('square', 1, 0.3, 4)], envelope: env(0.006, 0.2, 0.85, 0.12), filter: { type: 'lowpass', hz: 1800, keyTrack: 0.7, velocityHz: 2200, sweepHz: 1400, sweepS: 0.3, q: 2 }, vibrato: { hz: 5.4, cents: 7 }, gainDb: -14, touch: 0.6 };

const kick: Recipe = { oscillators: [osc('sine', 1, 1)], envelope: env(0.001, 0.28, 0, 0.1), drop: { from: 4, s: 0.06 }, noise: { gain: 0.12, decayS: 0.02, hz: 900 }, gainDb: -2, touch: 0.8 };
const box: Recipe = { oscillators: [osc('triangle', 3, 0.5)], envelope: env(0.001, 0.14, 0, 0.08), noise: { gain: 0.7, decayS: 0.13, hz: 2200 }, gainDb: -7, touch: 0.9 };
const hat: Recipe = { oscillators: [], envelope: env(0.001, 0.06, 0, 0.05), noise: { gain: 0.6, decayS: 0.05, hz: 8500, q: 2 }, gainDb: -12, touch: 0.9 };
const tom: Recipe = { oscillators: [osc('sine', 2, 1)], envelope: env(0.001, 0.4, 0, 0.1), drop: { from: 1.6, s: 0.1 }, noise: { gain: 0.1, decayS: 0.03, hz: 700 }, gainDb: -5, touch: 0.8 };
const brush: Recipe = { oscillators: [], envelope: env(0.02, 0.22, 0, 0.1), noise: { gain: 0.5, decayS: 0.2, hz: 4200, q: 0.7 }, gainDb: -10, touch: 0.9 };
const hit: Recipe = { oscillators: [osc('sawtooth', 1, 0.5, -12), osc('sawtooth', 1.5, 0.4, 10), osc('square', 0.5, 0.4)], envelope: env(0.002, 0.5, 0, 0.2), noise: { gain: 0.3, decayS: 0.1, hz: 1800 }, gainDb: -9, touch: 0.8 };
const click: Recipe = { oscillators: [osc('square', 8, 0.4)], envelope: env(0.001, 0.03, 0, 0.02), gainDb: -10, touch: 0.6 };
const kitOf = (...kit: Recipe[]): Recipe => ({ oscillators: [], envelope: env(0.001, 0.1, 0, 0.1), gainDb: 0, kit });

/** Every preset of the built-in instruments by its id in the catalogue of core. */
export const RECIPES: Readonly<Record<string, Recipe>> = {
  'causeway/late-boat': tines,
  'causeway/wet-planks': vary(tines, { tremolo: { hz: 4.6, depth: 0.45 } }),
  'causeway/tin-cup': vary(tines, { oscillators: [{ ...osc('sine'), fm: { ratio: 3, index: 0.7, decayS: 0.5, sustain: 0.05 } }, { wave: 'sine', ratio: 7, gain: 0.12, decayS: 0.2 }], envelope: { decayS: 2 } }),
  'causeway/harbour-bar': vary(tines, { oscillators: [osc('triangle', 1, 0.5), { ...osc('sine', 1, 0.6), fm: { ratio: 2, index: 0.5, decayS: 0.8, sustain: 0.2 } }], filter: { type: 'lowpass', hz: 1400, velocityHz: 2600 } }),
  'causeway/felt-oar': vary(tines, { oscillators: [osc('sine', 1, 1), osc('sine', 2, 0.08)], envelope: { attackS: 0.008, decayS: 2.2 } }),
  'causeway/morning-gull': vary(tines, { oscillators: [{ ...osc('sine', 1, 0.8, -4), fm: { ratio: 1, index: 1.4, decayS: 1.6, sustain: 0.2 } }, { ...osc('sine', 1, 0.5, 5), fm: { ratio: 14, index: 0.12, decayS: 0.4, sustain: 0 } }], envelope: { releaseS: 0.8 } }),
  'causeway/bright-rail': vary(tines, { oscillators: [{ ...osc('sine'), fm: { ratio: 1, index: 2.4, decayS: 0.8, sustain: 0.15 } }, { wave: 'sine', ratio: 14, gain: 0.14, decayS: 0.2 }] }),
  'parlour/front-room': piano,
  'parlour/lid-down': vary(piano, { filter: { type: 'lowpass', hz: 420, keyTrack: 1.3, velocityHz: 1700, sweepHz: 600, sweepS: 0.4 } }),
  'parlour/upright-aunt': vary(piano, { oscillators: [osc([0, 1, 0.7, 0.4, 0.3, 0.15], 1, 0.6, -7), osc([0, 1, 0.5, 0.4], 1, 0.6, 8)], envelope: { decayS: 2.4 } }),
  'parlour/sunday': vary(piano, { envelope: { decayS: 5, releaseS: 0.6 }, oscillators: [osc([0, 1, 0.35, 0.12, 0.05], 1, 1)] }),
  'parlour/glass-door': vary(piano, { oscillators: [osc([0, 1, 0.3, 0.1], 1, 0.8), { wave: 'sine', ratio: 4.02, gain: 0.16, decayS: 1.4 }] }),
  'parlour/far-corner': vary(piano, { envelope: { attackS: 0.012, releaseS: 1.2 }, filter: { type: 'lowpass', hz: 900, keyTrack: 1, velocityHz: 900 }, gainDb: -10 }),
  'drawbar-house/chapel-row': organ,
  'drawbar-house/full-house': vary(organ, { oscillators: [osc(bars(8, 8, 8, 7, 6, 6, 5, 6, 8), 0.5)], gainDb: -16 }),
  'drawbar-house/small-stop': vary(organ, { oscillators: [osc(bars(0, 0, 8, 3, 0, 2, 0, 0, 0), 0.5)] }),
  'drawbar-house/reed-stop': vary(organ, { oscillators: [osc('sawtooth', 1, 0.5), osc(bars(4, 0, 8, 0, 4, 0, 4, 0, 2), 0.5, 0.5)], filter: { type: 'lowpass', hz: 3400 } }),
  'drawbar-house/cellar-pipes': vary(organ, { oscillators: [osc(bars(8, 3, 8, 2, 0, 0, 0, 0, 0), 0.5), osc('square', 0.5, 0.12)], noise: { gain: 0.07, decayS: 0.02, hz: 2400 } }),
  'drawbar-house/bright-mixture': vary(organ, { oscillators: [osc(bars(0, 0, 6, 6, 0, 7, 0, 6, 8), 0.5)], gainDb: -15 }),
  'drawbar-house/evening-service': vary(organ, { oscillators: [osc(bars(6, 0, 6, 2, 0, 1, 0, 0, 0), 0.5, 1, -3), osc(bars(0, 0, 5, 2), 0.5, 0.6, 5)], envelope: { attackS: 0.06, releaseS: 0.25 } }),
  'bellows/musette': vary(reeds, { oscillators: [...twoReeds(12), osc('sawtooth', 1, 0.3)] }),
  'bellows/harmonium': vary(reeds, { oscillators: [osc('sawtooth', 1, 0.4, -2), osc('square', 0.5, 0.25)], envelope: { attackS: 0.09, releaseS: 0.2 }, filter: { type: 'lowpass', hz: 1500 } }),
  'bellows/two-reeds': reeds,
  'bellows/bass-side': vary(reeds, { oscillators: [osc('sawtooth', 0.5, 0.5), osc('sawtooth', 1, 0.3, 4), osc('square', 0.5, 0.2)], filter: { type: 'lowpass', hz: 1100, velocityHz: 800 }, gainDb: -11 }),
  'bellows/dry-squeeze': vary(reeds, { oscillators: [osc('square', 1, 0.35), osc('sawtooth', 1, 0.35)], envelope: { attackS: 0.015, releaseS: 0.05 } }),
  'bellows/pump-organ': vary(reeds, { oscillators: [osc('sawtooth', 1, 0.3, -5), osc('sawtooth', 2, 0.15, 4), osc('triangle', 0.5, 0.5)], envelope: { attackS: 0.16, releaseS: 0.4 }, filter: { type: 'lowpass', hz: 1300 }, tremolo: { hz: 3.1, depth: 0.12 } }),
  'bowline/slow-tide': bows,
  'bowline/ensemble': vary(bows, { envelope: { attackS: 0.14 }, filter: { type: 'lowpass', hz: 2200, keyTrack: 0.7, velocityHz: 2600 } }),
  'bowline/plucked': vary(bows, { oscillators: [osc([0, 1, 0.6, 0.4, 0.2, 0.1])], envelope: { attackS: 0.002, decayS: 0.55, sustain: 0, releaseS: 0.25 }, noise: { gain: 0.08, decayS: 0.015, hz: 2600 }, gainDb: -6 }),
  'bowline/short-bows': vary(bows, { envelope: { attackS: 0.03, decayS: 0.24, sustain: 0.25, releaseS: 0.14 }, noise: { gain: 0.06, decayS: 0.05, hz: 3000 }, gainDb: -11 }),
  'bowline/low-section': vary(bows, { oscillators: [osc('sawtooth', 1, 0.5, -5), osc('sawtooth', 0.5, 0.4, 4)], filter: { type: 'lowpass', hz: 950, velocityHz: 1200 } }),
  'bowline/single-fiddle': vary(bows, { oscillators: [osc('sawtooth', 1, 0.7), osc('square', 1, 0.1)], envelope: { attackS: 0.09, releaseS: 0.2 }, vibrato: { hz: 5.8, cents: 16 }, filter: { type: 'bandpass', hz: 1800, keyTrack: 0.5, q: 0.6 }, gainDb: -9 }),
  'quayside/stabs': vary(brass, { envelope: { attackS: 0.012, decayS: 0.22, sustain: 0.45, releaseS: 0.08 } }),
  'quayside/swell-section': vary(brass, { envelope: { attackS: 0.22 }, filter: { type: 'lowpass', hz: 450, keyTrack: 0.8, velocityHz: 3000, sweepHz: -200, sweepS: 0.6 } }),
  'quayside/soft-horns': vary(brass, { oscillators: [osc('triangle', 1, 0.8), osc('sawtooth', 1, 0.2, 3)], envelope: { attackS: 0.08, releaseS: 0.25 }, filter: { type: 'lowpass', hz: 700, velocityHz: 900 } }),
  'quayside/town-band': vary(brass, { oscillators: [osc('sawtooth', 1, 0.4, -11), osc('sawtooth', 1, 0.4, 12), osc('square', 1, 0.2)] }),
  'quayside/low-brass': vary(brass, { oscillators: [osc('sawtooth', 0.5, 0.6, -3), osc('sawtooth', 1, 0.35, 4)], filter: { type: 'lowpass', hz: 380, velocityHz: 1700, sweepHz: 900, sweepS: 0.2 } }),
  'quayside/muted': vary(brass, { filter: { type: 'bandpass', hz: 1500, keyTrack: 0.4, q: 2.4 }, envelope: { attackS: 0.02 }, gainDb: -7 }),
  'bellrope/music-box': vary(bell, { oscillators: bellPartials([1, 4, 6.3], 1.1), envelope: { decayS: 1.6, releaseS: 0.8 } }),
  'bellrope/bell-buoy': vary(bell, { oscillators: bellPartials([0.5, 1, 1.19, 1.56, 2, 2.51], 4) }),
  'bellrope/chapel-bell': vary(bell, { oscillators: bellPartials([0.5, 1, 1.2, 1.5, 2, 2.67, 3.01], 6), envelope: { decayS: 7, releaseS: 3 } }),
  'bellrope/handbells': vary(bell, { oscillators: bellPartials([1, 3, 5.9], 1.9) }),
  'bellrope/glass-chime': vary(bell, { oscillators: bellPartials([2, 5.4, 8.2, 11.3], 2.2), gainDb: -14 }),
  'bellrope/ship-bell': vary(bell, { oscillators: bellPartials([1, 1.5, 2.02, 2.74, 4.1], 2.6), noise: { gain: 0.08, decayS: 0.03, hz: 5200 } }),
  'keelson/round': bass,
  'keelson/upright': vary(bass, { oscillators: [osc([0, 1, 0.5, 0.3, 0.1])], envelope: { decayS: 0.9, sustain: 0.1 }, noise: { gain: 0.07, decayS: 0.02, hz: 900 } }),
  'keelson/picked': vary(bass, { oscillators: [osc('sawtooth', 1, 0.45), osc('triangle', 1, 0.5)], filter: { type: 'lowpass', hz: 700, velocityHz: 1900, sweepHz: 1300, sweepS: 0.09 }, envelope: { sustain: 0.25 } }),
  'keelson/sub': vary(bass, { oscillators: [osc('sine', 1, 1), osc('sine', 0.5, 0.4)], envelope: { attackS: 0.01, sustain: 0.9 } }),
  'keelson/growl': vary(bass, { oscillators: [osc('sawtooth', 1, 0.5, -5), osc('square', 1, 0.4, 6)], filter: { type: 'lowpass', hz: 260, velocityHz: 900, sweepHz: 1400, sweepS: 0.3, q: 6 }, gainDb: -9 }),
  'keelson/rubber': vary(bass, { oscillators: [{ ...osc('sine'), fm: { ratio: 1, index: 1.6, decayS: 0.18, sustain: 0.1 } }], envelope: { sustain: 0.5 } }),
  'fogbank/harbour': pad,
  'fogbank/low-cloud': vary(pad, { oscillators: [osc('triangle', 0.5, 0.6, -5), osc('triangle', 1, 0.5, 6)], filter: { type: 'lowpass', hz: 600 }, gainDb: -12 }),
  'fogbank/dawn': vary(pad, { oscillators: [osc('sawtooth', 1, 0.25, -11), osc('sawtooth', 2, 0.12, 9), osc('triangle', 1, 0.4)], filter: { type: 'lowpass', hz: 700, sweepHz: 1800, sweepS: 3 } }),
  'fogbank/choir-of-gulls': vary(pad, { oscillators: [osc('sawtooth', 1, 0.5, -8), osc('sawtooth', 1, 0.5, 8)], filter: { type: 'bandpass', hz: 1000, q: 1.6 }, vibrato: { hz: 4.7, cents: 11 }, envelope: { attackS: 0.4 }, gainDb: -9 }),
  'fogbank/warm-hold': vary(pad, { oscillators: [osc([0, 1, 0.5, 0.25, 0.1], 1, 0.5, -6), osc([0, 1, 0.4, 0.2], 0.5, 0.5, 5)], envelope: { attackS: 0.6, releaseS: 2.4 } }),
  'fogbank/ice': vary(pad, { oscillators: [osc('sine', 2, 0.4, -4), osc('sine', 3.01, 0.2, 5), osc('triangle', 1, 0.4)], filter: { type: 'highpass', hz: 400 }, envelope: { attackS: 0.5 } }),
  'fogbank/undertow': vary(pad, { oscillators: [osc('square', 0.5, 0.3, -7), osc('sawtooth', 0.5, 0.3, 8)], filter: { type: 'lowpass', hz: 340, sweepHz: 700, sweepS: 2.2, q: 4 }, gainDb: -11 }),
  'slipway/marimba': bar,
  'slipway/kalimba': vary(bar, { oscillators: [{ wave: 'sine', ratio: 1, gain: 1, decayS: 1.4 }, { wave: 'sine', ratio: 5.8, gain: 0.2, decayS: 0.1 }], noise: { gain: 0.06, decayS: 0.02, hz: 3000 } }),
  'slipway/boat-ribs': vary(bar, { oscillators: [{ wave: 'triangle', ratio: 1, gain: 0.9, decayS: 0.3 }, { wave: 'sine', ratio: 2.6, gain: 0.4, decayS: 0.1 }], envelope: { decayS: 0.4 } }),
  'slipway/bottle': vary(bar, { oscillators: [{ wave: 'sine', ratio: 1, gain: 1 }], envelope: { attackS: 0.03, decayS: 0.5, sustain: 0.25, releaseS: 0.2 }, noise: { gain: 0.12, decayS: 0.3, hz: 1200, q: 3, sustain: 0.1 } }),
  'slipway/wet-wood': vary(bar, { drop: { from: 1.35, s: 0.09 }, envelope: { decayS: 0.35 } }),
  'slipway/pebbles': vary(bar, { oscillators: [{ wave: 'sine', ratio: 2.4, gain: 0.9, decayS: 0.1 }, { wave: 'sine', ratio: 6.1, gain: 0.4, decayS: 0.05 }], envelope: { decayS: 0.16 }, noise: { gain: 0.12, decayS: 0.01, hz: 4200 } }),
  'wicklight/flame': lead,
  'wicklight/whistle': vary(lead, { oscillators: [osc('sine', 2, 0.9), osc('triangle', 2, 0.2, 3)], noise: { gain: 0.05, decayS: 0.2, hz: 5000, sustain: 0.3 }, filter: undefined, vibrato: { hz: 5.5, cents: 14 }, gainDb: -10 }),
  'wicklight/square-lantern': vary(lead, { oscillators: [osc('square', 1, 0.7)], filter: { type: 'lowpass', hz: 2600, keyTrack: 0.5 } }),
  'wicklight/reedy': vary(lead, { oscillators: [osc([0, 1, 0.1, 0.7, 0.1, 0.5, 0.1, 0.3])], filter: { type: 'lowpass', hz: 3000, velocityHz: 1500 }, envelope: { attackS: 0.04 } }),
  'wicklight/fifth-lamp': vary(lead, { oscillators: [osc('sawtooth', 1, 0.5), osc('sawtooth', 1.4983, 0.4, 4)] }),
  'wicklight/thin-beam': vary(lead, { oscillators: [osc('sawtooth', 1, 0.6)], filter: { type: 'highpass', hz: 900, q: 1 }, gainDb: -11 }),
  'deckhand/boots-and-boxes': kitOf(kick, box, kick, box, tom, hat, tom, hat, tom, hat, tom, hat),
  'deckhand/foghorn': { oscillators: [osc('sawtooth', 1, 0.5, -5), osc('sawtooth', 1.5, 0.3, 6), osc('square', 0.5, 0.3)], envelope: env(0.25, 0.4, 0.95, 0.7), filter: { type: 'lowpass', hz: 420, sweepHz: 300, sweepS: 0.5 }, drop: { from: 1.06, s: 0.4 }, transpose: 12, gainDb: -8, touch: 0.3 },
  'deckhand/brushes': kitOf(kick, brush, brush, brush, tom, hat, tom, hat, tom, brush, tom, hat),
  'deckhand/hand-drums': kitOf(tom, box, tom, box, kick, tom, tom, tom, box, tom, tom, box),
  'deckhand/big-hits': kitOf(hit, vary(hit, { transpose: 3 }), vary(hit, { transpose: 5 }), vary(hit, { transpose: 7 })),
  'deckhand/clicks': kitOf(click, vary(click, { transpose: 5 }), hat, box),
};
