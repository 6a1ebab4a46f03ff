import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, describe, expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import { backUp, listBackups, outdated, restore, type Backup } from '../src/storage/backups';
import { BackupsService } from '../src/storage/backups.service';
import { DATABASE, lock } from '../src/storage/folder';
import { keepPorts } from '../src/storage/ports';
import { TestServer, song } from './server';

const dist = join(dirname(fileURLToPath(import.meta.url)), '../dist');
const folders: string[] = [];
const newFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'rackle-start-'));
  folders.push(folder);
  return folder;
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

/** Starts the built server and waits until it has ended. */
const ended = (folder: string, more: object = {}) => {
  const env = { ...process.env, PORT: '0', RACKLE_DATA: folder, RACKLE_SHOW: '', ...more };
  const options = { env, encoding: 'utf8', timeout: 30_000 } as const;
  const { status, stderr } = spawnSync(process.execPath, [join(dist, 'main.js')], options);
  return { status, lines: stderr.trim().split('\n') };
};
const command = (folder: string, ...words: string[]) => {
  const env = { ...process.env, RACKLE_DATA: folder };
  return spawnSync(process.execPath, [join(dist, 'backupsCommand.js'), ...words], { env, encoding: 'utf8' });
};

/** Until it has printed its address. */
const started = (folder: string): Promise<ChildProcess> =>
  new Promise((resolve, reject) => {
    const env = { ...process.env, PORT: '0', RACKLE_DATA: folder, RACKLE_SHOW: '' };
    const child = spawn(process.execPath, [join(dist, 'main.js')], { env, stdio: ['ignore', 'pipe', 'inherit'] });
    child.stdout!.on('data', (chunk: Buffer) => chunk.toString().includes('http://') && resolve(child));
    child.on('exit', () => reject(new Error('the server ended')));
  });
const kill = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => {
    child.removeAllListeners('exit');
    child.on('exit', () => resolve());
    child.kill('SIGKILL');
  });

/** A folder with one song in its database, and nothing running. */
async function withSong(name = 'Kelp Dance'): Promise<string> {
  const server = await TestServer.start(newFolder());
  await server.call('put', '/api/v1/songs/kelp').set('If-None-Match', '*').send(song('kelp', { name })).expect(200);
  await server.stop(true);
  return server.folder;
}
const nameIn = (file: string): unknown => {
  const database = new Sqlite(file, { readonly: true });
  try {
    return database.prepare('SELECT "name" FROM "songs"').pluck().get();
  } finally {
    database.close();
  }
};

describe('a start that cannot be is one clear line and exit status 2', () => {
  const oneLine = (result: ReturnType<typeof ended>, words: RegExp): void => {
    expect(result.status).toBe(2);
    expect(result.lines).toHaveLength(1);
    expect(result.lines[0]).toMatch(words);
    expect(result.lines[0]).not.toMatch(/node_modules|at .*:\d+/);
  };

  it('with a database that is cut short, overwritten, empty, or of another program; the file stays as it is', async () => {
    const cut = await withSong();
    truncateSync(join(cut, DATABASE), 12_288);
    oneLine(ended(cut), /damaged or cut short.*npm run restore/);
    const zeroed = newFolder();
    writeFileSync(join(zeroed, DATABASE), Buffer.alloc(20_000));
    oneLine(ended(zeroed), /is no database, or its beginning is overwritten/);
    const empty = newFolder();
    writeFileSync(join(empty, DATABASE), '');
    oneLine(ended(empty), /is empty \(0 bytes\)/);
    const foreign = newFolder();
    const other = new Sqlite(join(foreign, DATABASE));
    other.exec('CREATE TABLE "recipes" ("id" text)');
    other.close();
    oneLine(ended(foreign), /is not one of Rackle's/);
    const newer = await withSong();
    const database = new Sqlite(join(newer, DATABASE));
    database.prepare(`INSERT INTO "migrations" ("timestamp", "name") VALUES (1, 'OfTomorrow')`).run();
    database.close();
    oneLine(ended(newer), /written by a newer Rackle/);
  });

  it('with a folder that cannot be written, a port that is no port, and a port in use', async () => {
    const file = join(newFolder(), 'file');
    writeFileSync(file, '');
    oneLine(ended(join(file, 'data')), /cannot be written; choose another one with RACKLE_DATA/);
    oneLine(ended(newFolder(), { PORT: 'deck' }), /no port number/);
    const taken = createServer();
    await new Promise<void>((resolve) => taken.listen(0, '127.0.0.1', resolve));
    const { port } = taken.address() as { port: number };
    oneLine(ended(newFolder(), { PORT: String(port) }), /port is in use/);
    // The second port that a folder has kept never moves by itself.
    const kept = newFolder();
    const page = createServer();
    await new Promise<void>((resolve) => page.listen(0, '127.0.0.1', resolve));
    const { port: free } = page.address() as { port: number };
    await new Promise((resolve) => page.close(resolve));
    keepPorts(kept, { page: free, host: port });
    oneLine(ended(kept, { PORT: String(free) }), /kept for the sound, is in use/);
    taken.close();
  });

  it('with a folder that another Rackle holds, whose running upload stays; after a kill the folder is free', async () => {
    const folder = newFolder();
    const first = await started(folder);
    const upload = join(folder, 'files', 'running.part');
    writeFileSync(upload, 'half');
    oneLine(ended(folder), /another Rackle runs with the data folder/);
    expect(existsSync(upload)).toBe(true);
    await kill(first);
    await kill(await started(folder));
    expect(existsSync(upload)).toBe(false);
  });
});

describe('backups', () => {
  it('make themselves at the start, and again only when the newest is half a day old', async () => {
    const server = await TestServer.start(newFolder());
    const backups = server.app.get(BackupsService);
    const inHours = (hours: number): Date => new Date(Date.now() + hours * 3_600_000);
    await server.call('put', '/api/v1/songs/kelp').set('If-None-Match', '*').send(song('kelp')).expect(200);
    const made = await backups.look(inHours(13));
    expect(made).toMatch(/\.daily\.sqlite$/);
    expect(await backups.look(inHours(14))).toBeNull();
    const folder = join(server.folder, 'backups');
    expect(nameIn(join(folder, made!))).toBe('kelp');
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
    await server.stop();
  });

  it('are rotated: seven days, four weeks; those before a migration or a restore stay four weeks', () => {
    const now = new Date('2026-06-21T22:00:00Z');
    const daysAgo = (days: number, reason: Backup['reason'] = 'daily'): Backup => {
      const madeAt = new Date(now.getTime() - days * 86_400_000);
      return { name: `${days} ${reason}`, madeAt, reason, bytes: 1 };
    };
    const all = [
      ...Array.from({ length: 40 }, (_, days) => daysAgo(days)),
      daysAgo(20, 'before-migration'),
      daysAgo(30, 'before-restore'),
    ];
    const gone = outdated(all, now).map(({ name }) => name);
    const kept = all.filter(({ name }) => !gone.includes(name)).map(({ name }) => name);
    expect(kept.filter((name) => Number.parseInt(name) < 7)).toHaveLength(7);
    expect(kept.filter((name) => name.endsWith('daily') && Number.parseInt(name) >= 7).length).toBeGreaterThanOrEqual(
      2,
    );
    expect(kept.filter((name) => name.endsWith('daily')).length).toBeLessThanOrEqual(11);
    expect(kept).toContain('20 before-migration');
    expect(gone).toContain('30 before-restore');
    expect(outdated(all.slice(0, 1), now)).toEqual([]);
  });

  it('are made before a migration changes anything', async () => {
    const folder = await withSong();
    const database = new Sqlite(join(folder, DATABASE));
    database.exec('DROP TABLE "meta"; DROP TABLE "edits"');
    database.prepare(`DELETE FROM "migrations" WHERE "name" LIKE 'EditsByName%'`).run();
    database.close();
    await kill(await started(folder));
    const [backup] = listBackups(join(folder, 'backups')).filter(({ reason }) => reason === 'before-migration');
    expect(nameIn(join(folder, 'backups', backup.name))).toBe('Kelp Dance');
  });

  it('are listed and brought back by command; the present show is kept, and edits for it are no longer taken', async () => {
    const folder = await withSong('Before');
    const database = new Sqlite(join(folder, DATABASE));
    const name = await backUp(database, join(folder, 'backups'), new Date('2026-06-21T20:00:00Z'), 'daily');
    const dataId = database.prepare('SELECT "value" FROM "meta"').pluck().get();
    database.prepare(`UPDATE "songs" SET "name" = 'After'`).run();
    database.close();
    expect(command(folder, 'list').stdout).toContain(name);
    expect(command(folder, 'restore', 'ghost')).toMatchObject({ status: 2, stderr: expect.stringContaining(name) });
    const release = lock(folder);
    expect(command(folder, 'restore', name)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('another Rackle'),
    });
    release();
    const done = command(folder, 'restore', name);
    expect([done.status, done.stderr]).toEqual([0, '']);
    expect(nameIn(join(folder, DATABASE))).toBe('Before');
    const [kept] = listBackups(join(folder, 'backups')).filter(({ reason }) => reason === 'before-restore');
    expect(nameIn(join(folder, 'backups', kept.name))).toBe('After');
    const back = new Sqlite(join(folder, DATABASE), { readonly: true });
    expect(back.prepare('SELECT "value" FROM "meta"').pluck().get()).not.toBe(dataId);
    back.close();
  });

  it('that are damaged are refused, and the present show stands', async () => {
    const folder = await withSong('Present');
    const database = new Sqlite(join(folder, DATABASE));
    const name = await backUp(database, join(folder, 'backups'), new Date(), 'daily');
    database.close();
    truncateSync(join(folder, 'backups', name), 12_288);
    expect(command(folder, 'restore', name).status).toBe(2);
    expect(nameIn(join(folder, DATABASE))).toBe('Present');
  });

  it('killed anywhere in the middle of being brought back, the one show or the other stands whole', async () => {
    const template = await withSong('Before');
    const database = new Sqlite(join(template, DATABASE));
    const name = await backUp(database, join(template, 'backups'), new Date('2026-06-21T20:00:00Z'), 'daily');
    database.prepare(`UPDATE "songs" SET "name" = 'After'`).run();
    database.close();
    const outcomes = new Set<unknown>();
    // Killed as soon as a file of a step of it is there, one step later each time.
    for (const step of ['.next', 'before-restore', 'none']) {
      const folder = newFolder();
      cpSync(template, folder, { recursive: true });
      const env = { ...process.env, RACKLE_DATA: folder };
      const child = spawn(process.execPath, [join(dist, 'backupsCommand.js'), 'restore', name], {
        env,
        stdio: 'ignore',
      });
      const isThere = (): boolean =>
        [...readdirSync(folder), ...readdirSync(join(folder, 'backups'))].some((file) => file.includes(step));
      let over = false;
      child.on('exit', () => (over = true));
      while (!over && !isThere()) await new Promise(setImmediate);
      child.kill('SIGKILL');
      while (!over) await new Promise(setImmediate);
      const server = await TestServer.start(folder);
      outcomes.add((await server.call('get', '/api/v1/songs/kelp').expect(200)).body.revision);
      const there = nameIn(join(folder, DATABASE));
      expect(['Before', 'After']).toContain(there);
      await server.stop();
    }
    expect(outcomes).toEqual(new Set([1]));
    await restore(template, DATABASE, name, new Date());
    expect(nameIn(join(template, DATABASE))).toBe('Before');
  });
});

describe('the doors', () => {
  it('answer with the pages below a folder whose name begins with a dot; unknown paths are 404; answers are compressed', async () => {
    const pages = join(newFolder(), '.apps', 'rackle');
    mkdirSync(join(pages, 'assets'), { recursive: true });
    writeFileSync(join(pages, 'index.html'), `<p>${'Rackle '.repeat(400)}</p>`);
    const server = await TestServer.start(newFolder(), pages);
    const page = await server
      .call('get', '/songs/kelp')
      .set('Accept', 'text/html')
      .set('Accept-Encoding', 'br')
      .expect(200);
    expect(page.headers['content-encoding']).toBe('br');
    expect(page.headers['content-security-policy']).toContain('form-action');
    await server.call('get', '/wordpress/login.php').set('Accept', 'text/html').expect(404);
    await server.call('get', '/songs.map').set('Accept', 'application/json').expect(404);
    await server.call('get', '/assets/none.js').expect(404);
    await server.stop();
  });

  it('refuse at once what is nested deep, what names its fields at length, and what is no JSON by its type', async () => {
    const server = await TestServer.start(newFolder());
    const post = (text: string, type = 'application/json') =>
      server.call('post', '/api/v1/edits').set('Content-Type', type).send(text);
    const deep = await post('['.repeat(20_000_000)).expect(422);
    expect(deep.body.detail).toContain('nested deeper');
    const long = 'k'.repeat(5000);
    const named = await post(`{"${long}": 1}`).expect(422);
    expect(JSON.stringify(named.body)).not.toContain(long.slice(0, 250));
    await post('{"id":"x","label":"y","items":[]}').expect(422);
    expect((await post('id=x', 'application/x-www-form-urlencoded').expect(415)).body.code).toBe('wrong-type');
    expect((await post('{"a":"\\"]]]]", "b": [[[]]]}').expect(422)).body.code).toBe('invalid');
    await server.stop();
  });
});

it('a full disk is said to be full', async () => {
  const { storageProblem } = await import('../src/storage/storageProblem');
  expect(storageProblem({ code: 'SQLITE_FULL' })).toMatchObject({ code: 'storage-full', status: 507 });
  const server = await TestServer.start(newFolder());
  const { DataSource } = await import('typeorm');
  await server.app.get(DataSource).query('PRAGMA max_page_count = 1');
  const body = song('big', { description: 'x'.repeat(4000) });
  let answer = await server.call('put', '/api/v1/songs/big').set('If-None-Match', '*').send(body);
  for (let i = 0; answer.status === 200 && i < 200; i++)
    answer = await server
      .call('put', `/api/v1/songs/big${i}`)
      .set('If-None-Match', '*')
      .send({ ...body, id: `big${i}` });
  expect([answer.status, answer.body.code]).toEqual([507, 'storage-full']);
  await server.stop();
});
