import type { Effect, Instrument, NoteValue, Send, SharedEffect, SoundDevice } from '@rackle/core/show';
import type { Levels } from '../../protocol';
import type { LoadOrder } from './loadOrder';

/** A layer's sound as it begins. */
export interface LayerAbout {
  layerId: string;
  instrumentId: string;
  presetId: string;
  /** Its own effects, as they are to stand. */
  effects: readonly Effect[];
}

/** Sounds that are needed first, and the stored instruments that they may be of. */
export interface UnderHands {
  instruments: readonly Instrument[];
  sounds: readonly { instrumentId: string; presetId: string }[];
}

/**
 * Where the host's notes sound: the rack of instruments of this machine, or a stand-in for tests. Destinations are
 * those of the engine's registry.
 */
export interface SoundOut {
  /**
   * The stored instruments: own presets, banks, recordings. What was made of an older state of them sounds like the
   * newer.
   */
  know(instruments: readonly Instrument[]): void;
  /**
   * Makes a layer's sound in small steps, each of a millisecond or two. After the first it takes notes, bare of its
   * effects; after the last its whole chain stands. One that is given up halfway is let go of by `drop`.
   */
  build(destination: number, about: LayerAbout): Iterator<void>;
  /** Lets go of a layer if nothing sounds in it any more. @returns whether it is gone. */
  drop(destination: number): boolean;
  /** Ends what runs by itself where all is silent. To be called now and then. */
  rest(): void;
  /** Later notes of a layer sound with another preset; those that sound end in the old one. */
  changePreset(destination: number, instrumentId: string, presetId: string): void;
  /** What may be in memory, and in which order it is needed from here on. */
  follow(order: LoadOrder): void;
  /** Loads one more of what is needed later, where there is room. To be called now and then. */
  loadAhead(): void;
  /** Keys of what is in memory, as the plan of the evening has them. */
  resident(): string[];
  /** A layer that still loads is needed before all others. */
  hurry(destination: number): void;
  /** Leads a layer to an output by its name; one that is not there is the first. */
  route(destination: number, output: string): void;
  /** Effects of a layer, in series; the same ones glide to other settings within `rampMs`. */
  effects(destination: number, effects: readonly Effect[], rampMs: number): void;
  /** One parameter of an effect, by hand, over what was told last; destination −1: of an effect of the setlist. */
  effectValue(destination: number, effectId: string, parameter: string, value: number): void;
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
  setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void;
  setOutputs(device: SoundDevice): void;
  /** Whether the simulated audio input plays its loop. */
  setBenchLoop(on: boolean): void;
  /** A steady tone on one output, by name; null ends it. */
  testTone(output: string | null): void;
  /** A click on one output, by name, after so many ms; one that is not there is the first. */
  click(output: string, isAccent: boolean, levelDb: number, afterMs: number): void;
  levels(destinations: readonly number[]): Omit<Levels, 'delay'>;
  /** From a sound being made to its leaving the machine, in ms, as the browser says. */
  delayMs(): number;
  /** Peaks of the output over the last blocks, linear; for tests that listen. */
  outputPeak(): number;
  /** The clock of the sound. */
  seconds(): number;
  /** Whether anything can be heard: browsers may want a click first, and machines may interrupt. */
  readonly isRunning: boolean;
  /** Tries to go on. */
  resume(): void;
}

/** What the sound tells its host. */
export interface SoundTold {
  /** Whether what a layer is to sound like is loaded. */
  onLoaded(destination: number, loaded: boolean): void;
  /** What the player should read: a sound that cannot be loaded, an input that howls. */
  onTrouble(text: string): void;
  /** Whether anything can be heard has changed. */
  onRunning(isRunning: boolean): void;
}
