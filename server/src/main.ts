import 'reflect-metadata';
import { mkdirSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './createApp';
import { Problem } from './http/problem';
import { ShowsService } from './shows/shows.service';
import { storageProblem } from './storage/storageProblem';

const here = dirname(fileURLToPath(import.meta.url));

async function start(): Promise<void> {
  const data = resolve(process.env.RACKLE_DATA ?? join(here, '../../.data'));
  const port = Number(process.env.PORT ?? 4460);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Problem('invalid', `PORT is ${process.env.PORT ?? ''}, which is no port number`);
  mkdirSync(data, { recursive: true });
  const app = await createApp(join(data, 'rackle.sqlite'), resolve(here, '../../web/dist'));
  await app.init();
  const shows = app.get(ShowsService);
  if (process.env.RACKLE_SHOW && shows.isEmpty)
    await shows.import(JSON.parse(readFileSync(process.env.RACKLE_SHOW, 'utf8')));
  await app.listen(port, '127.0.0.1');
  const address = app.getHttpServer().address() as { port: number };
  process.stdout.write(`Rackle is at http://127.0.0.1:${address.port}\n`);
}

start().catch((cause: unknown) => {
  const problem = cause instanceof Problem ? cause : storageProblem(cause);
  const inUse = (cause as { code?: string }).code === 'EADDRINUSE';
  const line = inUse
    ? 'the port is in use by another program; set PORT to another one'
    : (problem?.detail ?? (cause instanceof Error ? cause.message : String(cause)));
  process.stderr.write(`rackle: it cannot start: ${line}\n`);
  process.exit(1);
});
