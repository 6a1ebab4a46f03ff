import { connectHost } from '../live/connect';
import type { HostDoor } from '../live/door';
import { heard } from '../live/liveSlice';
import { MonitorLog } from '../live/monitorLog';
import { fetchShow } from '../show/api';
import { Autosave } from '../show/autosave';
import { conflictFound, failed, loaded, saveStateChanged } from '../show/showSlice';
import { makeStore, type Store } from '../state/store';
import { afterPaint, feedHost } from './feedHost';
import { fetchRest } from './later';

export interface StartedApp {
  store: Store;
  log: MonitorLog;
  door: HostDoor;
  autosave: Autosave;
}

const LAST_SETLIST = 'rackle.setlist';

/** Puts the parts together: store, host, autosave. The show is asked for at once; pages draw while it comes. */
export function startApp(): StartedApp {
  const store = makeStore();
  const host = connectHost();
  const door = feedHost(store, host);
  const log = new MonitorLog();
  door.listen((event) => {
    if (event.type === 'records') log.add(event.records);
    else store.dispatch(heard(event));
  });
  const autosave = new Autosave({
    read: () => store.getState().show.working,
    onState: (state) => void store.dispatch(saveStateChanged(state)),
    onConflict: (conflict) => void store.dispatch(conflictFound(conflict)),
  });
  void load(store, autosave);
  fetchRest();
  // An edit is drawn before it is written down; leaving the page writes it down at once.
  let touches = false;
  const touch = (): void => {
    if (touches) autosave.touch();
    touches = false;
  };
  window.addEventListener('pagehide', touch);
  let lastWorking = store.getState().show.working;
  let lastSetlist: string | null = null;
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.setlistId !== lastSetlist && show.setlistId !== null)
      localStorage.setItem(LAST_SETLIST, (lastSetlist = show.setlistId));
    if (show.status !== 'ready' || show.working === lastWorking) return;
    lastWorking = show.working;
    if (!touches) afterPaint(touch);
    touches = true;
  });
  // Leaving with unsaved edits is worth a question; they are kept in this browser all the same.
  window.addEventListener('beforeunload', (event) => {
    if (store.getState().show.saveState.waiting > 0) event.preventDefault();
  });
  return { store, log, door, autosave };
}

async function load(store: Store, autosave: Autosave): Promise<void> {
  try {
    const show = await fetchShow();
    const unsaved = autosave.start(show);
    store.dispatch(loaded({ show, unsaved, setlistId: localStorage.getItem(LAST_SETLIST) }));
  } catch {
    store.dispatch(failed('Rackle’s server does not answer. Start it again with npm start; nothing is lost.'));
  }
}
