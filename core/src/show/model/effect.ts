import { z } from 'zod';
import { EffectId } from './ids';
import { LevelDb, Name } from './values';

/** Note values that follow the tempo; a point makes it half as long again, t is a triplet. */
export const NOTE_VALUES = [
  '1/1',
  '1/2.',
  '1/2',
  '1/4.',
  '1/2t',
  '1/4',
  '1/8.',
  '1/4t',
  '1/8',
  '1/16.',
  '1/8t',
  '1/16',
  '1/16t',
  '1/32',
] as const;
/** A length in notes: 1/4, 1/8. (dotted), 1/8t (triplet) and so on. */
export const NoteValue = z.enum(NOTE_VALUES);
export type NoteValue = z.infer<typeof NoteValue>;

/** Length of a note value in quarter notes. */
export function quartersOf(note: NoteValue): number {
  const [, below, sign] = /^1\/(\d+)(\.|t)?$/.exec(note)!;
  return (4 / Number(below)) * (sign === '.' ? 1.5 : sign === 't' ? 2 / 3 : 1);
}

const Share = z.number().min(0, 'at least 0 %').max(100, 'at most 100 %');
const common = { id: EffectId, on: z.boolean().default(true) };
const GainDb = z.number().min(-18).max(18);
const RateHz = z.number().min(0.05).max(12);

/** One effect of a series. Shares in per cent; `mix` 100 is the effect alone. */
export const Effect = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('equaliser'),
    ...common,
    lowDb: GainDb.default(0),
    middleHz: z.number().min(150).max(8000).default(1000),
    middleDb: GainDb.default(0),
    highDb: GainDb.default(0),
  }),
  z.strictObject({ kind: z.literal('drive'), ...common, amount: Share.default(35), mix: Share.default(100) }),
  z.strictObject({
    kind: z.literal('chorus'),
    ...common,
    rateHz: RateHz.default(0.8),
    depth: Share.default(50),
    mix: Share.default(50),
  }),
  z.strictObject({
    kind: z.literal('phaser'),
    ...common,
    rateHz: RateHz.default(0.4),
    depth: Share.default(60),
    mix: Share.default(50),
  }),
  /** With a note value it follows the tempo; without, it goes at its own rate. */
  z.strictObject({
    kind: z.literal('tremolo'),
    ...common,
    note: NoteValue.nullable().default('1/8'),
    rateHz: RateHz.default(5),
    depth: Share.default(60),
  }),
  /** Two rotors of a speaker: a horn above, a drum below. At `speed` 0 they stand, at 50 they turn slowly, at 100 fast. */
  z.strictObject({
    kind: z.literal('rotary'),
    ...common,
    speed: Share.default(50),
    rampS: z.number().min(0.1).max(10).default(1),
    depth: Share.default(60),
  }),
  z.strictObject({
    kind: z.literal('delay'),
    ...common,
    note: NoteValue.default('1/8.'),
    repeats: z.number().min(0).max(95).default(35),
    mix: Share.default(30),
  }),
  z.strictObject({
    kind: z.literal('compressor'),
    ...common,
    thresholdDb: z.number().min(-60).max(0).default(-24),
    ratio: z.number().min(1).max(20).default(4),
    attackMs: z.number().min(0).max(100).default(6),
    releaseMs: z.number().min(20).max(2000).default(180),
    makeUpDb: z.number().min(0).max(24).default(3),
  }),
  z.strictObject({
    kind: z.literal('filter'),
    ...common,
    type: z.enum(['lowpass', 'highpass', 'bandpass']).default('lowpass'),
    hz: z.number().min(20).max(20_000).default(2000),
    resonance: Share.default(10),
  }),
  z.strictObject({
    kind: z.literal('reverb'),
    ...common,
    seconds: z.number().min(0.2).max(12).default(2),
    mix: Share.default(30),
  }),
  z.strictObject({ kind: z.literal('limiter'), ...common, ceilingDb: z.number().min(-24).max(0).default(-1) }),
]);
export type Effect = z.infer<typeof Effect>;

/** Every kind of effect. */
export const EFFECT_KINDS = Effect.options.map((option) => option.shape.kind.value);

/** An effect as it starts out. As a shared effect it is heard alone, without the sound that was sent to it. */
export function newEffect(kind: Effect['kind'], id: EffectId, isShared = false): Effect {
  const made = Effect.parse({ kind, id });
  return isShared && 'mix' in made ? { ...made, mix: 100 } : made;
}

/** What a blend changes of one effect: its switch, and parameters by name; what it does not name stays as it is. */
export const EffectChange = z.strictObject({
  effectId: EffectId,
  on: z.boolean().optional(),
  values: z.record(z.string().max(40), z.number().min(-1000).max(100_000)).default({}),
});
export type EffectChange = z.infer<typeof EffectChange>;

/** A series of effects that layers are sent to by its name. */
export const SharedEffect = z.strictObject({
  id: EffectId,
  name: Name,
  levelDb: LevelDb.default(0),
  effects: z.array(Effect).max(8).default([]),
});
export type SharedEffect = z.infer<typeof SharedEffect>;
