import type { EntryId } from './model/ids';
import type { Setlist } from './model/setlist';
import type { Song } from './model/song';
import { finishingTimes } from './playingOrder';
import { secondsOf } from './songTonight';

const DAY_MINUTES = 1440;

const minutesOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** Minutes after the midnight before the set; a curfew earlier in the day than the start is on the next day. Null: there is none. */
export const curfewMinutes = ({ curfew, startsAt }: Pick<Setlist, 'curfew' | 'startsAt'>): number | null =>
  curfew === null ? null : minutesOf(curfew) + (minutesOf(curfew) < minutesOf(startsAt) ? DAY_MINUTES : 0);

/** More songs than this nobody drops to be home in time. */
const MOST_DROPPED = 3;
/** Sums of so many songs are gone through. */
const MOST_TRIED = 60;

/** Times are in minutes: what differs by less is the same. */
const SAME_SECONDS = 1e-6;

/**
 * Which songs to leave out so that the evening is over before its curfew: as few as can be, and of those the ones that
 * leave the least time unused. The song played first and the one played last stay, where there is a choice.
 * @returns null where it is over in time, or there is no curfew; an empty list where even three songs are not enough
 */
export function songsToDrop(
  setlist: Pick<Setlist, 'entries' | 'startsAt' | 'curfew'>,
  songs: Readonly<Record<string, Song>>,
): EntryId[] | null {
  const curfew = curfewMinutes(setlist);
  if (curfew === null) return null;
  const lateSeconds = (finishingTimes(setlist, songs).overAt - curfew) * 60;
  if (lateSeconds < SAME_SECONDS) return null;
  const played = setlist.entries.flatMap((entry) =>
    entry.kind === 'song' && !entry.skip && entry.songId in songs
      ? [{ id: entry.id, seconds: secondsOf(entry, songs) }]
      : [],
  );
  const inner = played.slice(1, -1);
  return fewest(inner.slice(0, MOST_TRIED), lateSeconds) ?? fewest(played.slice(0, MOST_TRIED), lateSeconds) ?? [];
}

/** The fewest of some songs that take so long together, and of as few the shortest. */
function fewest(songs: readonly { id: EntryId; seconds: number }[], seconds: number): EntryId[] | null {
  for (let count = 1; count <= MOST_DROPPED; count++) {
    let best: { ids: EntryId[]; seconds: number } | null = null;
    const choose = (from: number, ids: EntryId[], sum: number): void => {
      if (ids.length === count) {
        if (sum > seconds - SAME_SECONDS && (best === null || sum < best.seconds)) best = { ids, seconds: sum };
        return;
      }
      for (let i = from; i < songs.length; i++) choose(i + 1, [...ids, songs[i].id], sum + songs[i].seconds);
    };
    choose(0, [], 0);
    if (best !== null) return (best as { ids: EntryId[] }).ids;
  }
  return null;
}
