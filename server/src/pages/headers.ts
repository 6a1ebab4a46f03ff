import type { RequestHandler } from 'express';
import helmet from 'helmet';

/** What every document of ours may load; frames are said apart. */
const OWN = {
  'default-src': ["'self'"],
  'script-src': ["'self'", 'blob:', "'wasm-unsafe-eval'"],
  'worker-src': ["'self'", 'blob:'],
  'style-src': ["'self'", "'unsafe-inline'"],
  'img-src': ["'self'", 'data:'],
  'font-src': ["'self'", 'data:'],
  'connect-src': ["'self'", 'blob:', 'data:'],
  'media-src': ["'self'", 'blob:'],
  'object-src': ["'none'"],
  'base-uri': ["'none'"],
  'form-action': ["'none'"],
};

/**
 * Headers of the pages: they may show the host's frame, and stand in no frame themselves. Every answer asks for an
 * agent cluster of its own, so that the frame gets a process of its own.
 */
export const pageHeaders = (hostOrigin: () => string | null): RequestHandler =>
  headers(() => ({ 'frame-src': [hostOrigin() ?? "'none'"], 'frame-ancestors': ["'none'"] }), true);

/** Headers of the host's frame: it stands in the pages and nowhere else. */
export const hostHeaders = (pageOrigin: () => string | null): RequestHandler =>
  headers(() => ({ 'frame-src': ["'none'"], 'frame-ancestors': [pageOrigin() ?? "'none'"] }), false);

function headers(frames: () => Record<string, string[]>, framesDenied: boolean): RequestHandler {
  let made: { key: string; handler: RequestHandler } | null = null;
  return (request, response, next) => {
    const own = frames();
    const key = JSON.stringify(own);
    if (made?.key !== key)
      made = {
        key,
        handler: helmet({
          contentSecurityPolicy: { useDefaults: false, directives: { ...OWN, ...own } },
          strictTransportSecurity: false,
          crossOriginOpenerPolicy: { policy: 'same-origin' },
          xFrameOptions: framesDenied ? { action: 'deny' } : false,
          originAgentCluster: true,
        }),
      };
    made.handler(request, response, next);
  };
}
