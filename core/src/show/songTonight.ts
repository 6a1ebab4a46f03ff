import type { Setlist, SetlistEntry } from './model/setlist';
import type { Song } from './model/song';

const known = new WeakMap<Song, Map<number, Song>>();

/**
 * A song as it is played at an entry: at tonight's tempo, its whole map faster or slower, its length with it. The same
 * song gives the same object; one without a tempo for tonight is given back as it is.
 */
export function songTonight(song: Song, { bpm }: Pick<Extract<SetlistEntry, { kind: 'song' }>, 'bpm'>): Song {
  const { tempos } = song.map;
  // A copy that was kept by an older Rackle has none.
  if (!bpm || bpm === tempos[0].bpm) return song;
  const byBpm = known.get(song) ?? new Map<number, Song>();
  known.set(song, byBpm);
  let played = byBpm.get(bpm);
  if (!played) {
    const factor = bpm / tempos[0].bpm;
    const map = { ...song.map, tempos: tempos.map((tempo) => ({ ...tempo, bpm: tempo.bpm * factor })) };
    byBpm.set(bpm, (played = { ...song, map, durationSeconds: Math.round(song.durationSeconds / factor) }));
  }
  return played;
}

/** A song as a setlist plays it: at its entry with this id, else where it first comes; one that does not come, as it is. */
export function songIn({ entries }: Pick<Setlist, 'entries'>, song: Song, entryId: string | null): Song {
  const own = entries.flatMap((entry) => (entry.kind === 'song' && entry.songId === song.id ? [entry] : []));
  const entry = own.find(({ id }) => id === entryId) ?? own.at(0);
  return entry ? songTonight(song, entry) : song;
}

/** How long an entry plays, in seconds; what is skipped tonight, or is not there, takes no time. */
export function secondsOf(entry: SetlistEntry, songs: Readonly<Record<string, Song>>): number {
  if (entry.kind === 'break') return entry.minutes * 60;
  const song = entry.skip ? undefined : songs[entry.songId];
  return song ? songTonight(song, entry).durationSeconds : 0;
}
