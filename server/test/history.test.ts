import { copyFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import type { Show } from '@rackle/core/show';
import { HistoryService, type Version } from '../src/history/history.service';
import { StatesService } from '../src/history/states.service';
import { BackupsService } from '../src/storage/backups.service';
import { TestServer, demoShow, song } from './server';

let server: TestServer;
let edits = 0;

beforeAll(async () => {
  server = await TestServer.start();
  await server.import(demoShow());
});
afterAll(() => server.stop());

const save = async (id: string, body: object | null, label = 'an edit'): Promise<void> => {
  const there = (await server.call('get', `/api/v1/songs/${id}`)) as { status: number; body: { revision: number } };
  const revision = there.status === 200 ? there.body.revision : 0;
  const items = [{ kind: 'songs', id, revision, body }];
  await server
    .call('post', '/api/v1/edits')
    .send({ id: `h-${edits++}`, label, items })
    .expect(200);
};
const versions = async (query = ''): Promise<Version[]> =>
  ((await server.call('get', `/api/v1/history${query}`).expect(200)).body as { versions: Version[] }).versions;

describe('what was saved', () => {
  it('is listed over everything, newest first, each with its name of then and the edit that made it', async () => {
    await save('bell', song('bell', { name: 'Bell' }), 'start a song');
    await save('bell', song('bell', { name: 'Bell Buoy' }), 'name it');
    expect((await versions()).slice(0, 2)).toMatchObject([
      { kind: 'songs', id: 'bell', of: 'Bell Buoy', label: 'name it', revision: 2, deleted: false },
      { kind: 'songs', id: 'bell', of: 'Bell', label: 'start a song', revision: 1 },
    ]);
    expect((await versions('?kind=songs&id=bell')).map(({ revision }) => revision)).toEqual([2, 1]);
    const [{ number }] = await versions();
    expect((await versions(`?before=${number}`))[0]).toMatchObject({ of: 'Bell' });
    await server.call('get', '/api/v1/history?kind=nothing').expect(422);
  });

  it('is read by its number, as it was', async () => {
    const [, first] = await versions('?kind=songs&id=bell');
    const { body } = await server.call('get', `/api/v1/history/${first.number}`).expect(200);
    expect(body).toMatchObject({ of: 'Bell', body: { id: 'bell', name: 'Bell' } });
    await server.call('get', '/api/v1/history/99999999').expect(404);
  });

  it('takes a note, and is kept for it however old it gets', async () => {
    for (let n = 0; n < 4; n++) await save('noted', song('noted', { name: `N${n}` }));
    const [, , second] = await versions('?kind=songs&id=noted');
    await server
      .call('put', `/api/v1/history/${second.number}/note`)
      .send({ note: ' before the rehearsal ' })
      .expect(204);
    const database = new Sqlite(server.databaseFile);
    database.prepare(`UPDATE "history" SET "savedAt" = '2020-01-01T00:00:00Z' WHERE "aggregateId" = 'noted'`).run();
    database.close();
    await server.app.get(HistoryService).thin(new Date());
    expect((await versions('?kind=songs&id=noted')).map(({ of, name }) => [of, name])).toEqual([
      ['N3', null],
      ['N1', 'before the rehearsal'],
    ]);
    await server
      .call('put', `/api/v1/history/${second.number}/note`)
      .send({ note: 'x'.repeat(201) })
      .expect(422);
    await server.call('put', '/api/v1/history/99999999/note').send({ note: 'x' }).expect(404);
  });

  it('by a newer Rackle is said to be unreadable, and stays', async () => {
    await save('newer', song('newer'));
    await save('newer', song('newer', { name: 'again' }));
    const [, old] = await versions('?kind=songs&id=newer');
    const database = new Sqlite(server.databaseFile);
    const text = JSON.stringify({ ...song('newer'), aFieldOfTomorrow: 1 });
    database.prepare('UPDATE "history" SET "body" = ? WHERE "number" = ?').run(text, old.number);
    const { body } = await server.call('get', `/api/v1/history/${old.number}`).expect(422);
    expect(body).toMatchObject({ code: 'unreadable', detail: expect.stringContaining('newer Rackle') });
    database.prepare('UPDATE "history" SET "body" = ? WHERE "number" = ?').run('{ no JSON', old.number);
    expect((await versions('?kind=songs&id=newer'))[1]).toMatchObject({ number: old.number, of: null });
    database.close();
  });

  it('keeps its order when the clock is set back', async () => {
    await save('clock', song('clock', { name: 'one' }));
    await save('clock', song('clock', { name: 'two' }));
    const [newest] = await versions('?kind=songs&id=clock');
    const database = new Sqlite(server.databaseFile);
    database.prepare(`UPDATE "history" SET "savedAt" = '1999-01-01T00:00:00Z' WHERE "number" = ?`).run(newest.number);
    database.close();
    expect((await versions('?kind=songs&id=clock')).map(({ of }) => of)).toEqual(['two', 'one']);
  });
});

describe('what was deleted', () => {
  it('is in one list with its last state, and leaves it when it is back', async () => {
    await save('gone', song('gone', { name: 'First' }));
    await save('gone', song('gone', { name: 'Last' }));
    await save('gone', null, 'delete Last');
    const list = async (): Promise<Version[]> =>
      (await server.call('get', '/api/v1/history/deleted').expect(200)).body as Version[];
    expect((await list())[0]).toMatchObject({ id: 'gone', of: 'Last', label: 'delete Last', deleted: false });
    const last = await server.call('get', `/api/v1/history/${(await list())[0].number}`).expect(200);
    await save('gone', (last.body as { body: object }).body, 'bring back Last');
    expect((await list()).some(({ id }) => id === 'gone')).toBe(false);
    expect((await versions('?kind=songs&id=gone')).map(({ revision }) => revision)).toEqual([4, 3, 2, 1]);
  });
});

describe('a state of the whole show under a name', () => {
  it('holds what stood then, through later edits, deletions and thinning', async () => {
    const before = ((await server.call('get', '/api/v1/show/file')).body as Show).songs;
    await server.call('put', '/api/v1/states/s1').send({ name: 'as played at Tern Ledge' }).expect(204);
    await save('bell', song('bell', { name: 'Another' }));
    await save('noted', null);
    const database = new Sqlite(server.databaseFile);
    database.prepare(`UPDATE "history" SET "savedAt" = '2020-01-01T00:00:00Z'`).run();
    database.close();
    await server.app.get(HistoryService).thin(new Date());
    const { body } = await server.call('get', '/api/v1/states/s1').expect(200);
    expect(body).toMatchObject({ name: 'as played at Tern Ledge', unreadable: [] });
    const byId = (songs: { id: string }[]) => [...songs].sort((a, b) => (a.id < b.id ? -1 : 1));
    expect(byId((body as { bodies: { songs: { id: string }[] } }).bodies.songs)).toEqual(byId(before));
  });

  it('is listed, named anew, and let go', async () => {
    await server.call('put', '/api/v1/states/s1').send({ name: 'the Ledge' }).expect(204);
    const { body } = await server.call('get', '/api/v1/states').expect(200);
    expect(body).toMatchObject([{ id: 's1', name: 'the Ledge' }]);
    await server.call('put', '/api/v1/states/s2').send({ name: '  ' }).expect(422);
    await server.call('delete', '/api/v1/states/s1').expect(204);
    await server.call('delete', '/api/v1/states/s1').expect(404);
    await server.call('get', '/api/v1/states/s1').expect(404);
    expect(await server.app.get(StatesService).all()).toEqual([]);
  });
});

describe('backups', () => {
  it('are listed, and each is opened without touching it or what stands', async () => {
    const name = await server.app.get(BackupsService).look(new Date(Date.now() + 86_400_000));
    await save('bell', song('bell', { name: 'after the backup' }));
    const { body: list } = await server.call('get', '/api/v1/backups').expect(200);
    expect(list[0]).toMatchObject({ name, reason: 'daily', madeAt: expect.any(String) });
    const { body } = await server.call('get', `/api/v1/backups/${name}`).expect(200);
    const songs = (body as { bodies: Show }).bodies.songs;
    expect(songs.find(({ id }) => (id as string) === 'bell')!.name).toBe('Another');
    expect((await server.call('get', '/api/v1/songs/bell')).body.body.name).toBe('after the backup');
  });

  it('that are damaged, foreign or of a newer Rackle are refused in words', async () => {
    const folder = join(server.folder, 'backups');
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, '2026-01-01T00-00-00Z.daily.sqlite'), 'no database at all');
    const foreign = new Sqlite(join(folder, '2026-01-02T00-00-00Z.daily.sqlite'));
    foreign.exec('CREATE TABLE "things" ("id" text)');
    foreign.close();
    const [whole] = server.app.get(BackupsService).all();
    const newer = join(folder, '2026-01-03T00-00-00Z.daily.sqlite');
    copyFileSync(join(folder, whole.name), newer);
    const database = new Sqlite(newer);
    database.exec(`INSERT INTO "migrations" ("timestamp", "name") VALUES (9999999999999, 'Tomorrow9999999999999')`);
    database.close();
    for (const [day, words] of [
      ['01', 'damaged'],
      ['02', 'no database of Rackle'],
      ['03', 'newer Rackle'],
    ]) {
      const { body } = await server.call('get', `/api/v1/backups/2026-01-${day}T00-00-00Z.daily.sqlite`).expect(422);
      expect(body).toMatchObject({ code: 'unreadable', detail: expect.stringContaining(words) });
    }
    await server.call('get', '/api/v1/backups/..%2Frackle.sqlite').expect(404);
  });
});
