import type { OscillatorRecipe, Recipe } from '../recipe';

type Change = Omit<Partial<Recipe>, 'envelope'> & { envelope?: Partial<Recipe['envelope']> };

/** A recipe that differs from another one. */
export const vary = (base: Recipe, change: Change): Recipe => ({
  ...base,
  ...change,
  envelope: { ...base.envelope, ...change.envelope },
});
/** Attack, decay (s), sustain (0–1), release (s). */
export const env = (attackS: number, decayS: number, sustain: number, releaseS: number): Recipe['envelope'] => ({
  attackS,
  decayS,
  sustain,
  releaseS,
});
/** One oscillator: wave, ratio to the note, gain, detuning in cents. */
export const osc = (wave: OscillatorRecipe['wave'], ratio = 1, gain = 1, detuneCents = 0): OscillatorRecipe => ({
  wave,
  ratio,
  gain,
  detuneCents,
});
/** Drawbars from the lowest up, 0–8 each, as partials of half the note's frequency. */
export const bars = (...levels: number[]): number[] => {
  const partials = new Array<number>(17).fill(0);
  [1, 3, 2, 4, 6, 8, 10, 12, 16].forEach((partial, i) => {
    partials[partial] = (levels[i] ?? 0) / 8;
  });
  return partials;
};
/** Sines that die away the sooner the higher they are. */
export const bellPartials = (ratios: number[], decayS: number): OscillatorRecipe[] =>
  ratios.map((ratio, i) => ({ wave: 'sine', ratio, gain: 0.7 / (i + 1), decayS: decayS / (1 + i * 0.7) }));
/** Two reeds that beat against each other, so many cents apart each way. */
export const twoReeds = (cents: number): OscillatorRecipe[] => [
  osc('sawtooth', 1, 0.4, -cents),
  osc('sawtooth', 1, 0.4, cents),
  osc('square', 1, 0.15),
];
