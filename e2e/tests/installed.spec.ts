import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, hostOf, open, test, strikes } from './rackle';
import type { Frame, Page } from '@playwright/test';

test.use({ serviceWorkers: 'allow' });

/** Until page and host have been kept in this browser. */
async function installed(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Gear' }).click();
  await expect(page.getByTestId('without-server')).toContainText('opens without its server');
}

const goesTo = async (page: Page, place: string): Promise<void> => {
  await page.getByRole('button', { name: place, exact: true }).click();
  await isAt(page, place);
};
const isAt = (page: Page, place: string): Promise<void> =>
  expect(page.getByRole('button', { name: place, exact: true })).toHaveAttribute('aria-current', 'true');

/** A chord by computer keys on the bench. */
async function sounds(page: Page): Promise<void> {
  const start = page.getByRole('button', { name: /Start sound/ });
  if (await start.isVisible()) await start.click();
  await expect(page.getByRole('meter', { name: 'output level' })).toBeVisible();
  const keys = page.getByRole('group', { name: 'keys of Aster 73' });
  if (!(await keys.isVisible())) await page.keyboard.press('b');
  await keys.focus();
  await strikes(page, 0.01, () => page.keyboard.down('q'));
  await page.keyboard.up('q');
}

test('with the server stopped Rackle is reloaded, closed and opened: it comes back in the same patch, sounds, and edits wait', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await installed(page);
  await expect(page.getByText('A newer Rackle is here.')).toBeHidden();
  await goesTo(page, 'Kelp Dance, Undertow');
  const { port } = demo;
  await demo.kill();

  await page.reload();
  await isAt(page, 'Kelp Dance, Undertow');
  await expect(page.getByTestId('save-state')).toContainText('without the server');
  expect(new URL((await hostOf(page)).url()).pathname).toBe('/host.html');
  await sounds(page);
  await page.getByRole('link', { name: 'Setlist' }).click();
  const name = page.getByTestId('song-row').first().getByRole('textbox', { name: 'name of the song' });
  await name.fill('Biscuit Tin Race');
  await name.press('Enter');
  await expect(page.getByTestId('save-state')).toContainText('1 waiting');

  // Closed, and opened at another page of it.
  const context = page.context();
  await page.close();
  const again = await context.newPage();
  await again.goto(`${demo.address}/stage`);
  await expect(again.getByTestId('stage-name')).toHaveText('Undertow');
  await again.getByRole('link', { name: 'Setlist' }).click();
  const there = again.getByTestId('song-row').first().getByRole('textbox', { name: 'name of the song' });
  await expect(there).toHaveValue('Biscuit Tin Race');

  // The server comes back: what waited is saved, without a reload.
  await demo.start(false, port);
  await expect(again.getByTestId('save-state')).toHaveText(/^saved/);
  await expect(again.getByTestId('save-state')).not.toContainText('without the server');
  const show = (await (await again.request.get(`${demo.address}/api/v1/show`)).json()) as {
    songs: { body: { name: string } }[];
  };
  expect(show.songs.map(({ body }) => body.name)).toContain('Biscuit Tin Race');
});

const ROOT = join(import.meta.dirname, '../..');
const buildOf = (of: Page | Frame): Promise<string | null> =>
  of.evaluate(() => document.querySelector('meta[name="rackle-build"]')!.getAttribute('content'));

test('a newer Rackle is offered, not forced, is not taken while another window is locked, and then by page and frame', async ({
  page,
  demo,
}) => {
  const pages = mkdtempSync(join(tmpdir(), 'rackle-build-'));
  execFileSync('npx', ['vite', 'build', '--outDir', pages, '--emptyOutDir'], {
    cwd: join(ROOT, 'web'),
    stdio: 'ignore',
  });
  await open(page, demo);
  await installed(page);
  await goesTo(page, 'Kelp Dance, Undertow');
  const older = await buildOf(page);
  const { port } = demo;
  await demo.kill();
  await demo.start(false, port, pages);

  await page.reload();
  await isAt(page, 'Kelp Dance, Undertow');
  expect(await buildOf(page)).toBe(older);
  expect(await buildOf(await hostOf(page))).toBe(older);
  const offer = page.getByText('A newer Rackle is here.');
  await expect(offer).toBeVisible();

  const other = await page.context().newPage();
  await other.goto(`${demo.address}/setlist`);
  await other.getByRole('button', { name: 'Lock for the stage' }).click();
  await expect(other.getByText('A newer Rackle is here.')).toBeHidden();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByText('Not now')).toBeVisible();
  expect(await buildOf(page)).toBe(older);

  await other.getByRole('button', { name: 'Unlock the stage' }).click();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(offer).toBeHidden();
  await isAt(page, 'Kelp Dance, Undertow');
  const newer = await buildOf(page);
  expect(newer).not.toBe(older);
  expect(await buildOf(await hostOf(page))).toBe(newer);
  await expect.poll(() => buildOf(other).catch(() => null)).toBe(newer);
  rmSync(pages, { recursive: true, force: true });
});
