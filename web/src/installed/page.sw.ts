/// <reference lib="webworker" />
import type { PrecacheEntry } from 'workbox-precaching';
import { serveInstalled } from './installedWorker';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] };

// The pages' service worker.
serveInstalled({
  worker: self,
  files: self.__WB_MANIFEST,
  document: '/',
  answers: (path) => !path.startsWith('/api/') && !/\.[a-z0-9]+$/.test(path),
});
