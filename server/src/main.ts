import 'reflect-metadata';
import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './createApp';
import { Problem } from './http/problem';
import { ShowsService } from './shows/shows.service';
import { openFolder, type DataFolder } from './storage/folder';
import { StartProblem } from './storage/startProblem';
import { storageProblem } from './storage/storageProblem';

/** Held here for the life of the process: a lock that nobody refers to is let go of. */
let folder: DataFolder | null = null;

const here = dirname(fileURLToPath(import.meta.url));

async function start(): Promise<void> {
  const data = resolve(process.env.RACKLE_DATA ?? resolve(here, '../../.data'));
  const port = Number(process.env.PORT ?? 4460);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new StartProblem(`PORT is ${process.env.PORT ?? ''}, which is no port number`);
  folder = await openFolder(data);
  const app = await createApp(folder.databaseFile, resolve(here, '../../web/dist'));
  await app.init();
  const shows = app.get(ShowsService);
  if (process.env.RACKLE_SHOW && shows.isEmpty) await shows.import(showFile(process.env.RACKLE_SHOW));
  // What is wrong with the port is said below, in one line.
  app.useLogger(false);
  await app.listen(port, '127.0.0.1');
  app.useLogger(['error', 'warn']);
  const address = app.getHttpServer().address() as { port: number };
  process.stdout.write(`Rackle is at http://127.0.0.1:${address.port}\n`);
}

function showFile(path: string): unknown {
  try {
    return JSON.parse(readFileSync(path, 'utf8'));
  } catch {
    throw new StartProblem(`the show file ${path} cannot be read`);
  }
}

/** One line, whatever it was: no stack, and nothing of how Rackle is built. */
function lineOf(cause: unknown): string {
  if (cause instanceof StartProblem) return cause.message;
  if (cause instanceof Problem) return cause.detail;
  if ((cause as { code?: string }).code === 'EADDRINUSE')
    return 'the port is in use by another program; set PORT to another one';
  if ((cause as { code?: string }).code === 'EACCES') return 'this port may not be used; set PORT to another one';
  const problem = storageProblem(cause);
  if (problem) return problem.detail;
  return (cause instanceof Error ? cause.message : String(cause)).split('\n')[0];
}

start().catch((cause: unknown) => {
  folder?.release();
  process.stderr.write(`rackle: it cannot start: ${lineOf(cause)}\n`);
  process.exit(2);
});
