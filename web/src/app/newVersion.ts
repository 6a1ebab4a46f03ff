import { install, takeNewest } from '../installed/versions';
import type { LiveState } from '../live/liveSlice';
import { Busy } from '../live/busy';
import type { Store } from '../state/store';
import { newVersionCame, newVersionPutOff } from '../state/uiSlice';

const SCRIPT = '/page.sw.js';
const LOOKS_AGAIN_AFTER_MS = 600_000;

/** Takes the newer version and loads all windows anew; where it may not be now, the offer says so. */
export type TakeVersion = () => Promise<void>;

const sounds = ({ transport, hands }: LiveState): boolean =>
  transport.playing || hands.keys.length > 0 || hands.carried.length > 0 || hands.pedal || hands.holding;

/**
 * Keeps Rackle in this browser, and offers a newer version when the server has one. It is taken when the player says so,
 * by page and host together, and never while a window is locked, plays or sounds.
 * @param ready once the first page has had its time
 */
export function offerVersions(store: Store, ready: Promise<unknown>, renewFrame: () => Promise<void>): TakeVersion {
  const busy = new Busy();
  store.subscribe(() => {
    const { ui, live } = store.getState();
    busy.set(ui.locked || sounds(live));
  });
  void ready.then(() => (import.meta.env.PROD ? watch(store) : undefined)).catch(() => undefined);
  return async () => {
    const isTaken = await busy.whileIdle(async () => {
      await renewFrame();
      await takeNewest();
      location.reload();
    });
    if (!isTaken) store.dispatch(newVersionPutOff());
  };
}

async function watch(store: Store): Promise<void> {
  const { serviceWorker } = navigator;
  // Another window has taken a newer version: this one is of the old one.
  serviceWorker?.addEventListener('controllerchange', () => location.reload());
  const installed = await install(SCRIPT, () => store.dispatch(newVersionCame()));
  if (installed === null) return;
  let lookedAtMs = Date.now();
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState !== 'visible' || Date.now() - lookedAtMs < LOOKS_AGAIN_AFTER_MS) return;
    lookedAtMs = Date.now();
    installed.look();
  });
}
