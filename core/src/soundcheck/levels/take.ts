import type { Effect, LayerSound, NoteValue, Send, SharedEffect } from '../../show';

/** A message to a built-in layer, ms from the beginning of a take. */
export type TakeMessage = readonly [atMs: number, status: number, data1: number, data2: number];

/** A built-in layer of a take: how it stands, and what it is sent. */
export interface TakeLayer extends Pick<LayerSound, 'instrumentId' | 'presetId'> {
  /** The same for the same preset of the player's own; null: it is none. */
  content: unknown;
  /** Level in dB, pan −100…100, and the sends to room and tempo delay in per cent. */
  balance: readonly [levelDb: number, pan: number, room: number, echo: number];
  effects: readonly Effect[];
  sends: readonly Send[];
  messages: TakeMessage[];
}

/**
 * A few keys struck in a patch, and all that the engine makes of them for the sound of this machine: enough to render it
 * anywhere. Plain and serialisable.
 */
export interface LevelTake {
  seconds: number;
  /** Quarter notes a minute. */
  bpm: number;
  /** Note value of the tempo delay; null: as it is to begin with. */
  echo: NoteValue | null;
  /** By `WHOLE_VALUES`. */
  whole: readonly number[];
  sharedEffects: readonly SharedEffect[];
  wholeEffects: readonly Effect[];
  layers: readonly TakeLayer[];
}

/** What is measured of a take. */
export interface LevelMeasured {
  /** The highest momentary loudness, in LUFS. */
  lufs: number;
  /** True peak, in dBTP. */
  peakDb: number;
}

/** The same for takes that sound alike. */
export const takeKey = (take: LevelTake): string => JSON.stringify(take);
