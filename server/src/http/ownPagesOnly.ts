import type { NextFunction, Request, Response } from 'express';
import { Problem } from './problem';
import { sendProblem } from './sendProblem';

const LOCAL_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Lets only this machine's own pages in: the Host must be a local name, and an Origin (if there is one) this very
 * server.
 */
export function ownPagesOnly(request: Request, response: Response, next: NextFunction): void {
  const host = request.headers.host ?? '';
  const { origin } = request.headers;
  const local = LOCAL_NAMES.includes(host.replace(/:\d+$/, ''));
  if (local && (origin === undefined || origin === `http://${host}`)) return next();
  sendProblem(
    new Problem('not-from-here', 'Another web page or machine has asked for Rackle’s data, and was refused.'),
    request,
    response,
  );
}
