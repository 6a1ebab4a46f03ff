import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { StoppedDatabase } from './database';
import { expect, open, test } from './rackle';

const DEMO = join(import.meta.dirname, '../../demo/tern-ledge.json');

test('a file with faults over what is here: it asks, says line by line what it puts right, and undo takes it back whole', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  const show = JSON.parse(readFileSync(DEMO, 'utf8')) as {
    songs: { name: string; patches: { parts: object[] }[] }[];
    setlists: { programs: { target: { patchId: string } }[] }[];
  };
  show.songs[0].name = 'Biscuit Tin Regatta, theirs';
  show.songs[0].patches[0].parts.push({ layerId: 'ghost' });
  show.setlists[0].programs[0].target.patchId = 'ghost';
  const file = { name: 'older.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(show)) };
  await page.getByLabel('show file').setInputFiles(file);
  const question = page.getByRole('dialog', { name: 'Before this file is opened' });
  await expect(question.getByRole('list', { name: 'repairs' })).toContainText('plays a layer that is not there');
  await expect(question.getByRole('list', { name: 'in both' })).toContainText('Biscuit Tin Regatta, theirs');
  await question.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByTestId('song-row').first()).toHaveAttribute('aria-label', 'Biscuit Tin Regatta');
  await page.getByLabel('show file').setInputFiles(file);
  await question.getByRole('button', { name: 'Take those of the file' }).click();
  await expect(page.getByTestId('song-row').first()).toHaveAttribute('aria-label', 'Biscuit Tin Regatta, theirs');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.getByRole('button', { name: 'Undo: open a show file' }).click();
  await expect(page.getByTestId('song-row').first()).toHaveAttribute('aria-label', 'Biscuit Tin Regatta');
  // Both: the song stands twice in the library, under ids of its own.
  await page.getByLabel('show file').setInputFiles(file);
  await question.getByRole('button', { name: 'Keep both' }).click();
  await page.goto(`${demo.address}/library`);
  await expect(page.getByRole('link', { name: /^Biscuit Tin Regatta/ })).toHaveCount(2);
});

test('a song that cannot be read is named; the rest opens, and its last good version is brought back', async ({
  page,
  demo,
}) => {
  const { port } = demo;
  await demo.kill();
  new StoppedDatabase(join(demo.folder, 'rackle.sqlite')).damage('kelp-dance');
  await demo.start(true, port);
  await open(page, demo);
  await page.getByRole('button', { name: '1 cannot be read' }).click();
  const waits = page.getByRole('dialog');
  await expect(waits).toContainText('Kelp Dance cannot be read: length 9999: at most 7200');
  await waits.getByRole('button', { name: /^Bring back its version of/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true })).toBeAttached();
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  const saved = (await (await page.request.get(`${demo.address}/api/v1/songs/kelp-dance`)).json()) as object;
  expect(saved).toMatchObject({ revision: 2, body: { durationSeconds: expect.any(Number) } });
});

test('removing a patch and a blend that have numbers and cues leaves a show whose file opens elsewhere', async ({
  page,
  demo,
  empty,
}) => {
  await open(page, demo, '/songs/third-ferry-home');
  await page.getByRole('button', { name: 'remove', exact: true }).click();
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  const file = await (await page.request.get(`${demo.address}/api/v1/show/file`)).text();
  const there = await page.request.post(`${empty.address}/api/v1/show/file`, { data: JSON.parse(file) as object });
  expect(there.status()).toBe(200);
  expect(await (await page.request.get(`${empty.address}/api/v1/show/file`)).text()).toBe(file);
});
