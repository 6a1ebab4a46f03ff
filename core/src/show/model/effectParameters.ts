import type { Effect, EffectChange } from './effect';

/** A setting of an effect that has a value: what controls move, and what blends change. */
export interface EffectParameter {
  /** Name of the field. */
  readonly name: string;
  readonly words: string;
  /** Ends, both inclusive, in the unit. */
  readonly low: number;
  readonly high: number;
  readonly unit: 'dB' | '%' | 'Hz' | ': 1' | 's' | 'ms';
}

/** The switch of every effect counts as a parameter with the values 0 and 1. */
export const ON = 'on';

const share = (name: string, words: string, high = 100): EffectParameter => ({ name, words, low: 0, high, unit: '%' });
const gain = (name: string, words: string, low = -18, high = 18): EffectParameter => ({
  name,
  words,
  low,
  high,
  unit: 'dB',
});
const rate: EffectParameter = { name: 'rateHz', words: 'rate', low: 0.05, high: 12, unit: 'Hz' };
const mix = share('mix', 'mix');

/** By kind, what of an effect can be moved: its range and unit. */
export const EFFECT_PARAMETERS: Readonly<Record<Effect['kind'], readonly EffectParameter[]>> = {
  equaliser: [
    gain('lowDb', 'low'),
    gain('middleDb', 'middle'),
    { name: 'middleHz', words: 'middle frequency', low: 150, high: 8000, unit: 'Hz' },
    gain('highDb', 'high'),
  ],
  drive: [share('amount', 'amount'), mix],
  chorus: [rate, share('depth', 'depth'), mix],
  phaser: [rate, share('depth', 'depth'), mix],
  tremolo: [rate, share('depth', 'depth')],
  rotary: [
    share('speed', 'speed'),
    { name: 'rampS', words: 'ramp', low: 0.1, high: 10, unit: 's' },
    share('depth', 'depth'),
  ],
  delay: [share('repeats', 'repeats', 95), mix],
  compressor: [
    gain('thresholdDb', 'threshold', -60, 0),
    { name: 'ratio', words: 'ratio', low: 1, high: 20, unit: ': 1' },
    { name: 'attackMs', words: 'attack', low: 0, high: 100, unit: 'ms' },
    { name: 'releaseMs', words: 'release', low: 20, high: 2000, unit: 'ms' },
    gain('makeUpDb', 'make-up', 0, 24),
  ],
  filter: [{ name: 'hz', words: 'frequency', low: 20, high: 20_000, unit: 'Hz' }, share('resonance', 'resonance')],
  reverb: [{ name: 'seconds', words: 'length', low: 0.2, high: 12, unit: 's' }, mix],
  limiter: [gain('ceilingDb', 'ceiling', -24, 0)],
};

/** One of them by its name. */
export const effectParameter = (kind: Effect['kind'], name: string): EffectParameter | null =>
  EFFECT_PARAMETERS[kind].find((parameter) => parameter.name === name) ?? null;

/** A parameter's present value; NaN when this kind of effect does not have it. @hotpath */
export function effectValue(effect: Effect, name: string): number {
  const value = (effect as unknown as Record<string, unknown>)[name];
  return typeof value === 'number' ? value : name === ON ? Number(effect.on) : NaN;
}

/** An effect with a parameter at another value, kept within its ends; the same effect when it has no such parameter. */
export function withEffectValue(effect: Effect, name: string, value: number): Effect {
  if (name === ON) return { ...effect, on: value >= 0.5 };
  const parameter = effectParameter(effect.kind, name);
  return parameter === null || Number.isNaN(value)
    ? effect
    : { ...effect, [name]: Math.min(parameter.high, Math.max(parameter.low, value)) };
}

/**
 * A series as changes leave it: the same series where nothing changes, the same effects that are not named. What is
 * named and not there is passed over.
 */
export function withEffectChanges(
  effects: readonly Effect[],
  changes: readonly EffectChange[] | undefined,
): readonly Effect[] {
  if (!changes?.some((change) => effects.some(({ id }) => id === change.effectId))) return effects;
  return effects.map((effect) => {
    const change = changes.find(({ effectId }) => effectId === effect.id);
    if (!change) return effect;
    const set = Object.entries(change.values).reduce(
      (current, [name, value]) => withEffectValue(current, name, value),
      effect,
    );
    return change.on === undefined ? set : { ...set, on: change.on };
  });
}

/** What leads from one state of a series to another: switches and parameters of the effects that are in both. */
export function effectChanges(from: readonly Effect[], to: readonly Effect[]): EffectChange[] {
  return from.flatMap((effect): EffectChange[] => {
    const other = to.find(({ id, kind }) => id === effect.id && kind === effect.kind);
    if (!other) return [];
    const values = Object.fromEntries(
      EFFECT_PARAMETERS[effect.kind]
        .map(({ name }) => [name, effectValue(other, name)] as const)
        .filter(([name, value]) => value !== effectValue(effect, name)),
    );
    const switched = other.on !== effect.on;
    return switched || Object.keys(values).length > 0
      ? [{ effectId: effect.id, ...(switched ? { on: other.on } : {}), values }]
      : [];
  });
}
