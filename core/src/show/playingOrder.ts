import type { Setlist, SetlistEntry } from './model/setlist';
import type { Blend, Patch, Song } from './model/song';
import { secondsOf } from './songTonight';

/** A place in the setlist that can be recalled. `position` counts them from 0 and is the engine's. */
export interface Place {
  position: number;
  entry: Extract<SetlistEntry, { kind: 'song' }>;
  song: Song;
  patch: Patch;
  blend: Blend | null;
}

/** Every patch and blend in running order; songs that are not there are passed over. */
export function playingOrder({ entries }: Pick<Setlist, 'entries'>, songs: Readonly<Record<string, Song>>): Place[] {
  const places: Place[] = [];
  for (const entry of entries) {
    const song = entry.kind === 'song' ? songs[entry.songId] : undefined;
    if (entry.kind !== 'song' || !song) continue;
    for (const patch of song.patches) {
      for (const blend of [null, ...patch.blends]) places.push({ position: places.length, entry, song, patch, blend });
    }
  }
  return places;
}

/**
 * When each entry starts and the whole is over, in minutes after midnight (past 1440 the next day). What is skipped tonight
 * takes no time.
 */
export function finishingTimes(
  setlist: Pick<Setlist, 'entries' | 'startsAt'>,
  songs: Readonly<Record<string, Song>>,
): { startsAt: number[]; overAt: number; playsSeconds: number } {
  const [hours, minutes] = setlist.startsAt.split(':').map(Number);
  let seconds = (hours * 60 + minutes) * 60;
  let playsSeconds = 0;
  const startsAt = setlist.entries.map((entry) => {
    const start = seconds / 60;
    const length = secondsOf(entry, songs);
    if (entry.kind === 'song') playsSeconds += length;
    seconds += length;
    return start;
  });
  return { startsAt, overAt: seconds / 60, playsSeconds };
}
