import type { GearList, Setlist, Song } from '@rackle/core';
import type { HostDoor } from '../live/door';
import type { Store } from '../state/store';

/** Hands every change of the show on to the host: a changed song by itself, anything else whole. */
export function feedHost(store: Store, door: HostDoor): void {
  let songs: Record<string, Song> = {};
  let instruments: unknown = null;
  let setlist: Setlist | null = null;
  let gear: GearList | null = null;
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.status !== 'ready' || show.setlistId === null) return;
    const { working } = show;
    const nextSetlist = working.setlists[show.setlistId];
    if (!nextSetlist) return;
    const nextGear = (nextSetlist.gearListId ? working.gearLists[nextSetlist.gearListId] : undefined) ?? Object.values(working.gearLists)[0] ?? null;
    const whole = setlist !== nextSetlist || gear !== nextGear || instruments !== working.instruments || Object.keys(songs).length !== Object.keys(working.songs).length;
    if (!whole && songs === working.songs) return;
    const changed = Object.values(working.songs).filter((song) => songs[song.id] !== song);
    if (whole) door.post({ type: 'show', songs: Object.values(working.songs), instruments: Object.values(working.instruments), setlist: nextSetlist, gear: nextGear });
    else for (const song of changed) door.post({ type: 'song', song });
    songs = working.songs;
    instruments = working.instruments;
    setlist = nextSetlist;
    gear = nextGear;
  });
}
