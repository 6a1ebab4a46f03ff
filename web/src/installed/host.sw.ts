/// <reference lib="webworker" />
import type { PrecacheEntry } from 'workbox-precaching';
import { serveInstalled } from './installedWorker';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] };

// The service worker of the host's frame, in the frame's own origin.
serveInstalled({
  worker: self,
  files: self.__WB_MANIFEST,
  document: '/host.html',
  answers: (path) => path === '/host.html',
});
