import { PLAYED_KINDS, newsBetween, type Bodies, type Change, type LastPlace, type PlayedKind } from '@rackle/core';
import type { HostDoor } from '../protocol';
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

const isPlayed = (kind: Change['kind']): kind is PlayedKind => (PLAYED_KINDS as readonly string[]).includes(kind);

/**
 * Hands every change of the show on to the host, from the list of changes that an edit is: the fields that are new, and
 * nothing else. It goes once the page has drawn it, so that the page answers first, and one message at a time: what comes
 * before the last one is answered waits, and the later takes the earlier's place. Whatever else is asked of the host
 * takes along what waits, so that the order stays.
 */
export function feedHost(
  store: Store,
  host: HostDoor,
  lastPlace: () => LastPlace | null = () => null,
  later: (work: () => void) => void = afterPaint,
): HostFeed {
  /** The show as the host has it; null: it has none, or has lost track. */
  let sent: Bodies | null = null;
  let sentSetlistId: string | null = null;
  let number = 0;
  let isAnswered = true;
  let isDue = false;
  const touched = new Map<string, { kind: PlayedKind; id: string }>();

  const sendAll = (): void => {
    const { working, setlistId } = store.getState().show;
    const [songs, instruments, setlists, gearLists] = [
      Object.values(working.songs),
      Object.values(working.instruments),
      Object.values(working.setlists),
      Object.values(working.gearLists),
    ];
    host.post({
      type: 'show',
      number: ++number,
      show: { songs, instruments, setlists, gearLists },
      setlistId,
      // Only the first time: later the host knows better where it is.
      place: sentSetlistId === null ? lastPlace() : null,
    });
  };

  const handOver = (): void => {
    isDue = false;
    const { show } = store.getState();
    if (show.status !== 'ready' || show.setlistId === null) return;
    if (sent === null) sendAll();
    else {
      const { put, gone } = newsBetween(sent, show.working, touched.values());
      const isNews = gone.length > 0 || Object.values(put).some((byId) => Object.keys(byId).length > 0);
      if (!isNews && show.setlistId === sentSetlistId) return touched.clear();
      host.post({ type: 'changed', number: ++number, put, gone, setlistId: show.setlistId });
    }
    touched.clear();
    sent = show.working;
    sentSetlistId = show.setlistId;
    isAnswered = false;
  };

  const soon = (): void => {
    if (isDue) return;
    isDue = true;
    if (isAnswered) later(() => isDue && handOver());
  };

  host.listen((event) => {
    if (event.type === 'askShow') {
      sent = null;
      handOver();
    } else if (event.type === 'took' && event.number === number) {
      isAnswered = true;
      if (isDue) later(() => isDue && handOver());
    }
  });
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.status !== 'ready' || show.setlistId === sentSetlistId) return;
    if (sent === null) handOver();
    else soon();
  });
  return {
    changed: (changes) => {
      for (const { kind, id } of changes) if (isPlayed(kind)) touched.set(`${kind} ${id}`, { kind, id });
      if (touched.size > 0) soon();
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
