import type { NextFunction, Request, Response } from 'express';
import { Problem } from './problem';
import { sendProblem } from './sendProblem';

const OTHER_NAMES = ['localhost', '[::1]'];

/** The one name of this server, with the port that was asked. */
export const ownOrigin = (request: Request): string => `http://127.0.0.1:${request.socket.localPort}`;

/**
 * Lets only this machine's own pages in: the Host must be this server's one name and port, and an Origin (if there is
 * one) the same. A page that is opened under another name of this machine is sent to the one that counts: what the
 * browser keeps belongs to a name.
 */
export function ownPagesOnly(request: Request, response: Response, next: NextFunction): void {
  const host = request.headers.host ?? '';
  const { origin } = request.headers;
  const own = ownOrigin(request);
  if (`http://${host}` === own && (origin === undefined || origin === own)) return next();
  const isPageLoad =
    request.method === 'GET' && !request.path.startsWith('/api/') && request.headers['sec-fetch-mode'] !== 'cors';
  if (origin === undefined && isPageLoad && OTHER_NAMES.includes(host.replace(/:\d+$/, '')))
    return response.redirect(307, `${own}${request.originalUrl}`);
  sendProblem(
    new Problem('not-from-here', 'Another web page or machine has asked for Rackle’s data, and was refused.'),
    request,
    response,
  );
}
