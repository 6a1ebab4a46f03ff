import type { SoundDevice } from '@rackle/core';
import type { Levels } from '../door';

/** Where the host's notes sound: the rack of built-in instruments, or a stand-in for tests. Destinations are those of the engine's book. */
export interface SoundOut {
  /** Gets a layer's sound ready; does nothing when it is. */
  prepare(destination: number, instrumentId: string, presetId: string, name: string): void;
  /** Later notes of a layer sound with another preset; those that sound end in the old one. */
  changePreset(destination: number, instrumentId: string, presetId: string): void;
  /** Leads a layer to an output by its name; one that is not there is the first. */
  route(destination: number, output: string): void;
  send(destination: number, status: number, data1: number, data2: number): void;
  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void;
  fade(destination: number, fadeMs: number): void;
  /** A value of the whole output, by its place in core's `WHOLE_VALUES`. */
  whole(which: number, value: number): void;
  setTempo(bpm: number): void;
  setOutputs(device: SoundDevice): void;
  /** A steady tone on one output, by name; null ends it. */
  testTone(output: string | null): void;
  levels(destinations: readonly number[]): Omit<Levels, 'delay'>;
  /** From a sound being made to its leaving the machine, in ms, as the browser says. */
  delayMs(): number;
  /** Peaks of the output over the last blocks, linear; for tests that listen. */
  outputPeak(): number;
}
