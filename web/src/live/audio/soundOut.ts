import type { Effect, Instrument, NoteValue, Send, SharedEffect, SoundDevice } from '@rackle/core';
import type { Levels } from '../door';

/**
 * Where the host's notes sound: the rack of instruments of this machine, or a stand-in for tests. Destinations are
 * those of the engine's book.
 */
export interface SoundOut {
  /**
   * The stored instruments: own presets, banks, recordings. What was made of an older state of them sounds like the
   * newer.
   */
  know(instruments: readonly Instrument[]): void;
  /** Gets a layer's sound ready; until it is, `onReady` has said false. @returns whether it was not there before. */
  prepare(destination: number, instrumentId: string, presetId: string, name: string): boolean;
  /**
   * Lets go of every layer but these, as soon as it is silent: of what was heard in passing, or has been taken out of
   * its song.
   */
  keepOnly(destinations: ReadonlySet<number>): void;
  /** Later notes of a layer sound with another preset; those that sound end in the old one. */
  changePreset(destination: number, instrumentId: string, presetId: string): void;
  /** Leads a layer to an output by its name; one that is not there is the first. */
  route(destination: number, output: string): void;
  /** Effects of a layer, in series; the same ones glide to other settings within `rampMs`. */
  effects(destination: number, effects: readonly Effect[], rampMs: number): void;
  /** How much of a layer goes to shared effects, by name. */
  sends(destination: number, sends: readonly Send[], rampMs: number): void;
  /** Live sound through a layer, while it is open; `input` null: none. */
  live(destination: number, input: string | null, mono: boolean, open: boolean): void;
  send(destination: number, status: number, data1: number, data2: number): void;
  balance(destination: number, levelDb: number, pan: number, room: number, echo: number, rampMs: number): void;
  fade(destination: number, fadeMs: number): void;
  /** A value of the whole output, by its place in core's `WHOLE_VALUES`. */
  whole(which: number, value: number): void;
  setTempo(bpm: number): void;
  setEchoNote(note: NoteValue): void;
  /** Effects that layers are sent to by name, and those on the whole of each output. */
  setSharedEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void;
  setOutputs(device: SoundDevice): void;
  /** Whether the simulated audio input plays its loop. */
  setBenchLoop(on: boolean): void;
  /** A steady tone on one output, by name; null ends it. */
  testTone(output: string | null): void;
  levels(destinations: readonly number[]): Omit<Levels, 'delay'>;
  /** From a sound being made to its leaving the machine, in ms, as the browser says. */
  delayMs(): number;
  /** Peaks of the output over the last blocks, linear; for tests that listen. */
  outputPeak(): number;
  /** The clock of the sound. */
  seconds(): number;
}

/** What the sound tells its host. */
export interface SoundTold {
  /** Whether a layer's sound is loaded. */
  onReady(destination: number, ready: boolean): void;
  /** What the player should read: a sound that cannot be loaded, an input that howls. */
  onTrouble(text: string): void;
}
