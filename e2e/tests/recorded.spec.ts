import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadOffline, type Globals } from './offline';
import {
  Rackle,
  expect,
  meantEverywhere,
  open,
  soundsInPlaceOf,
  startSound,
  strikes,
  test,
  unfinished,
} from './rackle';

test('a program of General MIDI is found by its name in Cargo, loaded, and heard in a layer; its memory is said', async ({
  page,
  demo,
}) => {
  const field = await soundsInPlaceOf(page, demo, /Bass hand/);
  await field.fill('tubular bells');
  await field.press('ArrowDown');
  await expect(page.getByRole('option', { selected: true })).toContainText('Cargo');
  await field.press('Enter');
  await meantEverywhere(page);
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Cargo');
  await expect(page.getByText('loading …')).toBeHidden();
  await expect(page.getByTestId('capacity')).toContainText('sampled sounds take');
  await page.getByRole('button', { name: 'bench' }).click();
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.005, () => page.keyboard.down('z'));
  await page.keyboard.up('z');
});

test('without the recordings that come with it: one clear line, made sounds instead, and the rest goes on', async ({
  page,
}) => {
  const rackle = new Rackle();
  process.env.RACKLE_BANK = join(rackle.folder, 'not-there.sf3');
  await rackle.start(true);
  delete process.env.RACKLE_BANK;
  await open(page, rackle);
  await startSound(page);
  await page.locator('[data-position="0"]').click();
  await expect(page.getByText(/The recordings that come with Rackle cannot be loaded/)).toBeVisible();
  await page.getByRole('button', { name: 'bench' }).click();
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  // The electric piano of the right hand is one of those; it is heard once it stands.
  await expect.poll(() => unfinished(page)).toBe(0);
  await strikes(page, 0.005, () => page.keyboard.down('p'));
  await page.keyboard.up('p');
  await rackle.end();
});

test('who recorded what is said in the guide, one click from the sounds', async ({ page, demo }) => {
  await open(page, demo, '/sounds');
  await page.getByRole('link', { name: 'who recorded them' }).click();
  await expect(page.getByRole('heading', { name: 'What sounds, and who recorded it' })).toBeVisible();
  await expect(page.getByText(/MIT licence/).first()).toBeVisible();
});

test('the page of an instrument draws which recording plays where and how a note rises and falls', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/sounds/parlour');
  const picture = page.getByTestId('preset-picture');
  await expect(picture).toContainText(/4\d recordings over \d velocity ranges/);
  expect(await picture.locator('rect').count()).toBeGreaterThan(40);
  const line = picture.locator('polyline');
  const asMade = await line.getAttribute('points');
  // A slower attack is seen at once: it is a preset of one's own then.
  await page.getByRole('slider', { name: 'attack' }).focus();
  await page.keyboard.press('PageUp');
  await page.keyboard.press('PageUp');
  await expect(line).not.toHaveAttribute('points', asMade!);
  await page.goto(`${demo.address}/sounds/fogbank`);
  await expect(picture).toContainText('made as it is played');
});

test('all sounds of the demo together take less than 250 MB', async ({ page }) => {
  const show = readFileSync(join(import.meta.dirname, '../../demo/tern-ledge.json'), 'utf8');
  const ids = [...new Set([...show.matchAll(/"presetId": ?"([a-z-]+\/[a-z0-9-]+)"/g)].map(([, id]) => id))].filter(
    (id) => !id.startsWith('skerry/'),
  );
  expect(ids.length).toBeGreaterThan(30);
  await loadOffline(page, 'presetFigures');
  const mb = await page.evaluate((all) => (globalThis as unknown as Globals).presetFigures.memoryMb(all), ids);
  console.log(`the demo's ${ids.length} presets take ${mb.toFixed(0)} MB`);
  expect(mb).toBeGreaterThan(50);
  expect(mb).toBeLessThan(250);
});
