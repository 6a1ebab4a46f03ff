import type { Audition, EntryMessage, PlainAction, PlayedBodies, ShowNews, SoundParameter } from '../show';

/** Where a set was left: enough to stand at the same patch with the same references after a restart. */
export interface LastPlace {
  setlistId: string;
  entryId: string;
  patchId: string;
  blendId: string | null;
  /** References of counting controllers. */
  counters: { device: string; channel: number; program: number }[];
  /** What hands had moved; without it everything stands as it is stored. */
  hands?: MovedByHand | null;
}

/** What hands have moved, by keys that outlast a restart: it is laid over the show again. */
export interface MovedByHand {
  /** By layer key: level in dB, pan, room and echo (null: as stored); mute, solo and preset (−1: as stored). */
  layers: {
    key: string;
    values: (number | null)[];
    mute: number;
    solo: number;
    preset: number;
    /** A bit for each of these that a recall leaves as the hand left it. */
    stays: number;
  }[];
  /** Parameters of effects; `key` null: of an effect of the setlist. */
  effects: { key: string | null; effectId: string; parameter: string; value: number; stays: boolean }[];
  /** The values of the whole output, and which of room and echo are off (1). */
  whole: number[];
  effectsOff: number[];
  /** Sound controllers (70–79) of the present patch's layers, by layer key. */
  parameters: { key: string; parameters: SoundParameter[] }[];
  /** Semitones. */
  transpose: number;
  /** Switches that latch and are down, by the key of their control. */
  latched: string[];
}

/**
 * All that can happen to the engine, as plain values: with its time each of them can be logged, sent to another machine,
 * and played again. Devices are named as the system names them; channels count from 0 within status bytes, from 1 where
 * they stand by themselves.
 */
export type EngineInput =
  /** A port message: channel messages and single-byte system messages. */
  | { type: 'message'; device: string; status: number; data1: number; data2: number }
  | { type: 'sysex'; device: string; length: number }
  /** A device comes or goes. */
  | { type: 'input'; device: string; here: boolean }
  | { type: 'output'; device: string; here: boolean }
  | { type: 'computerKey'; code: string; down: boolean }
  /** What a role would do, done by a page. */
  | { type: 'perform'; action: PlainAction }
  /**
   * A hand on a screen plays a role of the present patch, whether or not a control has it: its values stand at a share of
   * their ranges (0–1) from now on, or (null) its presses are done.
   */
  | { type: 'role'; role: string; share: number | null }
  /** A hand on a screen moves the level of a layer of the present patch, in dB. */
  | { type: 'fader'; layerId: string; levelDb: number }
  | { type: 'recall'; position: number }
  | { type: 'cursor'; position: number }
  | { type: 'locate'; tick: number }
  /** Plays a stretch of the present song over and over, without its end; null: on to the end. */
  | { type: 'loop'; range: { fromTick: number; toTick: number } | null }
  /** Goes on at another tick once the beat, bar or section has ended; null takes that back. */
  | { type: 'jump'; toTick: number | null; at: JumpAt }
  /** Selects an address on outboard gear by hand; bytes of null are not sent. */
  | {
      type: 'select';
      port: string;
      channel: number;
      msb: number | null;
      lsb: number | null;
      program: number | null;
      also: EntryMessage[];
    }
  /** Says where an instrument that is stepped by counting stands. */
  | { type: 'count'; instrumentId: string; count: number }
  /** Sound is made here from now on: a built-in layer is ready only once that has been said of it. */
  | { type: 'sound'; on: boolean }
  /** So much later than its message what sounds here is heard, as measured. */
  | { type: 'soundDelay'; delayMs: number }
  /** Whether a built-in layer's sound stands. */
  | { type: 'ready'; destination: number; ready: boolean }
  /** A whole show, and where in it to start (null: at its first step). */
  | { type: 'show'; show: PlayedShowParts; setlistId: string | null; place: LastPlace | null }
  /** What an edit has changed. */
  | { type: 'changed'; news: ShowNews; setlistId: string | null }
  /** A sound that is tried in the place of a layer's own; null ends it. */
  | { type: 'audition'; audition: Audition | null };

/** What a jump waits for: the next beat or bar, the end of the section, or nothing. */
export type JumpAt = 'now' | 'beat' | 'bar' | 'section';

/** What of a show can be played: no library, no shelves. */
export type PlayedShowParts = { [K in keyof PlayedBodies]: readonly PlayedBodies[K][string][] };

/** An input with its time, in ms from any start. */
export interface StampedInput {
  atMs: number;
  input: EngineInput;
}
