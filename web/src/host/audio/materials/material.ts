import type { Effect } from '@rackle/core/show';

type EffectAsMeant<Kind extends Effect> = Kind extends Effect
  ? Pick<Kind, 'kind'> & Partial<Omit<Kind, 'id' | 'kind'>>
  : never;
/** An effect whose other settings are as it starts out. */
export type MaterialEffect = EffectAsMeant<Effect>;

/** A preset of the shipped bank as a part of one of ours. */
export interface MaterialPart {
  program: number;
  /** As the bank has it: 128 is the drums, other numbers are variants. */
  bank?: number;
  levelDb?: number;
  semitones?: number;
  cents?: number;
  /** Moved to a side, −1 to 1. */
  pan?: number;
  /** Without what swells up behind each of its notes: where two parts sound, nobody hears it, and it costs as much. */
  withoutSwells?: true;
}

/**
 * How a preset sounds that is made of recorded material. Times in seconds; decays and releases are those in which it
 * falls by 60 dB. What is not named stays as the bank has it.
 */
export interface Material {
  parts: readonly MaterialPart[];
  /** Of several seconds' length at many keys: every other key is enough, and half the memory. */
  isLarge?: boolean;
  /** At least. */
  attackS?: number;
  /** Falls to nothing, however long it is held. */
  decayS?: number;
  releaseS?: number;
  /** Factors of all times of attack, decay, release. */
  times?: { attack: number; decay: number; release: number };
  /** At most so open at key 60 and velocity 127; cents a key, and how many lower at velocity 0. */
  filter?: { hz: number; centsPerKey?: number; softCents?: number };
  /** How much of what velocity does to the level is left, 1: all. */
  touch?: number;
  vibrato?: { hz: number; cents: number; delayS?: number };
  /** Goes to another pitch while it is held. */
  glide?: { afterS: number; overS: number; cents: number };
  effects?: readonly MaterialEffect[];
  /** So that it is as loud as all others, and in tune. */
  gainDb?: number;
  tuneCents?: number;
}

/** Where a blow is so short that nothing else holds it: a millisecond later, and never above. */
export const LIMITED = { kind: 'limiter', ceilingDb: -1 } as const;
