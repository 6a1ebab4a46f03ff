import { songTonight } from '@rackle/core/show';
import { keepLengths, LengthsLearnt, readLengths, withLength, type SongNow } from '../live/playedLengths';
import type { RootState, Store } from './store';

/** Learns from what is recalled how long songs are really played; kept by this browser. */
export function followLengths(store: Store, nowMs: () => number = () => Date.now()): void {
  const learnt = new LengthsLearnt();
  let last: string | null = null;
  store.subscribe(() => {
    const state = store.getState();
    const { entryId } = state.live.place;
    if (entryId === last) return;
    last = entryId;
    const found = learnt.recalled(songNow(state), nowMs());
    if (!found) return;
    const song = state.show.working.songs[found.songId];
    if (song) keepLengths(withLength(readLengths(), found.songId, Math.round(found.share * song.durationSeconds)));
  });
}

function songNow({ live, show }: RootState): SongNow | null {
  const setlist = show.setlistId === null ? null : show.working.setlists[show.setlistId];
  const entry = setlist?.entries.find(({ id }) => id === live.place.entryId);
  const song = entry?.kind === 'song' ? show.working.songs[entry.songId] : undefined;
  if (entry?.kind !== 'song' || !song) return null;
  return { songId: song.id, entryId: entry.id, seconds: songTonight(song, entry).durationSeconds };
}
