import { PROTOCOL_VERSION } from './connection';

declare const __RACKLE_BUILD__: string | undefined;

/** Tells this build from every other; tests are a build of their own. */
export const BUILD = typeof __RACKLE_BUILD__ === 'undefined' ? 'tests' : __RACKLE_BUILD__;

/** From the frame until it is answered: it stands, and is of this build. */
export interface Ready {
  rackle: 'ready';
  build: string;
  protocol: number;
}

/** From the page, with one end of a message port. */
export interface Connect {
  rackle: 'connect';
  build: string;
  protocol: number;
}

/** From the page, whatever build it is of: the frame is to take its newest version. */
export interface Renew {
  rackle: 'renew';
}
/** From the frame: it has, or there was none; it has to be loaded anew. */
export interface Renewed {
  rackle: 'renewed';
}

/** The page asks an old frame to fetch itself anew. */
export const renew = (): Renew => ({ rackle: 'renew' });
/** The frame has done so, or need not. */
export const renewed = (): Renewed => ({ rackle: 'renewed' });

/** The frame is there, and of which build. */
export const ready = (): Ready => ({ rackle: 'ready', build: BUILD, protocol: PROTOCOL_VERSION });
/** The page hands the port over. */
export const connect = (): Connect => ({ rackle: 'connect', build: BUILD, protocol: PROTOCOL_VERSION });

type Said = Ready | Connect | Renew | Renewed;

const isOf = (said: Said['rackle'], data: unknown): boolean =>
  typeof data === 'object' && data !== null && (data as { rackle?: unknown }).rackle === said;

/** Whether a message is the handshake's, whatever build it is from. */
export const isReady = (data: unknown): data is Ready => isOf('ready', data);
/** Whether a message is that, from a page of this build. */
export const isConnect = (data: unknown): data is Connect => isOf('connect', data);
/** Whether a message asks for a new frame. */
export const isRenew = (data: unknown): data is Renew => isOf('renew', data);
/** Whether a message says that it is done. */
export const isRenewed = (data: unknown): data is Renewed => isOf('renewed', data);

/** Whether both ends are of one build and speak one protocol: else there is no connection, not half of one. */
export const fits = (said: Ready | Connect): boolean => said.build === BUILD && said.protocol === PROTOCOL_VERSION;

/** What a document was told by its server; null where it was told nothing. */
export function originIn(meta: 'rackle-host' | 'rackle-page', from: Document = document): string | null {
  const content = from.querySelector(`meta[name="${meta}"]`)?.getAttribute('content') ?? '';
  return content === '' ? null : content;
}
