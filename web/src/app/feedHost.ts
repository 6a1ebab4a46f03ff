import type { Change, GearList, Setlist } from '@rackle/core';
import type { HostDoor } from '../live/door';
import type { Store } from '../state/store';

/** Runs work once what has just changed is on the screen. */
export const afterPaint = (work: () => void): void => {
  // Without a screen (a page in the background) there is no frame to wait for.
  if (document.visibilityState === 'hidden') setTimeout(work, 0);
  else requestAnimationFrame(() => setTimeout(work, 0));
};

/** What the host plays from, fed by edits. */
export interface HostFeed {
  /** The door for the pages. */
  door: HostDoor;
  /** Every change of the show goes through here: one's own, undo, other windows', settled conflicts. */
  changed(changes: readonly Change[]): void;
}

/**
 * Hands every change of the show on to the host, from the list of changes that an edit is: a changed song by itself,
 * anything else that is played whole. It goes once the page has drawn it, so that the page answers first; whatever else
 * is asked of the host meanwhile takes it along, so that the order stays.
 */
export function feedHost(store: Store, host: HostDoor, later: (work: () => void) => void = afterPaint): HostFeed {
  const touched = new Set<string>();
  let isWhole = true;
  let isDue = false;
  let setlist: Setlist | null = null;
  let gear: GearList | null = null;
  const handOver = (): void => {
    isDue = false;
    const { show } = store.getState();
    const next = show.setlistId === null ? undefined : show.working.setlists[show.setlistId];
    if (show.status !== 'ready' || !next) return;
    const { working } = show;
    const nextGear =
      (next.gearListId ? working.gearLists[next.gearListId] : undefined) ?? Object.values(working.gearLists)[0] ?? null;
    const songs = [...touched].flatMap((id) => working.songs[id] ?? []);
    const whole = isWhole || next !== setlist || nextGear !== gear;
    touched.clear();
    isWhole = false;
    setlist = next;
    gear = nextGear;
    if (whole)
      host.post({
        type: 'show',
        songs: Object.values(working.songs),
        instruments: Object.values(working.instruments),
        setlist: next,
        gear: nextGear,
      });
    else for (const song of songs) host.post({ type: 'song', song });
  };
  const soon = (): void => {
    if (isDue) return;
    isDue = true;
    later(() => {
      if (isDue) handOver();
    });
  };
  let lastSetlistId = store.getState().show.setlistId;
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.status !== 'ready' || (setlist !== null && show.setlistId === lastSetlistId)) return;
    lastSetlistId = show.setlistId;
    if (setlist === null) handOver();
    else soon();
  });
  return {
    changed: (changes) => {
      for (const { kind, id, before, after } of changes) {
        if (kind === 'songs' && before !== null && after !== null) touched.add(id);
        else if (kind === 'songs' || kind === 'instruments') isWhole = true;
        else if (kind !== 'setlists' && kind !== 'gearLists') continue;
        soon();
      }
    },
    door: {
      post: (command) => {
        if (isDue) handOver();
        host.post(command);
      },
      listen: (listener) => host.listen(listener),
    },
  };
}
