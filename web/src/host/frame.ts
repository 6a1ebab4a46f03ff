import { install, takeNewest } from '../installed/versions';
import { fits, hostEndOn, isConnect, isRenew, originIn, ready, renewed, type HostEvent } from '../protocol';
import { runHost } from './runHost';

// The host's own document: an unseen frame from the second port of the same server, which no page can hold up.

const SCRIPT = '/host.sw.js';
const ASKS_EVERY_MS = 200;
/** Only one window's host plays. */
const LOCK = 'host';

const pageOrigin = originIn('rackle-page');

/** Where events go: to the page that has the connection, and until then nowhere. */
let send: (event: HostEvent) => void = () => undefined;
let isAnswered = false;

/** The page takes a newer version, and this frame with it. */
const renewFor = (page: string): void => {
  const answer = (): void => window.parent.postMessage(renewed(), page);
  void takeNewest().then(answer, answer);
};

function start(page: string): void {
  const { host, after } = runHost((event) => {
    send(event);
    // All of it is here: from now on it opens without the server too. A newer one is taken when the page says so.
    if (event.type === 'fetched' && import.meta.env.PROD) void install(SCRIPT, () => undefined).catch(() => undefined);
  });
  window.addEventListener('message', ({ source, origin, data, ports }: MessageEvent<unknown>) => {
    // From the page that holds this frame, and from nobody else.
    if (source !== window.parent || origin !== page) return;
    if (isRenew(data)) return renewFor(page);
    if (!isConnect(data) || ports.length !== 1 || !fits(data)) return;
    isAnswered = true;
    send = hostEndOn(ports[0], (command) => host.command(command));
    // Another connection takes the place of the one before: what was held down through that is let go of.
    host.pageChanged();
  });
  const say = (): void => {
    if (isAnswered) return;
    window.parent.postMessage(ready(), page);
    after(ASKS_EVERY_MS, say);
  };
  say();
}

// Opened by itself, or by another page than ours, it does nothing.
if (pageOrigin !== null && window.parent !== window)
  void navigator.locks.request(LOCK, () => {
    start(pageOrigin);
    // Held for as long as the frame lives; it also keeps browsers from putting it to sleep.
    return new Promise(() => undefined);
  });
