/// <reference lib="webworker" />
import { addRoute, cleanupOutdatedCaches, precache, type PrecacheEntry } from 'workbox-precaching';
import { BUILD } from '../protocol/handshake';
import { TAKE } from './take';

/** What a service worker keeps in this browser, so that its document opens with the server stopped. */
export interface Installed {
  worker: ServiceWorkerGlobalScope;
  /** What the document is made of; made by the build. */
  files: (PrecacheEntry | string)[];
  /** The one document, by its address. */
  document: string;
  /** Which addresses it answers, by their paths. */
  answers: (path: string) => boolean;
}

const DOCUMENTS = 'rackle-document-';
const ANSWERS_WITHIN_MS = 1000;

/**
 * Everything of one build is kept together. The document comes from the server as long as that is of the same build, since
 * it says where the host's frame is; else the kept one, so that a newer build is never forced on anybody. Nothing of /api
 * passes through here.
 */
export function serveInstalled({ worker, files, document, answers }: Installed): void {
  const documents = `${DOCUMENTS}${BUILD}`;
  precache(files);
  cleanupOutdatedCaches();

  worker.addEventListener('install', (event) => event.waitUntil(keepDocument()));
  worker.addEventListener('activate', (event) => event.waitUntil(forgetOtherBuilds()));
  worker.addEventListener('message', ({ data }) => {
    if (data === TAKE) void worker.skipWaiting();
  });
  worker.addEventListener('fetch', (event) => {
    const { origin, pathname } = new URL(event.request.url);
    if (event.request.mode !== 'navigate' || origin !== worker.location.origin || !answers(pathname)) return;
    event.respondWith(documentNow());
  });
  addRoute();

  async function fetched(): Promise<Response | null> {
    const answer = await fetch(document, { cache: 'no-cache', signal: AbortSignal.timeout(ANSWERS_WITHIN_MS) });
    const isOurs = answer.ok && (await answer.clone().text()).includes(`name="rackle-build" content="${BUILD}"`);
    return isOurs ? answer : null;
  }

  async function keepDocument(): Promise<void> {
    const answer = await fetched();
    if (answer === null) throw new Error('the server is of another build by now');
    await (await caches.open(documents)).put(document, answer);
  }

  async function documentNow(): Promise<Response> {
    const answer = await fetched().catch(() => null);
    const cache = await caches.open(documents);
    if (answer !== null) {
      await cache.put(document, answer.clone());
      return answer;
    }
    return (await cache.match(document)) ?? fetch(document);
  }

  async function forgetOtherBuilds(): Promise<void> {
    for (const name of await caches.keys())
      if (name.startsWith(DOCUMENTS) && name !== documents) await caches.delete(name);
  }
}
