import { expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import { TestServer } from './server';

const storeKelp = (server: TestServer) =>
  server
    .call('put', '/api/v1/songs/kelp')
    .set('If-None-Match', '*')
    .send({ id: 'kelp', name: 'Kelp Dance' })
    .expect(200);

it('a database of the first version is brought up, with what is kept of its past; nothing else in it changes', async () => {
  const before = await TestServer.start();
  const body = {
    id: 'night',
    name: 'Night',
    bindings: [
      { role: 'Next', action: { kind: 'nextStep' } },
      { role: 'Top', action: { kind: 'firstSong' } },
    ],
  };
  await before.call('put', '/api/v1/setlists/night').set('If-None-Match', '*').send(body).expect(200);
  await storeKelp(before);
  await before.stop(true);
  // As version 1 wrote it: actions as bare words, and no trace of the second migration.
  const database = new Sqlite(before.databaseFile);
  const old = JSON.stringify({
    ...body,
    bindings: [
      { role: 'Next', action: 'nextStep' },
      { role: 'Top', action: 'firstStep' },
    ],
  });
  database.prepare('UPDATE "setlists" SET "body" = ?').run(old);
  database.prepare(`UPDATE "history" SET "body" = ? WHERE "kind" = 'setlists'`).run(old);
  database.prepare(`DELETE FROM "migrations" WHERE "name" LIKE 'ActionKinds%'`).run();
  database.close();
  const after = await TestServer.start(before.folder);
  const read = await after.call('get', '/api/v1/setlists/night').expect(200);
  expect(read.body).toMatchObject({ revision: 1, body: { bindings: body.bindings } });
  const past = await after.call('get', '/api/v1/setlists/night/history/1').expect(200);
  expect(past.body.body.bindings).toMatchObject(body.bindings);
  expect((await after.call('get', '/api/v1/songs/kelp').expect(200)).body).toMatchObject({
    revision: 1,
    body: { name: 'Kelp Dance' },
  });
  await after.stop();
});

it('songs of one tempo and one meter get a map: those that are stored, their past, and those of the library', async () => {
  const before = await TestServer.start();
  await storeKelp(before);
  await before.stop(true);
  // As version 4 wrote it.
  const database = new Sqlite(before.databaseFile);
  const rest = JSON.parse(database.prepare('SELECT "body" FROM "songs"').pluck().get() as string) as { map?: unknown };
  delete rest.map;
  const song = { ...rest, tempoBpm: 128.5, meter: { beats: 6, unit: 8 }, bars: 84 };
  const item = { id: 'dance', name: 'Dance', kind: 'song', keptAt: '2026-01-01', song: { ...song, id: 'kelp-2' } };
  database.prepare('UPDATE "songs" SET "body" = ?').run(JSON.stringify(song));
  database.prepare(`UPDATE "history" SET "body" = ? WHERE "kind" = 'songs'`).run(JSON.stringify(song));
  database
    .prepare(`INSERT INTO "library_items" VALUES ('dance', 'Dance', 1, ?, '2026-01-01', '2026-01-01')`)
    .run(JSON.stringify(item));
  database.prepare(`DELETE FROM "migrations" WHERE "name" LIKE 'SongMaps%'`).run();
  database.close();
  const after = await TestServer.start(before.folder);
  const map = {
    tempos: [{ atTick: 0, bpm: 128.5, ramp: false }],
    meters: [{ bar: 1, beats: 6, unit: 8, early: 0 }],
    upbeatTicks: 0,
    bars: 84,
  };
  expect((await after.call('get', '/api/v1/songs/kelp').expect(200)).body).toMatchObject({
    revision: 1,
    body: { map },
  });
  expect((await after.call('get', '/api/v1/songs/kelp/history/1').expect(200)).body.body.map).toEqual(map);
  const { body: show } = await after.call('get', '/api/v1/show').expect(200);
  expect(show.libraryItems.map(({ body }: { body: object }) => body)).toMatchObject([{ song: { map } }]);
  await after.stop();
});
