import type { Effect, NoteValue, Send, SharedEffect } from '../show';

/**
 * Where the engine's output goes: all that it wants done, complete. `Engine.retell` tells a new listener by the same
 * methods everything that holds now. Its methods are on the playing path: they must not throw, await or keep what they are
 * given.
 * `clock[0]` is the time of the message in ms; it stands in an array so that handing it on allocates nothing.
 */
export interface EngineSink {
  /** A channel message to a destination of the `Registry`; `status` carries the channel (0–15). */
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
  /** Built-in layers: how much goes to each shared effect, by name; to those that are not named, nothing. */
  sends(destination: number, sends: readonly Send[], rampMs: number, clock: Float64Array): void;
  /** Built-in layers: the output of the gear list that a layer sounds on, by name; one that is not there is the first. */
  route(destination: number, output: string, clock: Float64Array): void;
  /** Live sound through a layer while it is open; `input` null: none goes there any more. */
  live(destination: number, input: string | null, mono: boolean, open: boolean, clock: Float64Array): void;
  /** A click of the timeline, on an output of the gear list by name; accented on the first beat of a bar. */
  click(output: string, isAccent: boolean, levelDb: number, clock: Float64Array): void;
  /** Note value of the tempo delay that layers are sent to. */
  echo(note: NoteValue, clock: Float64Array): void;
  /** Effects that layers are sent to, and those on the whole output, with what hands have moved of them. */
  setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[], clock: Float64Array): void;
}

/** Hears nothing: for those that want a few of the methods. */
export class SilentSink implements EngineSink {
  send(_destination: number, _status: number, _data1: number, _data2: number, _clock: Float64Array): void {}
  sendSysex(_destination: number, _bytes: Uint8Array, _clock: Float64Array): void {}
  balance(_destination: number, _values: Float64Array, _at: number, _rampMs: number, _clock: Float64Array): void {}
  effects(_destination: number, _effects: readonly Effect[], _rampMs: number, _clock: Float64Array): void {}
  effectValue(
    _destination: number,
    _effectId: string,
    _parameter: string,
    _value: number,
    _clock: Float64Array,
  ): void {}
  fade(_destination: number, _fadeMs: number, _clock: Float64Array): void {}
  preset(_destination: number, _preset: number, _clock: Float64Array): void {}
  whole(_which: number, _value: number, _clock: Float64Array): void {}
  tempo(_bpm: number, _clock: Float64Array): void {}
  sends(_destination: number, _sends: readonly Send[], _rampMs: number, _clock: Float64Array): void {}
  route(_destination: number, _output: string, _clock: Float64Array): void {}
  live(_destination: number, _input: string | null, _mono: boolean, _open: boolean, _clock: Float64Array): void {}
  click(_output: string, _isAccent: boolean, _levelDb: number, _clock: Float64Array): void {}
  echo(_note: NoteValue, _clock: Float64Array): void {}
  setlistEffects(_shared: readonly SharedEffect[], _whole: readonly Effect[], _clock: Float64Array): void {}
}

/** Order of the values that `whole` is called with, and what they are to begin with. */
export const WHOLE_VALUES = ['levelDb', 'roomDb', 'echoDb', 'echoRepeats'] as const;
/** Where the values of the whole output stand before a hand moves them, by `WHOLE_VALUES`. */
export const WHOLE_DEFAULTS: readonly number[] = [0, 0, 0, 34];
