import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { request, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { createApp, type Origins } from '../src/createApp';
import { FilesService } from '../src/files/files.service';
import { createHostServer } from '../src/pages/hostServer';
import { keepPorts, readPorts } from '../src/storage/ports';

const folder = mkdtempSync(join(tmpdir(), 'rackle-origins-'));
const origins: Origins = { page: null, host: null };
let close: () => Promise<void>;

const listening = (server: Server): Promise<string> =>
  new Promise((resolve) =>
    server.listen(0, '127.0.0.1', () => resolve(`http://127.0.0.1:${(server.address() as AddressInfo).port}`)),
  );

beforeAll(async () => {
  const pages = join(folder, 'pages');
  mkdirSync(join(pages, 'assets'), { recursive: true });
  writeFileSync(join(pages, 'index.html'), '<meta name="rackle-host" content="" />page');
  writeFileSync(join(pages, 'host.html'), '<meta name="rackle-page" content="" />host');
  writeFileSync(join(pages, 'assets/a.js'), '1');
  const app = await createApp(join(folder, 'rackle.sqlite'), pages, origins);
  await app.init();
  origins.page = await listening(app.getHttpServer() as Server);
  const host = createHostServer(
    pages,
    app.get(FilesService),
    () => origins.page,
    () => ({ 'rackle-page': origins.page }),
  )!;
  origins.host = await listening(host);
  close = async () => {
    host.close();
    await app.close();
  };
});
afterAll(async () => {
  await close();
  rmSync(folder, { recursive: true, force: true });
});

interface Answer {
  status: number;
  headers: IncomingMessage['headers'];
  body: string;
}
const ask = (address: string, headers: Record<string, string> = {}, method = 'GET', body = ''): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const asked = request(address, { method, headers }, (answer) => {
      let text = '';
      answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, body: text }));
    });
    asked.on('error', reject);
    asked.end(body);
  });
const named = (name: string, origin: string): Record<string, string> => ({ Host: `${name}:${new URL(origin).port}` });

describe('the pages', () => {
  it('know where the host’s frame is, may show it and nothing else, and stand in no frame', async () => {
    for (const path of ['/', '/stage', '/songs/kelp']) {
      const { status, headers, body } = await ask(`${origins.page}${path}`, { Accept: 'text/html' });
      expect(status).toBe(200);
      expect(body).toBe(`<meta name="rackle-host" content="${origins.host}" />page`);
      expect(headers['content-security-policy']).toContain(`frame-src ${origins.host}`);
      expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
      expect(headers['origin-agent-cluster']).toBe('?1');
    }
    expect((await ask(`${origins.page}/index.html`)).status).toBe(307);
    expect((await ask(`${origins.page}/host.html`)).status).toBe(307);
  });

  it('under another name of this machine are sent to the one that counts; data is refused there', async () => {
    for (const name of ['localhost', '[::1]']) {
      const { status, headers } = await ask(`${origins.page}/stage?a=1`, named(name, origins.page!));
      expect([status, headers.location]).toEqual([307, `${origins.page}/stage?a=1`]);
      expect((await ask(`${origins.page}/api/v1/songs`, named(name, origins.page!))).status).toBe(403);
    }
    expect((await ask(`${origins.page}/stage`, { Host: 'rackle.example' })).status).toBe(403);
    // The right name with the other port is another origin.
    expect((await ask(`${origins.page}/api/v1/songs`, named('127.0.0.1', origins.host!))).status).toBe(403);
    const refused = await ask(`${origins.page}/api/v1/songs`, { Origin: origins.host! });
    expect(refused.status).toBe(403);
    expect(refused.headers['origin-agent-cluster']).toBe('?1');
  });
});

describe('the second port', () => {
  it('gives the frame to our pages alone', async () => {
    const { status, headers, body } = await ask(`${origins.host}/host.html`);
    expect(status).toBe(200);
    expect(body).toBe(`<meta name="rackle-page" content="${origins.page}" />host`);
    expect(headers['content-security-policy']).toContain(`frame-ancestors ${origins.page}`);
    expect(headers['x-frame-options']).toBeUndefined();
    expect(headers['origin-agent-cluster']).toBe('?1');
    expect((await ask(`${origins.host}/assets/a.js`)).body).toBe('1');
  });

  it('gives stored files by their hash, and says in words what is not there', async () => {
    const bytes = 'any sound at all';
    const stored = await ask(`${origins.page}/api/v1/files?use=recording`, {}, 'POST', bytes);
    expect(stored.status).toBe(201);
    const { hash } = JSON.parse(stored.body) as { hash: string };
    expect((await ask(`${origins.host}/api/v1/files/${hash}`)).body).toBe(bytes);
    const missing = await ask(`${origins.host}/api/v1/files/${'0'.repeat(64)}`);
    expect(missing.status).toBe(404);
    expect(missing.headers['content-type']).toContain('problem+json');
  });

  it('writes nothing, and has nothing else', async () => {
    for (const [method, path] of [
      ['GET', '/'],
      ['GET', '/api/v1/songs'],
      ['POST', '/api/v1/edits'],
      ['PUT', '/api/v1/songs/a'],
      ['POST', '/host.html'],
      ['DELETE', `/api/v1/files/${'0'.repeat(64)}`],
    ]) {
      const { status, headers } = await ask(`${origins.host}${path}`, {}, method, '');
      expect([method, path, status]).toEqual([method, path, 404]);
      expect(headers['origin-agent-cluster']).toBe('?1');
    }
    expect((await ask(`${origins.host}/host.html`, { Origin: 'http://somewhere.example' })).status).toBe(403);
  });
});

describe('the ports of a data folder', () => {
  it('are kept, and what stands there of no use counts as none', () => {
    const own = mkdtempSync(join(folder, 'ports-'));
    expect(readPorts(own)).toBeNull();
    keepPorts(own, { page: 4460, host: 4461 });
    expect(readPorts(own)).toEqual({ page: 4460, host: 4461 });
    for (const text of ['', '{}', '{"page":4460}', '{"page":1,"host":1}', '{"page":-1,"host":70000}']) {
      writeFileSync(join(own, 'ports.json'), text);
      expect(readPorts(own)).toBeNull();
    }
  });
});
