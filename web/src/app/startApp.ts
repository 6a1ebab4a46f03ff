import { feedChecks, type Checker } from '../checks/feedChecks';
import { connectHost } from '../live/connect';
import type { HostDoor } from '../protocol';
import { keepLastPlace, readLastPlace } from '../live/lastPlace';
import { heard } from '../live/liveSlice';
import { MonitorLog } from '../live/monitorLog';
import { fetchShow } from '../show/api';
import { MemoryKept, openKept, type Kept } from '../show/kept';
import { Outbox } from '../show/outbox';
import { failed, loaded, outboxChanged, synced } from '../show/showSlice';
import { unsavedBefore } from '../show/unsavedBefore';
import { browserWindows } from '../show/windows';
import { newId } from '../state/ids';
import { makeStore, type Store } from '../state/store';
import { feedHost } from './feedHost';
import { AFTER_FIRST_PAGE_MS, fetchRest, later } from './later';

export interface StartedApp {
  store: Store;
  log: MonitorLog;
  door: HostDoor;
  /** Plays in this window from here on, if another one does. */
  takeOver: () => void;
  outbox: Outbox;
}

const LAST_SETLIST = 'rackle.setlist';
const OPENS_WITHIN_MS = 2000;

/** Puts the parts together: store, host, outbox. The show is asked for at once; pages draw while it comes. */
export function startApp(): StartedApp {
  const windowId = newId<string>('window');
  let pointerIsDown = false;
  let asksToPersist = true;
  const outbox = new Outbox({
    windowId,
    newId: () => newId('edit'),
    windows: browserWindows(windowId),
    pointerIsDown: () => pointerIsDown,
    onShow: (changes) => {
      store.dispatch(synced(changes));
      feed.changed(changes);
      checks.changed(changes);
    },
    onView: (view) => void store.dispatch(outboxChanged(view)),
  });
  const store = makeStore({
    take: (edit, open) => {
      outbox.take(edit, open);
      feed.changed(edit.changes);
      checks.changed(edit.changes);
      // What is kept here should stay when the browser makes room: asked once there is something to keep.
      if (asksToPersist) void navigator.storage?.persist?.().catch(() => false);
      asksToPersist = false;
    },
    isOpen: (id) => outbox.isOpen(id),
    newId: () => newId('edit'),
    refuse: (words) => void later.words().then(({ toast }) => toast.error(words, { duration: 8000 })),
  });
  const { door: link, takeOver } = connectHost();
  const feed = feedHost(store, link, readLastPlace);
  const { door } = feed;
  const checks = feedChecks(store, checkerLater());
  const log = new MonitorLog();
  const hostFetched = new Promise<void>((resolve) => {
    door.listen((event) => event.type === 'fetched' && resolve());
  });
  door.listen((event) => {
    if (event.type === 'records') log.add(event.records);
    else store.dispatch(heard(event));
    if (event.type === 'topics' && event.topics.place?.last) keepLastPlace(event.topics.place.last);
  });
  void load(store, outbox);
  fetchRest(hostFetched);
  const down = (): void => void (pointerIsDown = true);
  const up = (): void => void (pointerIsDown = false);
  for (const [event, act] of [
    ['pointerdown', down],
    ['pointerup', up],
    ['pointercancel', up],
    ['blur', up],
  ] as const)
    window.addEventListener(event, act, true);
  window.addEventListener('pagehide', () => outbox.seal());
  window.addEventListener('online', () => outbox.tryAgain());
  let lastSetlist: string | null = null;
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.setlistId !== lastSetlist && show.setlistId !== null)
      localStorage.setItem(LAST_SETLIST, (lastSetlist = show.setlistId));
  });
  // Leaving is worth a question only while something is nowhere but in this window.
  window.addEventListener('beforeunload', (event) => {
    if (outbox.isNowhereElse) event.preventDefault();
  });
  return { store, log, door, takeOver, outbox };
}

/** The checker in its worker, which is started once the first page has had its time. */
function checkerLater(): Checker {
  const started = new Promise((resolve) => setTimeout(resolve, AFTER_FIRST_PAGE_MS))
    .then(() => later.checks())
    .then(({ checksWorker }) => checksWorker());
  return {
    start: async (show, setlistId) => (await started).start(show, setlistId),
    take: async (news, setlistId) => (await started).take(news, setlistId),
    check: async () => (await started).check(),
  };
}

/** What this browser keeps; where it keeps nothing, the window does. */
async function keptHere(): Promise<Kept> {
  const late = new Promise<Kept>((resolve) => setTimeout(() => resolve(new MemoryKept()), OPENS_WITHIN_MS));
  return Promise.race([openKept().catch(() => new MemoryKept()), late]);
}

async function load(store: Store, outbox: Outbox): Promise<void> {
  try {
    const [kept, show] = await Promise.all([keptHere(), fetchShow()]);
    const bodies = await outbox.start(kept, show);
    const setlistId = localStorage.getItem(LAST_SETLIST);
    store.dispatch(loaded({ bodies, setlistId, unreadable: show.unreadable }));
    for (const edit of unsavedBefore(localStorage)) store.dispatch(edit);
  } catch {
    store.dispatch(failed('Rackle’s server does not answer. Start it again with npm start; nothing is lost.'));
  }
}
