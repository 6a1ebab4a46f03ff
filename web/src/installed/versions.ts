import { TAKE } from './take';

/** The part of the browser's own that this needs. */
type Container = Pick<ServiceWorkerContainer, 'register' | 'getRegistration'>;

const container = (): Container | undefined => navigator.serviceWorker as Container | undefined;

/**
 * Keeps this document in the browser, so that it opens with the server stopped. A newer version of it is fetched when the
 * browser finds one, and waits until it is taken.
 * @param onWaiting a newer version waits
 */
export async function install(
  script: string,
  onWaiting: () => void,
  from: Container | undefined = container(),
): Promise<{ look: () => void } | null> {
  const registration = await from?.register(script, { updateViaCache: 'none' });
  if (!registration) return null;
  const say = (): void => {
    // The first one of all waits for nobody: it stands for a moment where newer ones wait.
    if (registration.waiting && registration.active) onWaiting();
  };
  registration.addEventListener('updatefound', () => registration.installing?.addEventListener('statechange', say));
  say();
  return { look: () => void registration.update().catch(() => undefined) };
}

/** Whether this document opens with the server stopped. */
export async function isInstalled(from: Container | undefined = container()): Promise<boolean> {
  const registration = await from?.getRegistration('/');
  return registration?.active != null;
}

/**
 * Takes the newest version, if there is one that is not taken yet. The document has to be loaded anew for it.
 * @returns whether one was taken
 */
export async function takeNewest(from: Container | undefined = container()): Promise<boolean> {
  const registration = await from?.getRegistration('/');
  if (!registration) return false;
  await registration.update().catch(() => undefined);
  const newest = registration.installing ?? registration.waiting;
  if (!newest || !(await hasCome(newest, 'installed'))) return false;
  newest.postMessage(TAKE);
  return hasCome(newest, 'activated');
}

const ORDER: ServiceWorkerState[] = ['parsed', 'installing', 'installed', 'activating', 'activated'];

/** Waits until a worker has come so far. @returns false when it never will */
function hasCome(worker: ServiceWorker, state: ServiceWorkerState): Promise<boolean> {
  return new Promise((resolve) => {
    const look = (): void => {
      if (worker.state !== 'redundant' && ORDER.indexOf(worker.state) < ORDER.indexOf(state)) return;
      worker.removeEventListener('statechange', look);
      resolve(worker.state !== 'redundant');
    };
    worker.addEventListener('statechange', look);
    look();
  });
}
