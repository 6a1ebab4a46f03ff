import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

const ROOT = join(import.meta.dirname, '../..');

/** `npm run demo` or `npm start`, until it has printed its address. */
async function start(data: string, ...words: string[]): Promise<{ address: string; stop: () => Promise<void> }> {
  const child: ChildProcess = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), ...words], {
    env: { ...process.env, PORT: '0', RACKLE_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    let said = '';
    child.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      const found = /Rackle is at (http:\S+)/.exec(said);
      if (found) resolve(found[1]);
    });
    child.on('exit', () => reject(new Error(said)));
  });
  return {
    address,
    stop: () =>
      new Promise((resolve) => {
        child.removeAllListeners('exit');
        child.on('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}

test('npm run demo puts the demo in, keeps what was changed, and --fresh begins anew with a backup', async ({
  request,
}) => {
  const data = mkdtempSync(join(tmpdir(), 'rackle-start-'));
  const song = async (address: string) =>
    (await (await request.get(`${address}/api/v1/songs/slow-bell`)).json()) as {
      revision: number;
      body: { name: string };
    };
  const first = await start(data, '--demo');
  const { revision, body } = await song(first.address);
  await request.put(`${first.address}/api/v1/songs/slow-bell`, {
    headers: { 'If-Match': `"${revision}"` },
    data: { ...body, name: 'Slower Bell' },
  });
  await first.stop();
  const second = await start(data, '--demo');
  expect((await song(second.address)).body.name).toBe('Slower Bell');
  await second.stop();
  const third = await start(data, '--demo', '--fresh');
  expect((await song(third.address)).body.name).toBe('Slow Bell');
  await third.stop();
  const backups = readdirSync(join(data, 'backups'));
  expect(backups.some((name) => name.endsWith('.before-restore.sqlite'))).toBe(true);
  rmSync(data, { recursive: true, force: true });
});

test('npm start has an empty show', async ({ request }) => {
  const data = mkdtempSync(join(tmpdir(), 'rackle-start-'));
  const { address, stop } = await start(data);
  expect(await (await request.get(`${address}/api/v1/show`)).json()).toMatchObject({
    songs: [],
    setlists: [],
    instruments: [],
    gearLists: [],
    libraryItems: [],
    shelves: [],
  });
  await stop();
  rmSync(data, { recursive: true, force: true });
});
