import { join } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import express, { type NextFunction, type Request, type Response } from 'express';
import { documentIn, type Told } from './document';

/** First words of the addresses that the interface has pages for. */
const PAGES = new Set([
  '',
  'setlist',
  'setlists',
  'sounds',
  'songs',
  'library',
  'timeline',
  'stage',
  'gear',
  'numbers',
  'soundcheck',
  'history',
  'as-it-was',
  'print',
  'guide',
]);

/** The built interface: its files, and one document for all addresses that it has pages for. */
export function servePages(app: NestExpressApplication, folder: string, told: () => Told): void {
  const page = documentIn(folder, 'index.html');
  if (page === null) return;
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  // The documents themselves are never served as they lie there: they do not know the origins yet.
  app.use(/^\/(index|host)\.html$/, (_request: Request, response: Response) => response.redirect(307, '/'));
  app.use(express.static(folder, { maxAge: 0, index: false }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || request.path.startsWith('/api/')) return next();
    const isPage = PAGES.has(request.path.split('/')[1]);
    if (!isPage && !request.accepts('html')) return next();
    response
      .status(isPage ? 200 : 404)
      .setHeader('Cache-Control', 'no-cache')
      .type('html')
      .send(page(told()));
  });
}
