import { createServer, type Server } from 'node:http';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Request, type Response } from 'express';
import type { FilesService } from '../files/files.service';
import { sendFile } from '../files/sendFile';
import { ownPagesOnly } from '../http/ownPagesOnly';
import { Problem } from '../http/problem';
import { sendProblem } from '../http/sendProblem';
import { documentIn, type Told } from './document';
import { hostHeaders } from './headers';

/**
 * The second port: the frame in which the running side lives, what it is made of, and stored files. It writes nothing.
 * @param folder of the built interface
 */
export function createHostServer(
  folder: string,
  files: Pick<FilesService, 'find'>,
  pageOrigin: () => string | null,
  told: () => Told,
): Server | null {
  const page = documentIn(folder, 'host.html');
  if (page === null) return null;
  const app = express();
  app.disable('x-powered-by');
  app.use(hostHeaders(pageOrigin));
  app.use(ownPagesOnly);
  app.use(compression());
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: true }));
  app.get('/host.html', (_request: Request, response: Response) => {
    response.setHeader('Cache-Control', 'no-cache').type('html').send(page(told()));
  });
  app.get('/host.sw.js', (_request: Request, response: Response) => {
    response.setHeader('Cache-Control', 'no-cache').sendFile(join(folder, 'host.sw.js'), { dotfiles: 'allow' });
  });
  app.get('/api/v1/files/:hash', (request: Request, response: Response) => {
    try {
      sendFile(files.find(String(request.params.hash)), response);
    } catch (cause) {
      if (!(cause instanceof Problem)) throw cause;
      sendProblem(cause, request, response);
    }
  });
  app.use((request: Request, response: Response) =>
    sendProblem(new Problem('not-found', 'There is nothing at this address.'), request, response),
  );
  return createServer(app);
}
