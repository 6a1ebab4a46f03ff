import type { Levels } from '../door';

/** What sounds: the built-in layers, by destination of the engine's book. Messages take effect at once. */
export interface SoundOut {
  /** Makes a layer's sound ready to play. */
  prepare(destination: number, instrumentId: string, presetId: string, name: string): void;
  send(destination: number, status: number, data1: number, data2: number): void;
  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void;
  fade(destination: number, fadeMs: number): void;
  setTempo(bpm: number): void;
  levels(destinations: readonly number[]): Levels;
  /** Peaks of the output over the last blocks, linear; for tests that listen. */
  outputPeak(): number;
}
