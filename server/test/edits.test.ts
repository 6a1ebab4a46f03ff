import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import { HistoryService } from '../src/history/history.service';
import { overBound, thinned } from '../src/history/thinning';
import { TestServer, demoShow, song } from './server';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const edit = (id: string, items: object[], more: object = {}) =>
  server.call('post', '/api/v1/edits').send({ id, label: 'try', items, ...more });
const item = (id: string, revision: number, over: object | null = {}) => ({
  kind: 'songs',
  id,
  revision,
  body: over === null ? null : song(id, over),
});
const night = (songId: string) => ({ id: 'night', name: 'Night', entries: [{ kind: 'song', id: 'e', songId }] });
const revisionOf = async (id: string): Promise<number | null> =>
  (await server.call('get', `/api/v1/songs/${id}`)).body.revision ?? null;

describe('an edit', () => {
  it('is saved whole, in whatever order its items stand, and says the revision of each', async () => {
    const items = [{ kind: 'setlists', id: 'night', revision: 0, body: night('kelp') }, item('kelp', 0)];
    const { body } = await edit('e1', items).expect(200);
    expect(body).toMatchObject({
      id: 'e1',
      items: [
        { id: 'night', revision: 1 },
        { id: 'kelp', revision: 1 },
      ],
    });
    expect(body.dataId).toBe((await server.call('get', '/api/v1/show')).body.dataId);
  });

  it('of which one item is stale saves none, and lists each stale one with what stands there', async () => {
    await edit('e2', [item('moth', 0), item('salt', 0)]).expect(200);
    await edit('e3', [item('moth', 1, { name: 'Moth and Lamp' })]).expect(200);
    const refused = await edit('e4', [item('salt', 1, { name: 'Salt' }), item('moth', 1, { name: 'Other' })]).expect(
      412,
    );
    expect(refused.body).toMatchObject({
      code: 'stale',
      items: [{ kind: 'songs', id: 'moth', current: { revision: 2, body: { name: 'Moth and Lamp' } } }],
    });
    expect(await revisionOf('salt')).toBe(1);
  });

  it('sent again is answered as the first time and saved once; the same id with other content is refused', async () => {
    const first = await edit('e5', [item('jug', 0)]).expect(200);
    await edit('e6', [item('jug', 1, { name: 'Pewter Jug' })]).expect(200);
    expect((await edit('e5', [item('jug', 0)]).expect(200)).body).toEqual(first.body);
    expect(await revisionOf('jug')).toBe(2);
    expect((await edit('e5', [item('jug', 2, { name: 'Else' })]).expect(409)).body.code).toBe('edit-changed');
  });

  it('made for another data folder is refused before anything is compared', async () => {
    const refused = await edit('e7', [item('jug', 99)], { dataId: 'another' }).expect(409);
    expect(refused.body.code).toBe('other-data');
  });

  it('that deletes what is in use says where; together with its last use it goes', async () => {
    const refused = await edit('e8', [item('kelp', 1, null)]).expect(422);
    expect(refused.body.detail).toContain('Night');
    const items = [item('kelp', 1, null), { kind: 'setlists', id: 'night', revision: 1, body: null }];
    expect((await edit('e9', items).expect(200)).body.items).toEqual([
      { kind: 'songs', id: 'kelp', revision: 0 },
      { kind: 'setlists', id: 'night', revision: 0 },
    ]);
    expect(await revisionOf('kelp')).toBeNull();
  });

  it('refuses only new faults: one that stood there before stops nobody', async () => {
    const database = new Sqlite(server.databaseFile);
    await edit('f1', [item('reel', 0)]).expect(200);
    await edit('f2', [{ kind: 'setlists', id: 'old', revision: 0, body: { ...night('reel'), id: 'old' } }]).expect(200);
    await server.stop(true);
    database.prepare('DELETE FROM "songs" WHERE "id" = ?').run('reel');
    database.close();
    server = await TestServer.start(server.folder);
    const old = { ...night('reel'), id: 'old', name: 'Old night' };
    await edit('f3', [{ kind: 'setlists', id: 'old', revision: 1, body: old }]).expect(200);
    const worse = { ...old, entries: [...old.entries, { kind: 'song', id: 'e2', songId: 'ghost' }] };
    expect((await edit('f4', [{ kind: 'setlists', id: 'old', revision: 2, body: worse }]).expect(422)).body.code).toBe(
      'broken-reference',
    );
  });

  it('names itself in the history; what was not taken is kept there under a name', async () => {
    await edit('h1', [item('bell', 0)], { label: 'start a song' }).expect(200);
    const aside = {
      id: 'h2',
      name: 'this window’s, of 21:40',
      items: [{ kind: 'songs', id: 'bell', body: song('bell') }],
    };
    await server.call('post', '/api/v1/edits/aside').send(aside).expect(200);
    await server.call('post', '/api/v1/edits/aside').send(aside).expect(200);
    expect((await server.call('get', '/api/v1/songs/bell/history')).body).toMatchObject([
      { revision: null, name: 'this window’s, of 21:40' },
      { revision: 1, label: 'start a song' },
    ]);
  });

  it('that is no edit is refused with the place of the fault', async () => {
    for (const wrong of [{}, { id: 'x', label: 'y', items: [] }, { id: '', label: 'y', items: [item('a', 0)] }])
      expect((await server.call('post', '/api/v1/edits').send(wrong).expect(422)).body.code).toBe('invalid');
    expect((await edit('x1', [item('twice', 0), item('twice', 0)]).expect(422)).body.path).toEqual(['items', 1]);
    expect((await edit('x2', [item('fast', 0, { durationSeconds: 9999 })]).expect(422)).body.path).toEqual([
      'items',
      0,
      'body',
      'durationSeconds',
    ]);
    expect((await edit('x3', [item('bad id', 0)]).expect(422)).body.code).toBe('invalid');
    expect((await edit('x4', [item('ghostly', 0, { name: '\u200b\u200b' })]).expect(422)).body.code).toBe('invalid');
  });
});

it('a song with an id that is a word of Rackle’s own can be deleted', async () => {
  await edit('o1', [
    item('order', 0),
    { kind: 'setlists', id: 'n2', revision: 0, body: { id: 'n2', name: 'N2' } },
  ]).expect(200);
  await server.call('delete', '/api/v1/songs/order').set('If-Match', '"1"').expect(204);
});

describe('the history', () => {
  const at = (minutesAgo: number): string => new Date(Date.UTC(2026, 5, 21, 22) - minutesAgo * 60_000).toISOString();
  const now = new Date(Date.UTC(2026, 5, 21, 22));
  const state = (number: number, minutesAgo: number, over: object = {}) => ({
    number,
    savedAt: at(minutesAgo),
    deleted: 0,
    named: 0,
    ...over,
  });

  it('keeps every save of the last hour, one per ten minutes of a day, one a day before; the last of each by number', () => {
    const day = 1440;
    expect(
      thinned(
        [1, 2, 3].map((n) => state(n, 50 - n)),
        now,
      ),
    ).toEqual([]);
    expect(thinned([state(1, 128), state(2, 127), state(3, 126), state(4, 5)], now)).toEqual([1, 2]);
    expect(thinned([state(1, 3 * day + 200), state(2, 3 * day + 100), state(3, 2 * day), state(4, 1)], now)).toEqual([
      1,
    ]);
    // The clock was set back in between: number 2 is the later one.
    expect(thinned([state(1, 126), state(2, 128), state(3, 5)], now)).toEqual([1]);
  });

  it('always keeps the newest, the last body before a deletion, and what has a name', () => {
    const old = [
      state(1, 9000),
      state(2, 8999),
      state(3, 8998, { deleted: 1 }),
      state(4, 8997, { named: 1 }),
      state(5, 8996),
    ];
    expect(thinned(old, now)).toEqual([1, 3]);
    expect(thinned([state(1, 9000)], now)).toEqual([]);
  });

  it('keeps within its bound by dropping the oldest unnamed first; named ones over it are reported, not dropped', () => {
    const state = (number: number, bytes: number, named = 0) => ({ number, of: 'songs a', deleted: 0, named, bytes });
    expect(overBound([state(1, 10), state(2, 10), state(3, 10)], 20)).toEqual({ drop: [1], isOver: false });
    expect(overBound([state(1, 10, 1), state(2, 10, 1), state(3, 10)], 20)).toEqual({ drop: [], isOver: true });
  });

  it('is thinned beside the saving, and what is left can be read', async () => {
    const database = new Sqlite(server.databaseFile);
    for (let revision = 0; revision < 5; revision++)
      await edit(`t${revision}`, [item('thin', revision, { name: `T${revision}` })]).expect(200);
    const longAgo = database.prepare(
      `UPDATE "history" SET "savedAt" = '2020-01-01T00:00:00Z' WHERE "aggregateId" = 'thin' AND "revision" < 5`,
    );
    longAgo.run();
    database.close();
    await server.app.get(HistoryService).thin(new Date());
    const left = (await server.call('get', '/api/v1/songs/thin/history')).body as { revision: number }[];
    expect(left.map(({ revision }) => revision)).toEqual([5, 4]);
    expect((await server.call('get', '/api/v1/songs/thin/history/4').expect(200)).body.body.name).toBe('T3');
  });
});

it('a row that cannot be read is named with its last good version; the rest opens, and nothing is written over it', async () => {
  const own = await TestServer.start();
  await own.import(demoShow());
  const { body: before } = await own.call('get', '/api/v1/songs/kelp-dance').expect(200);
  await own.stop(true);
  const database = new Sqlite(own.databaseFile);
  const raw = JSON.stringify({ ...before.body, durationSeconds: 9999 });
  database.prepare('UPDATE "songs" SET "body" = ? WHERE "id" = ?').run(raw, 'kelp-dance');
  database.close();
  const again = await TestServer.start(own.folder);
  const { body: show } = await again.call('get', '/api/v1/show').expect(200);
  expect(show.songs).toHaveLength(9);
  expect(show.unreadable).toMatchObject([
    {
      kind: 'songs',
      id: 'kelp-dance',
      text: raw,
      lastGood: { revision: 1, body: { durationSeconds: before.body.durationSeconds } },
    },
  ]);
  expect(show.unreadable[0].problem).toBe('Kelp Dance cannot be read: length 9999: at most 7200');
  // What points at it still counts as whole, and the file says what it leaves out.
  const setlist = show.setlists[0];
  const put = again.call('put', `/api/v1/setlists/${setlist.body.id}`).set('If-Match', `"${setlist.revision}"`);
  await put.send({ ...setlist.body, name: 'Again' }).expect(200);
  const file = JSON.parse((await again.call('get', '/api/v1/show/file').expect(200)).text);
  expect(file.unreadable).toMatchObject([{ id: 'kelp-dance', text: raw }]);
  await again
    .call('post', '/api/v1/edits')
    .send({
      id: 'mend',
      label: 'bring it back',
      items: [{ kind: 'songs', id: 'kelp-dance', revision: 1, body: show.unreadable[0].lastGood.body }],
    })
    .expect(200);
  expect((await again.call('get', '/api/v1/show')).body.unreadable).toEqual([]);
  const past = (await again.call('get', '/api/v1/songs/kelp-dance/history')).body as { name: string | null }[];
  expect(past.some(({ name }) => name === 'unreadable, before it was replaced')).toBe(true);
  await again.stop();
});
