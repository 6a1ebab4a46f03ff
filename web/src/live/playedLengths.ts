const KEY = 'rackle.lengths';
const MOST_OF_A_SONG = 5;
const MOST_SONGS = 500;
/** Of the length that a song has: shorter was only looked at, longer had a break behind it. */
const SHORTEST = 0.6;
const LONGEST = 1.8;

/** By song: how long it was really played, in seconds, the last time first. */
export type PlayedLengths = Readonly<Record<string, readonly number[]>>;

/** A song that is played, and how long it is said to be. */
export interface SongNow {
  songId: string;
  entryId: string;
  /** As it stands in the setlist tonight. */
  seconds: number;
}

/** Follows what is recalled: from the first recall of an entry to that of the next one its song was played. */
export class LengthsLearnt {
  private now: (SongNow & { sinceMs: number }) | null = null;

  /** @returns how long the song before was really played, as this one begins; null: nothing is known of it */
  recalled(song: SongNow | null, atMs: number): { songId: string; share: number } | null {
    const last = this.now;
    if (last !== null && song !== null && last.entryId === song.entryId) return null;
    this.now = song && { ...song, sinceMs: atMs };
    if (last === null || last.seconds === 0) return null;
    const share = (atMs - last.sinceMs) / 1000 / last.seconds;
    return share >= SHORTEST && share <= LONGEST ? { songId: last.songId, share } : null;
  }
}

/** With one more of a song; of the songs those stay that were played last. */
export function withLength(lengths: PlayedLengths, songId: string, seconds: number): PlayedLengths {
  const { [songId]: of = [], ...others } = lengths;
  const kept = Object.entries(others).slice(0, MOST_SONGS - 1);
  return Object.fromEntries([[songId, [seconds, ...of].slice(0, MOST_OF_A_SONG)] as const, ...kept]);
}

/** Median of how long a song was played; null: it was not. */
export function learntSeconds(lengths: PlayedLengths, songId: string): number | null {
  const sorted = [...(lengths[songId] ?? [])].sort((a, b) => a - b);
  if (sorted.length === 0) return null;
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** What this browser has kept; what cannot be read counts as nothing. */
export function readLengths(from: Pick<Storage, 'getItem'> = localStorage): PlayedLengths {
  try {
    const read = JSON.parse(from.getItem(KEY) ?? '{}') as Record<string, unknown>;
    return Object.fromEntries(
      Object.entries(read).flatMap(([songId, of]) =>
        Array.isArray(of) && of.every((one) => typeof one === 'number' && one > 0) ? [[songId, of as number[]]] : [],
      ),
    );
  } catch {
    return {};
  }
}

/** Keeps them; without room or permission nothing is learnt. */
export function keepLengths(lengths: PlayedLengths, to: Pick<Storage, 'setItem'> = localStorage): void {
  try {
    to.setItem(KEY, JSON.stringify(lengths));
  } catch {
    // The lengths that are typed stay what they are.
  }
}
