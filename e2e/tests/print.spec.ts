import type { Page } from '@playwright/test';
import { faults } from './axe';
import { expect, open, test } from './rackle';

const FORMATS = ['A4', 'Letter'] as const;
const pagesOf = async (page: Page, format: (typeof FORMATS)[number]): Promise<number> =>
  (await page.pdf({ format })).toString('latin1').match(/\/Type\s*\/Page[^s]/g)!.length;

test('the running order for the floor is one page a set, on A4 and on Letter, with tonight’s key, tempo and note', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  const tempo = page.getByRole('textbox', { name: 'tempo of Tin Roof Waltz tonight' });
  await tempo.fill('150');
  await tempo.press('Enter');
  const shift = page.getByRole('textbox', { name: 'key shift of Kelp Dance tonight' });
  await shift.fill('-2');
  await shift.press('Enter');
  const note = page.getByRole('textbox', { name: 'note on Kelp Dance tonight' });
  await note.fill('no intro, straight in');
  await note.press('Enter');
  await page.getByRole('button', { name: 'skip Slow Bell tonight' }).click();
  await page.getByRole('link', { name: 'Print', exact: true }).click();
  const [first, second] = [page.getByRole('region', { name: 'set 1' }), page.getByRole('region', { name: 'set 2' })];
  await expect(first.getByRole('listitem')).toHaveCount(5);
  await expect(first.getByRole('listitem').nth(1)).toContainText('♩ 150');
  await expect(first.getByRole('listitem').nth(4)).toContainText('E minor −2');
  await expect(first.getByRole('listitem').nth(4)).toContainText('no intro, straight in');
  await expect(first).toContainText('Break, 20 minutes');
  await expect(second.getByRole('listitem')).toHaveCount(4);
  expect(await faults(page)).toEqual([]);
  for (const format of FORMATS) expect(await pagesOf(page, format)).toBe(2);
  // The letters are as large as the page lets them be: more than a centimetre.
  const px = await first.getByText('Tin Roof Waltz').evaluate((name) => parseFloat(getComputedStyle(name).fontSize));
  expect(px).toBeGreaterThan(40);
});

test('a set of forty songs with long names stays on its page', async ({ page, demo }) => {
  const address = `${demo.address}/api/v1/setlists/tern-ledge`;
  const { revision, body } = (await (await page.request.get(address)).json()) as {
    revision: number;
    body: { entries: { kind: string; id: string }[] };
  };
  const songs = body.entries.filter(({ kind }) => kind === 'song');
  const entries = Array.from({ length: 40 }, (_, i) => ({
    ...songs[i % songs.length],
    id: `many-${i}`,
    note: i % 3 === 0 ? 'with the whole band from the second verse on, and then all alone' : '',
  }));
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.put(address, { headers, data: { ...body, entries } })).ok()).toBe(true);
  await open(page, demo, '/print/floor');
  await expect(page.getByRole('region', { name: 'set 1' }).getByRole('listitem')).toHaveCount(40);
  for (const format of FORMATS) expect(await pagesOf(page, format)).toBe(1);
});

test('the run sheet has every patch with its number and note, on one or two pages; by night it is ink on white too', async ({
  page,
  demo,
}) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  await open(page, demo, '/print/run');
  const second = page.getByRole('region', { name: 'set 2' });
  await expect(second.getByRole('row', { name: /^30 Jug/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Gangway/ })).toContainText('Wait for the fiddle pick-up');
  expect(await faults(page)).toEqual([]);
  for (const format of FORMATS) expect(await pagesOf(page, format)).toBeLessThanOrEqual(2);
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('body')).toHaveCSS('background-color', 'rgb(255, 255, 255)');
  await expect(page.getByText('Midsummer at Tern Ledge').last()).toHaveCSS('color', 'rgb(27, 25, 23)');
});
