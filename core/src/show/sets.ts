import type { Setlist, SetlistEntry } from './model/setlist';
import type { Song } from './model/song';
import { finishingTimes } from './playingOrder';
import { songTonight } from './songTonight';

type SongEntry = Extract<SetlistEntry, { kind: 'song' }>;

/** A song of a set as it is played tonight. */
export interface SetSong {
  /** Counted through the evening, as on the setlist page: skipped songs have one too. */
  number: number;
  entry: SongEntry;
  song: Song;
  /** Minutes after midnight. */
  startsAt: number;
}

/** What is played between two breaks. */
export interface EveningSet {
  songs: SetSong[];
  /** The break behind it; null: it is the last. */
  then: Extract<SetlistEntry, { kind: 'break' }> | null;
}

/** The evening by its sets: without what is skipped tonight or is not there; a set in which nothing is played is none. */
export function setsOf(
  setlist: Pick<Setlist, 'entries' | 'startsAt'>,
  songs: Readonly<Record<string, Song>>,
): EveningSet[] {
  const { startsAt } = finishingTimes(setlist, songs);
  const sets: EveningSet[] = [{ songs: [], then: null }];
  let number = 0;
  setlist.entries.forEach((entry, i) => {
    const set = sets.at(-1)!;
    if (entry.kind === 'break') {
      // Of breaks in a row the first one ends the set.
      if (set.songs.length > 0) {
        set.then = entry;
        sets.push({ songs: [], then: null });
      }
      return;
    }
    number++;
    const song = songs[entry.songId];
    if (song && !entry.skip) set.songs.push({ number, entry, song: songTonight(song, entry), startsAt: startsAt[i] });
  });
  return sets.filter((set) => set.songs.length > 0);
}
