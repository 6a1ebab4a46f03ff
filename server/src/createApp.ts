import { dirname, join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { Request, Response } from 'express';
import compression from 'compression';
import { AppModule } from './app.module';
import { jsonBody } from './http/jsonBody';
import { openApi } from './http/openApi';
import { ownPagesOnly } from './http/ownPagesOnly';
import { ProblemFilter } from './http/problem.filter';
import { pageHeaders } from './pages/headers';
import { servePages } from './pages/pages';

/** Where this server is, once it listens: its pages, and the frame of the host. */
export interface Origins {
  page: string | null;
  host: string | null;
}

/** The whole server, not yet listening. `pages` is the folder of the built interface, or null for the API alone. */
export async function createApp(
  databaseFile: string,
  pages: string | null,
  origins: Origins = { page: null, host: null },
): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(
    AppModule.on(databaseFile, join(dirname(databaseFile), 'files')),
    { logger: ['error', 'warn'], bodyParser: false, abortOnError: false },
  );
  app.use(pageHeaders(() => origins.host));
  app.use(compression());
  app.use(ownPagesOnly);
  app.use(jsonBody);
  app.useGlobalFilters(new ProblemFilter());
  const description = JSON.stringify(openApi(), null, 2);
  app.use(
    '/api/docs',
    (_request: Request, response: Response) => void response.type('application/json').send(description),
  );
  if (pages !== null) servePages(app, pages, () => ({ 'rackle-host': origins.host }));
  app.enableShutdownHooks();
  return app;
}
