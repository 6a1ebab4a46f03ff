import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import compression from 'compression';
import express from 'express';
import helmet from 'helmet';
import { AppModule } from './app.module';
import { jsonBody } from './http/jsonBody';
import { openApi } from './http/openApi';
import { ownPagesOnly } from './http/ownPagesOnly';
import { ProblemFilter } from './http/problem.filter';

/** First words of the addresses that the interface has pages for. */
const PAGES = new Set([
  '',
  'setlist',
  'sounds',
  'songs',
  'library',
  'timeline',
  'stage',
  'gear',
  'numbers',
  'soundcheck',
]);

/** The whole server, not yet listening. `pages` is the folder of the built interface, or null for the API alone. */
export async function createApp(databaseFile: string, pages: string | null): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(
    AppModule.on(databaseFile, join(dirname(databaseFile), 'files')),
    { logger: ['error', 'warn'], bodyParser: false, abortOnError: false },
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
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
          'frame-ancestors': ["'none'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: { policy: 'same-origin' },
    }),
  );
  app.use(compression());
  app.use(ownPagesOnly);
  app.use(jsonBody);
  app.useGlobalFilters(new ProblemFilter());
  const description = JSON.stringify(openApi(), null, 2);
  app.use(
    '/api/docs',
    (_request: Request, response: Response) => void response.type('application/json').send(description),
  );
  if (pages !== null && existsSync(join(pages, 'index.html'))) {
    app.use('/assets', express.static(join(pages, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
    app.use(express.static(pages, { maxAge: 0 }));
    // Addresses of the interface, which knows its own routes; whatever else is asked for is not there.
    app.use((request: Request, response: Response, next: NextFunction) => {
      if (request.method !== 'GET' || request.path.startsWith('/api/')) return next();
      const isPage = PAGES.has(request.path.split('/')[1]);
      if (!isPage && !request.accepts('html')) return next();
      // The folder may stand anywhere, also below one whose name begins with a dot.
      response.status(isPage ? 200 : 404).sendFile('index.html', { root: pages, dotfiles: 'allow' });
    });
  }
  app.enableShutdownHooks();
  return app;
}
