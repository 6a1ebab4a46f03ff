import type { HandNote } from '@rackle/core/timeline';

const KEY = 'rackle.played';
const MOST_RUNS = 3;
const MOST_SONGS = 40;

/** By song: what hands played in its last runs, the last one first. */
export type PlayedRuns = Readonly<Record<string, readonly (readonly HandNote[])[]>>;

/** With one run more; of the songs those stay that were played last. */
export function withRun(runs: PlayedRuns, songId: string, notes: readonly HandNote[]): PlayedRuns {
  const { [songId]: of = [], ...others } = runs;
  const kept = Object.entries(others).slice(0, MOST_SONGS - 1);
  return Object.fromEntries([[songId, [notes, ...of].slice(0, MOST_RUNS)] as const, ...kept]);
}

/** What this browser has kept; what cannot be read counts as nothing. */
export function readPlayedRuns(from: Pick<Storage, 'getItem'> = localStorage): PlayedRuns {
  try {
    const flat = JSON.parse(from.getItem(KEY) ?? '{}') as Record<string, number[][]>;
    return Object.fromEntries(
      Object.entries(flat).map(([songId, runs]) => [
        songId,
        runs.map((run) =>
          Array.from({ length: run.length >> 1 }, (_, i) => ({ atTick: run[2 * i], key: run[2 * i + 1] })),
        ),
      ]),
    );
  } catch {
    return {};
  }
}

/** As pairs of tick and key, which take little room. */
export function keepPlayedRuns(runs: PlayedRuns, to: Pick<Storage, 'setItem'> = localStorage): void {
  try {
    const flat = Object.entries(runs).map(([songId, of]) => [
      songId,
      of.map((run) => run.flatMap(({ atTick, key }) => [atTick, key])),
    ]);
    to.setItem(KEY, JSON.stringify(Object.fromEntries(flat)));
  } catch {
    // No room or no permission: the lead then knows the notes of the timeline alone.
  }
}
