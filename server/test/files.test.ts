import { createHash } from 'node:crypto';
import { existsSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { SHOW_VERSION } from '@rackle/core/show';
import { FilesService } from '../src/files/files.service';
import { writeBank } from '../../core/test/soundfont';
import { TestServer } from './server';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const bank = Buffer.from(writeBank());
const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
const upload = (bytes: Buffer, use = 'bank') =>
  server.call('post', `/api/v1/files?use=${use}`).set('Content-Type', 'application/octet-stream').send(bytes);
const stored = (): string[] => readdirSync(join(server.folder, 'files'));
const instrument = (file: string): object => ({
  kind: 'bank',
  id: 'lanterns',
  name: 'Lanterns',
  file,
  bytes: bank.length,
  presets: [{ id: 'lanterns/0/0', name: 'Lamp', bank: 0, program: 0 }],
});

describe('a stored file', () => {
  it('is named by what it contains, stored once, and comes back byte for byte', async () => {
    const made = await upload(bank).expect(201);
    expect(made.body).toEqual({ hash: hashOf(bank), bytes: bank.length });
    await upload(bank).expect(201);
    expect(stored()).toEqual([hashOf(bank)]);
    expect((await server.call('get', '/api/v1/files').expect(200)).body.hashes).toContain(hashOf(bank));
    const back = await server
      .call('get', `/api/v1/files/${hashOf(bank)}`)
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      })
      .expect(200);
    expect(Buffer.compare(back.body as Buffer, bank)).toBe(0);
    expect(back.headers['cache-control']).toContain('immutable');
  });

  it('that is empty, no bank, or shorter than it says is refused, and nothing of it stays', async () => {
    const before = stored();
    for (const wrong of [Buffer.alloc(0), Buffer.from('RIFFxxxxWAVEfmt '), bank.subarray(0, bank.length - 10)]) {
      const refused = await upload(wrong);
      expect(refused.status).toBe(422);
      expect(refused.body).toMatchObject({ code: 'file-broken' });
      expect(refused.body.detail).toContain('Nothing was stored');
    }
    expect((await upload(bank, 'picture')).body.code).toBe('invalid');
    expect(stored()).toEqual(before);
    await upload(Buffer.from('any sound at all'), 'recording').expect(201);
  });

  it('that is not there is said so; another name than a hash leads nowhere', async () => {
    for (const name of ['0'.repeat(64), '..%2F..%2Frackle.sqlite', 'rackle.sqlite'])
      expect((await server.call('get', `/api/v1/files/${name}`)).body.code).toBe('not-found');
  });

  it('stays while an instrument needs it, or a state that is kept of one; what nothing ever named goes after a month', async () => {
    const files = server.app.get(FilesService);
    const inDays = (days: number): Date => new Date(Date.now() + days * 86_400_000);
    const hash = hashOf(bank);
    await upload(bank).expect(201);
    await server
      .call('put', '/api/v1/instruments/lanterns')
      .set('If-None-Match', '*')
      .send(instrument(hash))
      .expect(200);
    await server.call('delete', '/api/v1/instruments/lanterns').set('If-Match', '"1"').expect(204);
    expect(await files.clean(inDays(400))).not.toContain(hash);
    const stray = Buffer.from('a sound that nothing plays');
    await upload(stray, 'recording').expect(201);
    expect(await files.clean(inDays(20))).not.toContain(hashOf(stray));
    expect(await files.clean(inDays(40))).toContain(hashOf(stray));
    expect(existsSync(join(server.folder, 'files', hashOf(stray)))).toBe(false);
  });

  it('half uploaded when the machine went down is gone after the next start', async () => {
    writeFileSync(join(server.folder, 'files', 'left-behind.part'), 'half');
    const { folder } = server;
    await server.stop(true);
    server = await TestServer.start(folder);
    expect(stored().filter((name) => name.endsWith('.part'))).toEqual([]);
  });
});

describe('a show with its files', () => {
  const binary = (path: string) =>
    server
      .call('get', path)
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      });
  const send = (to: TestServer, bytes: Buffer) =>
    to.call('post', '/api/v1/show/zip').set('Content-Type', 'application/zip').send(bytes);

  it('goes out as an archive, and its files and its show come in elsewhere', async () => {
    await upload(bank).expect(201);
    const { revision } = (await server.call('get', '/api/v1/instruments/lanterns')).body as { revision?: number };
    const put = server.call('put', '/api/v1/instruments/lanterns');
    await (revision ? put.set('If-Match', `"${revision}"`) : put.set('If-None-Match', '*'))
      .send(instrument(hashOf(bank)))
      .expect(200);
    const zip = (await binary('/api/v1/show/zip').expect(200)).body as Buffer;
    expect(zip.subarray(0, 2).toString()).toBe('PK');
    const other = await TestServer.start();
    const { body } = await send(other, zip).expect(200);
    expect(body).toMatchObject({ files: 1, show: { format: 'rackle-show', instruments: [{ id: 'lanterns' }] } });
    expect(readdirSync(join(other.folder, 'files'))).toEqual([hashOf(bank)]);
    await other.call('post', '/api/v1/show/file').send(body.show).expect(200);
    await other.stop();
    const now = (await server.call('get', '/api/v1/instruments/lanterns')).body as { revision: number };
    await server.call('delete', '/api/v1/instruments/lanterns').set('If-Match', `"${now.revision}"`).expect(204);
  });

  it('that is cut short, none, or not what it says is refused, and nothing of it stays', async () => {
    const zip = (await binary('/api/v1/show/zip').expect(200)).body as Buffer;
    const other = await TestServer.start();
    for (const wrong of [zip.subarray(0, zip.length - 40), Buffer.from('no archive at all'), Buffer.alloc(0)]) {
      const refused = await send(other, wrong);
      expect([refused.status, refused.body.code]).toEqual([422, 'file-broken']);
    }
    // A byte of the bank is another: its name says so.
    const changed = Buffer.from(zip);
    changed[zip.indexOf('sfbk') + 30] ^= 1;
    expect((await send(other, changed)).body.code).toBe('file-broken');
    expect(readdirSync(join(other.folder, 'files')).filter((name) => name.endsWith('.part'))).toEqual([]);
    expect((await other.call('get', '/api/v1/show')).body.instruments).toEqual([]);
    await other.stop();
  });
});

describe('the library and the shelf', () => {
  it('are saved like everything else, and go out and in with the show file', async () => {
    const item = {
      kind: 'patch',
      id: 'quay',
      name: 'Quay',
      keptAt: '2026-11-25T00:00:00.000Z',
      patch: { id: 'p', name: 'Quay' },
      layers: [],
    };
    await server.call('put', '/api/v1/library-items/quay').set('If-None-Match', '*').send(item).expect(200);
    await server
      .call('put', '/api/v1/shelves/shelf')
      .set('If-None-Match', '*')
      .send({ id: 'shelf', name: 'Shelf', stars: [{ instrumentId: 'causeway', presetId: 'causeway/late-boat' }] })
      .expect(200);
    const show = (await server.call('get', '/api/v1/show/file').expect(200)).body;
    expect(show).toMatchObject({
      version: SHOW_VERSION,
      libraryItems: [{ id: 'quay' }],
      shelves: [{ stars: [{ presetId: 'causeway/late-boat' }] }],
    });
    const other = await TestServer.start();
    await other.import(show);
    expect((await other.call('get', '/api/v1/show/file').expect(200)).body.libraryItems).toEqual(show.libraryItems);
    await other.stop();
  });

  it('an instrument that the library plays cannot be deleted', async () => {
    await server
      .call('put', '/api/v1/instruments/lanterns')
      .set('If-None-Match', '*')
      .send(instrument('b'.repeat(64)))
      .expect(200);
    const layer = {
      id: 'l',
      name: 'Lamp',
      tape: 'moss',
      sound: { instrumentId: 'lanterns', presetId: 'lanterns/0/0' },
    };
    await server
      .call('put', '/api/v1/library-items/lamp')
      .set('If-None-Match', '*')
      .send({
        kind: 'patch',
        id: 'lamp',
        name: 'Lamp patch',
        keptAt: '2026-11-25T00:00:00.000Z',
        patch: { id: 'p', name: 'P', parts: [{ layerId: 'l' }] },
        layers: [layer],
      })
      .expect(200);
    const saved = (await server.call('get', '/api/v1/instruments/lanterns')).body as { revision: number };
    const refused = await server.call('delete', '/api/v1/instruments/lanterns').set('If-Match', `"${saved.revision}"`);
    expect(refused.body).toMatchObject({ code: 'in-use' });
    expect(refused.body.detail).toContain('Lamp patch (in the library)');
  });
});
