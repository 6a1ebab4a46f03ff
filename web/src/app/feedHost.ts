import type { GearList, Setlist, Song } from '@rackle/core';
import type { HostDoor } from '../live/door';
import type { Store } from '../state/store';

/** Runs work once what has just changed is on the screen. */
export const afterPaint = (work: () => void): void => {
  // Without a screen (a page in the background) there is no frame to wait for.
  if (document.visibilityState === 'hidden') setTimeout(work, 0);
  else requestAnimationFrame(() => setTimeout(work, 0));
};

/**
 * Hands every change of the show on to the host: a changed song by itself, anything else whole. It goes once the page
 * has drawn it, so that
 * the page answers first; whatever else is asked of the host meanwhile takes it along, so that the order stays.
 * @returns the door for the pages.
 */
export function feedHost(store: Store, door: HostDoor, later: (work: () => void) => void = afterPaint): HostDoor {
  let songs: Record<string, Song> = {};
  let instruments: unknown = null;
  let setlist: Setlist | null = null;
  let gear: GearList | null = null;
  let isDue = false;
  const handOver = (): void => {
    isDue = false;
    const { show } = store.getState();
    if (show.status !== 'ready' || show.setlistId === null) return;
    const { working } = show;
    const nextSetlist = working.setlists[show.setlistId];
    if (!nextSetlist) return;
    const nextGear =
      (nextSetlist.gearListId ? working.gearLists[nextSetlist.gearListId] : undefined) ??
      Object.values(working.gearLists)[0] ??
      null;
    const whole =
      setlist !== nextSetlist ||
      gear !== nextGear ||
      instruments !== working.instruments ||
      Object.keys(songs).length !== Object.keys(working.songs).length;
    if (!whole && songs === working.songs) return;
    const changed = Object.values(working.songs).filter((song) => songs[song.id] !== song);
    songs = working.songs;
    instruments = working.instruments;
    setlist = nextSetlist;
    gear = nextGear;
    if (whole)
      door.post({
        type: 'show',
        songs: Object.values(working.songs),
        instruments: Object.values(working.instruments),
        setlist: nextSetlist,
        gear: nextGear,
      });
    else for (const song of changed) door.post({ type: 'song', song });
  };
  let last = store.getState().show.working;
  let lastSetlistId = store.getState().show.setlistId;
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.working === last && show.setlistId === lastSetlistId) return;
    const isFirst = setlist === null;
    last = show.working;
    lastSetlistId = show.setlistId;
    if (isFirst) return handOver();
    if (isDue) return;
    isDue = true;
    later(() => {
      if (isDue) handOver();
    });
  });
  return {
    post: (command) => {
      if (isDue) handOver();
      door.post(command);
    },
    listen: (listener) => door.listen(listener),
  };
}
