import { expect, it } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import { TestServer } from './server';

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
  await before
    .call('put', '/api/v1/songs/kelp')
    .set('If-None-Match', '*')
    .send({ id: 'kelp', name: 'Kelp Dance' })
    .expect(200);
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
