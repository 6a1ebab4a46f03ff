/** Samples as they come from a worker or a decoder: one channel each, or two that are played together. */
export interface SampleData {
  channels: Float32Array<ArrayBuffer>[];
  sampleRate: number;
}

/** Keys and velocities that play one sample, and how. Times in seconds, both ends inclusive. */
export interface SampleZone {
  lowKey: number;
  highKey: number;
  lowVelocity: number;
  highVelocity: number;
  /** Place in the preset's samples. */
  sample: number;
  rootKey: number;
  tuneCents: number;
  /** Cents a key; 0: every key plays it as it is. */
  centsPerKey: number;
  /** Sample frames from the start; null: it plays to its end. */
  loop: { start: number; end: number } | null;
  /** A loop that is left when the key is. */
  loopsWhileHeld: boolean;
  levelDb: number;
  /** −1 to 1. */
  pan: number;
  envelope: { delayS: number; attackS: number; holdS: number; decayS: number; sustainDb: number; releaseS: number };
  filterHz: number | null;
  resonanceDb: number;
  /** Zones of one group silence each other; 0: none. */
  group: number;
}

/** A preset of a bank, or a recording, ready to be played. */
export interface SampledPreset {
  zones: SampleZone[];
  samples: SampleData[];
}

export const bytesOf = ({ samples }: SampledPreset): number => samples.reduce((sum, { channels }) => sum + channels.reduce((inner, channel) => inner + channel.byteLength, 0), 0);
