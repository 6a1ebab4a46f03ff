import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import { TestServer, demoShow, song } from './server';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

describe('the doors', () => {
  it('answer no other host name and no other page', async () => {
    await server.call('get', '/api/v1/songs').set('Host', 'rackle.example').expect(403);
    const refused = await server.call('get', '/api/v1/songs').set('Origin', 'http://somewhere.example').expect(403);
    expect(refused.body.code).toBe('not-from-here');
    // Another port of this machine is another origin.
    await server.call('get', '/api/v1/songs').set('Host', '127.0.0.1:1').expect(403);
    await server.call('get', '/api/v1/songs').set('Origin', 'http://127.0.0.1:1').expect(403);
    await server.call('get', '/api/v1/songs').expect(200);
  });

  it('describe themselves by OpenAPI', async () => {
    const { body } = await server.call('get', '/api/docs').expect(200);
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths)).toContain('/api/v1/songs/{id}');
    expect(body.components.schemas.song.properties.durationSeconds.maximum).toBe(7200);
  });

  it('answer an unknown address with a problem document', async () => {
    expect((await server.call('get', '/api/v1/nothing').expect(404)).body.code).toBe('not-found');
  });
});

describe('the database', () => {
  it('locked by another program: the save is refused with clear words, and works again afterwards', async () => {
    const other = new Sqlite(server.databaseFile);
    other.exec('BEGIN EXCLUSIVE');
    const refused = await server
      .call('put', '/api/v1/songs/lamp')
      .set('If-None-Match', '*')
      .send(song('lamp'))
      .expect(503);
    expect(refused.body.code).toBe('storage-busy');
    other.exec('ROLLBACK');
    other.close();
    await server.call('put', '/api/v1/songs/lamp').set('If-None-Match', '*').send(song('lamp')).expect(200);
  });

  it('that turns read-only refuses the save with clear words and still reads', async () => {
    const { DataSource } = await import('typeorm');
    const dataSource = server.app.get(DataSource);
    await dataSource.query('PRAGMA query_only = ON');
    const refused = await server
      .call('put', '/api/v1/songs/wick')
      .set('If-None-Match', '*')
      .send(song('wick'))
      .expect(503);
    expect(refused.body.code).toBe('storage-read-only');
    await server.call('get', '/api/v1/songs').expect(200);
    await dataSource.query('PRAGMA query_only = OFF');
    await server.call('put', '/api/v1/songs/wick').set('If-None-Match', '*').send(song('wick')).expect(200);
  });

  it('keeps what was acknowledged when the server is killed while saving', async () => {
    const main = join(dirname(fileURLToPath(import.meta.url)), '../dist/main.js');
    if (!existsSync(main)) throw new Error('the server has to be built before its tests: npm run build');
    const folder = mkdtempSync(join(tmpdir(), 'rackle-kill-'));
    const { child, address } = await startServer(main, folder);
    const acknowledged = new Map<string, number>();
    let answers = 0;
    await Promise.all(
      Array.from({ length: 4 }, async (_, writer) => {
        for (let revision = 0; ; revision++) {
          const answer = await fetch(`${address}/api/v1/songs/w${writer}`, {
            method: 'PUT',
            headers: {
              'Content-Type': 'application/json',
              ...(revision === 0 ? { 'If-None-Match': '*' } : { 'If-Match': `"${revision}"` }),
            },
            body: JSON.stringify(song(`w${writer}`, { description: 'x'.repeat(2000) })),
          }).catch(() => null);
          if (answer === null) return;
          if (answer.status === 200) acknowledged.set(`w${writer}`, revision + 1);
          if (++answers === 60) child.kill('SIGKILL');
        }
      }),
    );
    expect([...acknowledged.values()].reduce((sum, revisions) => sum + revisions, 0)).toBeGreaterThan(4);
    const again = await TestServer.start(folder);
    for (const [id, revision] of acknowledged) {
      const { body } = await again.call('get', `/api/v1/songs/${id}`).expect(200);
      expect(body.revision).toBeGreaterThanOrEqual(revision);
      expect(body.revision).toBeLessThanOrEqual(revision + 1);
    }
    await again.stop();
    rmSync(folder, { recursive: true, force: true });
  });
});

it('an edit of two songs is saved whole or not at all, also when the server is killed in the middle of saving', async () => {
  const main = join(dirname(fileURLToPath(import.meta.url)), '../dist/main.js');
  const folder = mkdtempSync(join(tmpdir(), 'rackle-halves-'));
  const acknowledged = new Map<number, number>();
  const songs = (writer: number, stamp: number) =>
    ['a', 'b'].map((half) => song(`h${writer}${half}`, { name: `${stamp}` }) as { id: string });
  for (let kill = 0; kill < 4; kill++) {
    const { child, address } = await startServer(main, folder);
    let answers = 0;
    await Promise.all(
      [0, 1, 2].map(async (writer) => {
        for (let stamp = acknowledged.get(writer) ?? 0; ; stamp++) {
          const items = songs(writer, stamp + 1).map((body) => ({ kind: 'songs', id: body.id, revision: stamp, body }));
          const answer = await fetch(`${address}/api/v1/edits`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ id: `h${kill}-${writer}-${stamp}`, label: 'stamp', items }),
          }).catch(() => null);
          // The last of before may have been saved without its answer: that is one revision more.
          if (answer?.status === 412) continue;
          if (answer === null) return;
          if (answer.status === 200) acknowledged.set(writer, stamp + 1);
          if (++answers === 10 + kill) child.kill('SIGKILL');
        }
      }),
    );
    const again = await TestServer.start(folder);
    for (const [writer, stamp] of acknowledged) {
      const [a, b] = await Promise.all(
        songs(writer, 0).map(({ id }) => again.call('get', `/api/v1/songs/${id}`).expect(200)),
      );
      expect(a.body.body.name).toBe(b.body.body.name);
      expect(Number(a.body.body.name)).toBeGreaterThanOrEqual(stamp);
      acknowledged.set(writer, Number(a.body.body.name));
    }
    await again.stop(true);
  }
  rmSync(folder, { recursive: true, force: true });
});

describe('a start', () => {
  it('puts the demo in when the file is new, and leaves it alone when it is not', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'rackle-start-'));
    const first = await TestServer.start(folder);
    await first.import(demoShow());
    await first
      .call('put', '/api/v1/songs/slow-bell')
      .set('If-Match', '"1"')
      .send({ ...demoShow().songs[9], name: 'Slower Bell' })
      .expect(200);
    await first.stop(true);
    const second = await TestServer.start(folder);
    expect((await second.call('get', '/api/v1/songs/slow-bell').expect(200)).body).toMatchObject({
      revision: 2,
      body: { name: 'Slower Bell' },
    });
    await second.stop();
  });
});

function startServer(main: string, folder: string): Promise<{ child: ChildProcess; address: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [main], {
      env: { ...process.env, PORT: '0', RACKLE_DATA: folder, RACKLE_SHOW: '' },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    const hear = (chunk: Buffer): void => {
      said += chunk.toString();
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(said);
      if (found) resolve({ child, address: found[0] });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', () => reject(new Error(said)));
  });
}
