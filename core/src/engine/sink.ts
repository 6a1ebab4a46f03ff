import type { Effect } from '../show';

/**
 * Where the engine's output goes. Its methods are on the playing path: they must not throw, await or keep what they are
 * given.
 * `clock[0]` is the time of the message in ms; it stands in an array so that handing it on allocates nothing.
 */
export interface EngineSink {
  /** A channel message to a destination of the `Book`; `status` carries the channel (0–15). */
  send(destination: number, status: number, data1: number, data2: number, clock: Float64Array): void;
  /** System exclusive, without F0 and F7. */
  sendSysex(destination: number, bytes: Uint8Array, clock: Float64Array): void;
  /**
   * Built-in layers: from `values[at]` on, level in dB, pan −100…100, and the two sends in per cent (reverb, tempo
   * delay),
   * to be reached within `rampMs`.
   */
  balance(destination: number, values: Float64Array, at: number, rampMs: number, clock: Float64Array): void;
  /**
   * Built-in layers: their own effects from here on, settings to be reached within `rampMs` where they can glide. Equal
   * calls may come again.
   */
  effects(destination: number, effects: readonly Effect[], rampMs: number, clock: Float64Array): void;
  /**
   * One parameter of an effect (`on`: 0 or 1) of a layer, moved by hand until `effects` is called again; destination
   * −1: of an effect of the setlist, for good.
   */
  effectValue(destination: number, effectId: string, parameter: string, value: number, clock: Float64Array): void;
  /** Built-in layers: every voice that sounds now fades to silence in `fadeMs`; later voices are not touched. */
  fade(destination: number, fadeMs: number, clock: Float64Array): void;
  /** Built-in layers: later notes sound with this preset of the instrument, counted from 0 in its list. */
  preset(destination: number, preset: number, clock: Float64Array): void;
  /** A value of the whole output, by its place in `WHOLE_VALUES`; −60 dB is silence. */
  whole(which: number, value: number, clock: Float64Array): void;
  /** The tempo of effects and of whatever counts in beats, in quarter notes a minute. */
  tempo(bpm: number, clock: Float64Array): void;
}

/** Order of the values that `whole` is called with, and what they are to begin with. */
export const WHOLE_VALUES = ['levelDb', 'roomDb', 'echoDb', 'echoRepeats'] as const;
export const WHOLE_DEFAULTS: readonly number[] = [0, 0, 0, 34];
