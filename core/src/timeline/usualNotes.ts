import { TICKS_PER_QUARTER } from '../show';

/** A note that hands have played while a timeline ran; the key after the keyboard's own shift. */
export interface HandNote {
  atTick: number;
  key: number;
}

/** Played this near it is the same note. */
const NEAR_TICKS = TICKS_PER_QUARTER / 2;

/**
 * What a player usually plays: of the last run those notes that at least half of all runs have, by key, about there.
 * @param runs the last one first
 */
export function usualNotes(runs: readonly (readonly HandNote[])[]): HandNote[] {
  const [last, ...earlier] = runs;
  if (last === undefined) return [];
  const has = (run: readonly HandNote[], { key, atTick }: HandNote): boolean =>
    run.some((note) => note.key === key && Math.abs(note.atTick - atTick) <= NEAR_TICKS);
  return last.filter((note) => 2 * (1 + earlier.filter((run) => has(run, note)).length) >= runs.length);
}
