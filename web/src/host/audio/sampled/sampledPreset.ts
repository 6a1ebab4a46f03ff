import type { Modulation } from './modulations';
import type { Ringing } from './ringOn';

/** Samples as they come from a worker or a decoder: one channel each, or two that are played together. */
export interface SampleData {
  /** The same for the same numbers, within one file. */
  id: string;
  frames: number;
  sides: 1 | 2;
  /** None where whoever asked has them. */
  channels: Float32Array<ArrayBuffer>[];
  sampleRate: number;
}

/**
 * Times of an envelope in seconds. Hold and decay are as given at key 60, and so many cents shorter (as a ratio) for
 * each key above it.
 */
export interface EnvelopeTimes {
  delayS: number;
  attackS: number;
  holdS: number;
  decayS: number;
  releaseS: number;
  holdCentsPerKey: number;
  decayCentsPerKey: number;
}

/** A slow triangle that begins after a delay; depths are what it moves at its ends. */
export interface Wave {
  delayS: number;
  rateHz: number;
  pitchCents: number;
  filterCents: number;
  levelDb: number;
}

/** Keys and velocities that play one sample, and how. Times in seconds, both ends inclusive. */
export interface SampleZone {
  lowKey: number;
  highKey: number;
  lowVelocity: number;
  highVelocity: number;
  /** Place in the preset's samples. */
  sample: number;
  /** Frames of the sample that are played, from the first to before the last. */
  start: number;
  end: number;
  rootKey: number;
  tuneCents: number;
  /** Cents a key; 0: every key plays it as it is. */
  centsPerKey: number;
  /** Sample frames from the start; null: it plays to its end. */
  loop: { start: number; end: number } | null;
  /** Whatever is played, it sounds as this key, or this velocity; null: as what is played. */
  fixedKey: number | null;
  fixedVelocity: number | null;
  /** A loop that is left when the key is. */
  loopsWhileHeld: boolean;
  /** Where a long sample was cut, and how it falls from there. */
  ringing: Ringing | null;
  /** What its maker says, and what is ours on top. */
  levelDb: number;
  gainDb: number;
  /** −1 to 1. */
  pan: number;
  /** Decay and release are the times in which it falls by 96 dB, the range of sixteen bits. */
  envelope: EnvelopeTimes & { sustainDb: number };
  /** A second envelope that moves pitch and filter; it stays at `sustain` of its height. */
  sweep: (EnvelopeTimes & { sustain: number; pitchCents: number; filterCents: number }) | null;
  waves: readonly Wave[];
  filterHz: number | null;
  resonanceDb: number;
  /** Zones of one group silence each other; 0: none. */
  group: number;
  /** What moves with key and velocity. */
  modulations: readonly Modulation[];
}

/** A preset of a bank, or a recording, ready to be played. */
export interface SampledPreset {
  zones: SampleZone[];
  samples: SampleData[];
}
