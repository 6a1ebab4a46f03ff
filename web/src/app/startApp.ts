import type { Proving } from '../checks/proving';
import { connectHost } from '../live/connect';
import type { HostConnection } from '../protocol';
import { keepLastPlace, readLastPlace } from '../live/lastPlace';
import { keepPlayedRuns, readPlayedRuns } from '../live/playedRuns';
import { heard, leftBefore, playedBefore } from '../live/liveSlice';
import { MonitorLog } from '../live/monitorLog';
import { midiMayComeBack, rememberOn, soundWasOn } from '../live/wasOn';
import { fetchShow } from '../show/api';
import { MemoryKept, openKept, type Kept } from '../show/kept';
import { Outbox } from '../show/outbox';
import { failed, loaded, outboxChanged, synced, unreadableHeard } from '../show/showSlice';
import { unsavedBefore } from '../show/unsavedBefore';
import { browserWindows } from '../show/windows';
import { newId } from '../state/ids';
import { rememberSettings } from '../state/remembered';
import { makeStore, type Store } from '../state/store';
import { feedHost } from './feedHost';
import { firstPageIsThere } from '../ui/fetchedLater';
import { fetchRest, later } from './later';
import { say } from './say';
import { offerVersions, type TakeVersion } from './newVersion';

/** What the page runs on, once it has started. */
export interface StartedApp {
  store: Store;
  log: MonitorLog;
  host: HostConnection;
  /** Plays in this window from here on, if another one does. */
  takeOver: () => void;
  /** Puts the newer version that waits in the place of this one. */
  takeVersion: TakeVersion;
  outbox: Outbox;
  /** The checks over the whole show, beside the pages. */
  proving: Proving;
}

const LAST_SETLIST = 'rackle.setlist';
/** What the browser keeps opens before that, or the pages begin without. */
const OPENS_WITHIN_MS = 2000;
const OPENS_AT_LAST_MS = 20_000;
const ASKS_AGAIN_MS = 3000;
const NO_SERVER = 'Rackle’s server does not answer. Start it again with npm start; nothing is lost.';

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
      proving.changed(changes);
    },
    onView: (view) => void store.dispatch(outboxChanged(view)),
  });
  const store = makeStore({
    take: (edit, open) => {
      outbox.take(edit, open);
      feed.changed(edit.changes);
      proving.changed(edit.changes);
      // What is kept here should stay when the browser makes room: asked once there is something to keep.
      if (asksToPersist) void navigator.storage?.persist?.().catch(() => false);
      asksToPersist = false;
    },
    isOpen: (id) => outbox.isOpen(id),
    newId: () => newId('edit'),
    refuse: (words) => say(words, { duration: 8000, isTrouble: true }),
  });
  rememberSettings(store);
  const { connection: link, takeOver, renewFrame } = connectHost();
  const feed = feedHost(store, link, readLastPlace);
  const { host } = feed;
  const proving = provingLater(store, host);
  const log = new MonitorLog();
  const hostFetched = new Promise<void>((resolve) => {
    host.listen((event) => event.type === 'fetched' && resolve());
  });
  store.dispatch(playedBefore(readPlayedRuns()));
  store.dispatch(leftBefore(readLastPlace()));
  host.listen((event) => {
    if (event.type === 'records') log.add(event.records);
    else store.dispatch(heard(event));
    proving.heard(event);
    if (event.type === 'played') keepPlayedRuns(store.getState().live.played);
    if (event.type !== 'topics') return;
    if (event.topics.restart?.last) keepLastPlace(event.topics.restart.last);
    if (event.topics.sound) rememberOn(event.topics.sound);
  });
  // What was on before a reload is on again; what the browser does not give without a click waits for one.
  if (soundWasOn()) host.post({ type: 'startSound' });
  void midiMayComeBack().then((may) => may && host.post({ type: 'connectMidi' }));
  const wakeSound = (): void => {
    if (store.getState().live.sound.sound === 'waits') host.post({ type: 'startSound' });
  };
  window.addEventListener('pointerdown', wakeSound, true);
  window.addEventListener('keydown', wakeSound, true);
  void load(store, outbox);
  learnLater(store, host);
  const takeVersion = offerVersions(store, fetchRest(hostFetched), renewFrame);
  const down = (): void => void (pointerIsDown = true);
  const up = (): void => void (pointerIsDown = false);
  for (const [event, act] of [
    ['pointerdown', down],
    ['pointerup', up],
    ['pointercancel', up],
    ['blur', up],
  ] as const)
    window.addEventListener(event, act, true);
  // Keys that go up while nobody looks are not heard here: they go up now.
  const letGo = (): void => host.post({ type: 'letGo' });
  window.addEventListener('blur', letGo);
  document.addEventListener('visibilitychange', () => document.visibilityState === 'hidden' && letGo());
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
  return {
    store,
    log,
    host,
    takeOver,
    takeVersion,
    outbox,
    proving,
  };
}

/**
 * The checks over the whole show, fetched and begun once the first page has had its time. They begin with the whole show:
 * what was edited before is in it.
 */
function provingLater(store: Store, host: HostConnection): Proving {
  let begun: Proving | null = null;
  const begin = (): void =>
    void later.proving().then(
      ({ proving }) => (begun = proving(store, host)),
      () => setTimeout(begin, ASKS_AGAIN_MS),
    );
  void firstPageIsThere.then(begin);
  return {
    changed: (changes) => begun?.changed(changes),
    heard: (event) => begun?.heard(event),
    simulation: {
      start: (all) => begun?.simulation.start(all),
      callOff: () => begun?.simulation.callOff(),
      roll: async (of) => begun?.simulation.roll(of) ?? null,
    },
    leveling: { start: () => begun?.leveling.start(), callOff: () => begun?.leveling.callOff() },
  };
}

/** What is learnt beside the playing, once the first page has had its time. */
function learnLater(store: Store, host: HostConnection): void {
  const begin = async (): Promise<void> => {
    const [{ followLengths }, { followLoads }] = await Promise.all([later.followLengths(), later.followLoads()]);
    followLengths(store);
    followLoads(store, host);
  };
  void firstPageIsThere.then(begin).catch(() => undefined);
}

/** What this browser keeps, or null where it has not opened within so long; where it keeps nothing, the window does. */
function openedWithin(opening: Promise<Kept>, ms: number): Promise<Kept | null> {
  return Promise.race([opening, new Promise<null>((resolve) => setTimeout(() => resolve(null), ms))]);
}

async function load(store: Store, outbox: Outbox): Promise<void> {
  try {
    const opening = openKept().catch(() => new MemoryKept());
    const [early, show] = await Promise.all([openedWithin(opening, OPENS_WITHIN_MS), fetchShow().catch(() => null)]);
    // Without the server there is nothing else to show.
    const kept = early ?? (show === null ? await openedWithin(opening, OPENS_AT_LAST_MS) : null);
    const bodies = await outbox.start(kept ?? new MemoryKept(), show);
    if (bodies === null) return void store.dispatch(failed(NO_SERVER));
    const setlistId = localStorage.getItem(LAST_SETLIST);
    store.dispatch(loaded({ bodies, setlistId, unreadable: show?.unreadable }));
    if (show === null) void meetLater(store, outbox);
    if (kept === null) void keepLate(outbox, opening);
    for (const edit of unsavedBefore(localStorage)) store.dispatch(edit);
  } catch {
    store.dispatch(failed(NO_SERVER));
  }
}

/** What opens late takes what waits in this window; where that fails it stays in the window, as is said. */
async function keepLate(outbox: Outbox, opening: Promise<Kept>): Promise<void> {
  const store = await opening;
  if (store.isLasting) await outbox.keepIn(store).catch(() => undefined);
}

/** Without the server the last state of the show is played and edited; what it has is taken up as soon as it answers. */
async function meetLater(store: Store, outbox: Outbox): Promise<void> {
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, ASKS_AGAIN_MS));
    const show = await fetchShow().catch(() => null);
    if (show === null) continue;
    if (!(await outbox.meet(show))) continue;
    store.dispatch(unreadableHeard(show.unreadable));
    return;
  }
}
