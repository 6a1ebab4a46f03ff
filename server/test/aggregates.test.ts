import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { steadyMap } from '@rackle/core/show';
import { TestServer, demoShow, song } from './server';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const put = (id: string, revision: number, body: object) => {
  const call = server.call('put', `/api/v1/songs/${id}`);
  return (revision === 0 ? call.set('If-None-Match', '*') : call.set('If-Match', `"${revision}"`)).send(body);
};

describe('a song', () => {
  it('is saved, read back whole with its defaults, and counts its revisions', async () => {
    const made = await put('kelp', 0, song('kelp', { map: steadyMap(128) })).expect(200);
    expect(made.body).toMatchObject({
      revision: 1,
      body: { id: 'kelp', map: { tempos: [{ bpm: 128 }] }, patches: [] },
    });
    const changed = await put('kelp', 1, { ...made.body.body, name: 'Kelp Dance' }).expect(200);
    expect(changed.headers.etag).toBe('"2"');
    const read = await server.call('get', '/api/v1/songs/kelp').expect(200);
    expect(read.body.body.name).toBe('Kelp Dance');
  });

  it('changed in two tabs: the second is refused with 412 and shown what stands there; nothing is overwritten', async () => {
    await put('moth', 0, song('moth')).expect(200);
    await put('moth', 1, song('moth', { name: 'From one tab' })).expect(200);
    const refused = await put('moth', 1, song('moth', { name: 'From the other' })).expect(412);
    expect(refused.headers['content-type']).toContain('application/problem+json');
    expect(refused.body).toMatchObject({ code: 'stale', current: { revision: 2, body: { name: 'From one tab' } } });
    expect((await server.call('get', '/api/v1/songs/moth')).body.body.name).toBe('From one tab');
  });

  it('saved from two tabs at the very same time is saved once', async () => {
    await put('salt', 0, song('salt')).expect(200);
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) => put('salt', 1, song('salt', { name: `Try ${i}` }))),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 412, 412, 412, 412, 412, 412, 412]);
  });

  it('that is not valid names the faulty field and leaves what was there', async () => {
    await put('jug', 0, song('jug')).expect(200);
    const refused = await put('jug', 1, song('jug', { map: steadyMap(4000) })).expect(422);
    expect(refused.body).toMatchObject({ code: 'invalid', path: ['map', 'tempos', 0, 'bpm'] });
    const upsideDown = song('jug', {
      layers: [
        { id: 'a', name: 'A', tape: 'moss', sound: { instrumentId: 'causeway', presetId: 'causeway/late-boat' } },
      ],
      patches: [{ id: 'p', name: 'P', parts: [{ layerId: 'a', zone: { lowKey: 80, highKey: 20 } }] }],
    });
    const zone = await put('jug', 1, upsideDown).expect(422);
    expect(zone.body).toMatchObject({ code: 'broken-reference', path: ['patches', 0, 'parts', 0, 'zone'] });
    expect((await server.call('get', '/api/v1/songs/jug')).body.revision).toBe(1);
  });

  it('needs its revision named, and its id to be the one of the address', async () => {
    expect((await server.call('put', '/api/v1/songs/x').send(song('x')).expect(428)).body.code).toBe(
      'revision-missing',
    );
    expect((await put('x', 0, song('y')).expect(422)).body.code).toBe('id-mismatch');
  });

  it('keeps every earlier state, also through deletion and return', async () => {
    await put('bell', 0, song('bell')).expect(200);
    await put('bell', 1, song('bell', { name: 'Slow Bell' })).expect(200);
    await server.call('delete', '/api/v1/songs/bell').set('If-Match', '"2"').expect(204);
    await server.call('get', '/api/v1/songs/bell').expect(404);
    const back = await put('bell', 0, song('bell', { name: 'Slow Bell again' })).expect(200);
    expect(back.body.revision).toBe(4);
    const history = await server.call('get', '/api/v1/songs/bell/history').expect(200);
    expect(
      history.body.map((entry: { revision: number; deleted: boolean }) => [entry.revision, entry.deleted]),
    ).toEqual([
      [4, false],
      [3, true],
      [2, false],
      [1, false],
    ]);
    expect((await server.call('get', '/api/v1/songs/bell/history/1').expect(200)).body.body.name).toBe('bell');
    await server.call('get', '/api/v1/songs/bell/history/3').expect(404);
  });

  it('that stands in a setlist cannot be deleted; the answer says where', async () => {
    await put('reel', 0, song('reel')).expect(200);
    await server
      .call('put', '/api/v1/setlists/night')
      .set('If-None-Match', '*')
      .send({ id: 'night', name: 'Night', entries: [{ kind: 'song', id: 'e', songId: 'reel' }] })
      .expect(200);
    const refused = await server.call('delete', '/api/v1/songs/reel').set('If-Match', '"1"').expect(409);
    expect(refused.body.detail).toContain('Night');
  });
});

describe('a setlist', () => {
  it('with a song that was deleted is refused', async () => {
    const refused = await server
      .call('put', '/api/v1/setlists/other')
      .set('If-None-Match', '*')
      .send({ id: 'other', name: 'Other', entries: [{ kind: 'song', id: 'e', songId: 'gone' }] })
      .expect(422);
    expect(refused.body).toMatchObject({ code: 'broken-reference', path: ['entries', 0, 'songId'] });
  });
});

describe('the show file', () => {
  it('comes in and goes out the same', async () => {
    const fresh = await TestServer.start();
    await fresh.import(demoShow());
    const out = JSON.parse((await fresh.call('get', '/api/v1/show/file').expect(200)).text);
    const byId = (items: { id: string }[]) => [...items].sort((a, b) => a.id.localeCompare(b.id));
    for (const part of ['songs', 'setlists', 'instruments', 'gearLists'] as const)
      expect(byId(out[part])).toEqual(byId(demoShow()[part]));
    await fresh.stop();
  });

  it('comes in whole or not at all', async () => {
    const fresh = await TestServer.start();
    await fresh.import(demoShow());
    const before = (await fresh.call('get', '/api/v1/show')).body;
    const broken = demoShow();
    broken.songs[0].name = 'Changed';
    broken.setlists[0].entries.push({ kind: 'song', id: 'ghost', songId: 'no-such-song', skip: false } as never);
    const refused = await fresh.call('post', '/api/v1/show/file').send(broken).expect(422);
    expect(refused.body).toMatchObject({ code: 'broken-reference' });
    await fresh
      .call('post', '/api/v1/show/file')
      .send({ ...demoShow(), version: 99 })
      .expect(422)
      .expect((answer) => expect(answer.body.code).toBe('newer-version'));
    await fresh
      .call('post', '/api/v1/show/file')
      .send({ format: 'something' })
      .expect(422)
      .expect((answer) => expect(answer.body.code).toBe('not-a-show'));
    await fresh
      .call('post', '/api/v1/show/file')
      .set('Content-Type', 'application/json')
      .send('{"format": "rackle-show", ')
      .expect(400)
      .expect((answer) => expect(answer.body.code).toBe('not-json'));
    expect((await fresh.call('get', '/api/v1/show')).body).toEqual(before);
    await fresh.stop();
  });

  it('of 50 MB is refused with clear words', async () => {
    const refused = await server
      .call('post', '/api/v1/show/file')
      .set('Content-Type', 'application/json')
      .send(`{"x":"${'a'.repeat(50 * 1024 * 1024)}"}`)
      .expect(413);
    expect(refused.body.code).toBe('too-large');
  });
});
