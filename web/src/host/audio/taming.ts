import type { MaterialEffect } from './materials/material';

/** With a knee of 30 dB it is at work from here on, and most where several loud keys meet. */
const THRESHOLD_DB = -20;
/** By so much a ratio without end would lower a peak of 4.5 dB above full scale. */
const MOST_DB = 10;
const HIGHEST_RATIO = 20;
const RELEASE_MS = 150;
/** Where it has to do the most, what rings after the blow comes back at once. */
const STRONG_DB = 9;
const STRONG_RELEASE_MS = 40;
/** More than that it cannot do. */
export const MOST_TAMED_DB = 9.5;

/** What goes on sounding by itself comes after it, and what has the last word. */
const BEHIND = new Set(['delay', 'reverb', 'limiter']);

/**
 * Effects of a preset whose attacks stand high above the rest, with what keeps its peaks in bounds: a compressor that
 * takes hold at once. What is played alone hardly moves it. @param db by how much it lowers the loudest chords, roughly;
 * 0: there is none
 */
export function tamed(effects: readonly MaterialEffect[], db: number): readonly MaterialEffect[] {
  if (db <= 0) return effects;
  const behind = effects.findIndex(({ kind }) => BEHIND.has(kind));
  const at = behind < 0 ? effects.length : behind;
  return [...effects.slice(0, at), taming(db), ...effects.slice(at)];
}

const taming = (db: number): MaterialEffect => ({
  kind: 'compressor',
  thresholdDb: THRESHOLD_DB,
  ratio: Math.min(HIGHEST_RATIO, 1 / Math.max(1 / HIGHEST_RATIO, 1 - db / MOST_DB)),
  attackMs: 0,
  releaseMs: db > STRONG_DB ? STRONG_RELEASE_MS : RELEASE_MS,
  makeUpDb: 0,
});
