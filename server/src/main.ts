import 'reflect-metadata';
import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createApp, type Origins } from './createApp';
import { FilesService } from './files/files.service';
import { shippedBankProblem } from './files/shippedFile';
import { Problem } from './http/problem';
import { createHostServer } from './pages/hostServer';
import { ShowsService } from './shows/shows.service';
import { openFolder, type DataFolder } from './storage/folder';
import { keepPorts, readPorts } from './storage/ports';
import { StartProblem } from './storage/startProblem';
import { storageProblem } from './storage/storageProblem';

/** Held here for the life of the process: a lock that nobody refers to is let go of. */
let folder: DataFolder | null = null;

const here = dirname(fileURLToPath(import.meta.url));

const LOOPBACK = '127.0.0.1';
const USUAL_PORT = 4460;

async function start(): Promise<void> {
  const data = resolve(process.env.RACKLE_DATA ?? resolve(here, '../../.data'));
  const wanted = wantedPort(process.env.PORT);
  folder = await openFolder(data);
  const origins: Origins = { page: null, host: null };
  const pages = resolve(process.env.RACKLE_PAGES ?? resolve(here, '../../web/dist'));
  const app = await createApp(folder.databaseFile, pages, origins);
  await app.init();
  const shows = app.get(ShowsService);
  if (process.env.RACKLE_SHOW && shows.isEmpty) await shows.import(showFile(process.env.RACKLE_SHOW));
  // What is wrong with the port is said below, in one line.
  app.useLogger(false);
  const kept = readPorts(data);
  const page = await listen(app.getHttpServer() as Server, wanted ?? kept?.page ?? USUAL_PORT);
  app.useLogger(['error', 'warn']);
  origins.page = originAt(page);
  const hostServer = createHostServer(
    pages,
    app.get(FilesService),
    () => origins.page,
    () => ({ 'rackle-page': origins.page }),
  );
  if (hostServer !== null) {
    const host = await listenForFrames(hostServer, kept?.page === page ? kept.host : null, wanted === 0);
    origins.host = originAt(host);
    keepPorts(data, { page, host });
  }
  const missing = shippedBankProblem();
  if (missing !== null) process.stderr.write(`rackle: ${missing}\n`);
  process.stdout.write(`Rackle is at ${origins.page}\n`);
}

const originAt = (port: number): string => `http://${LOOPBACK}:${port}`;

/** @returns null: none is wanted, so the kept one or the usual one is taken. @throws StartProblem where it is no port */
function wantedPort(text: string | undefined): number | null {
  if (text === undefined) return null;
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new StartProblem(`PORT is ${text}, which is no port number`);
  return port;
}

/** @returns the port on which it listens; 0 chooses one. @throws when the port is taken */
function listen(server: Server, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, LOOPBACK, () => {
      server.off('error', reject);
      resolve((server.address() as AddressInfo).port);
    });
  });
}

/**
 * The second port never moves by itself: what the browser keeps there would be lost. The first time it is any that is
 * free.
 */
async function listenForFrames(server: Server, kept: number | null, isTrial: boolean): Promise<number> {
  if (kept === null) return listen(server, 0);
  try {
    return await listen(server, kept);
  } catch (cause) {
    if (isTrial) return listen(server, 0);
    if ((cause as { code?: string }).code !== 'EADDRINUSE') throw cause;
    throw new StartProblem(
      `port ${kept}, which this data folder has kept for the sound, is in use by another program; end that one, or remove ports.json in the data folder to choose another`,
    );
  }
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
