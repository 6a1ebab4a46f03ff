import type { Page } from '@playwright/test';
import { expect, test } from '../tests/rackle';
import { openManySongs } from './manySongs';
import { cpuWords, pageCpu } from './pageCpu';

// What the pages take with ten songs and with two hundred: CPU time of the page's thread, by trace. Nothing is expected
// while it is traced: what looks at the page for a test takes its time too.

const settled = (page: Page): Promise<void> => page.waitForTimeout(1200);

const nothing = async (): Promise<void> => undefined;

const WORKS: [what: string, start: (page: Page) => Promise<unknown>, work: (page: Page) => Promise<unknown>][] = [
  ['nothing', nothing, nothing],
  [
    'the palette opens',
    (page) => page.getByRole('link', { name: 'Setlist', exact: true }).click(),
    (page) => page.keyboard.press('Control+k'),
  ],
  ['the palette opens again', (page) => page.keyboard.press('Escape'), (page) => page.keyboard.press('Control+k')],
  ['three letters in the palette', nothing, (page) => page.keyboard.type('bel', { delay: 60 })],
  [
    'a song is renamed',
    async (page) => {
      await page.keyboard.press('Escape');
      await page.getByRole('textbox', { name: 'name of the song' }).nth(1).fill('Tin Roof Waltz, slow');
    },
    (page) => page.keyboard.press('Enter'),
  ],
  [
    'a song is moved',
    async (page) => {
      await page.getByTestId('song-row').nth(3).focus();
    },
    (page) => page.keyboard.press('Alt+ArrowUp'),
  ],
  [
    'a zone is dragged, 12 moves',
    async (page) => {
      await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).first().click();
      await page.getByRole('link', { name: 'Songs', exact: true }).click();
      await page.getByRole('button', { name: 'zone of Late Boat' }).hover();
    },
    async (page) => {
      const box = (await page.getByRole('button', { name: 'zone of Late Boat' }).boundingBox())!;
      await page.mouse.move(box.x + 4, box.y + 10);
      await page.mouse.down();
      for (let move = 1; move <= 12; move++) await page.mouse.move(box.x + 4 + 9 * move, box.y + 10);
      await page.mouse.up();
    },
  ],
  [
    'the stage, and a recall',
    (page) => page.getByRole('link', { name: 'Stage', exact: true }).click(),
    (page) => page.keyboard.press('ArrowRight'),
  ],
];

for (const songs of [10, 200])
  test(`what the page's thread takes, with ${songs} songs`, async ({ page, demo, browser }) => {
    if (songs > 10) await openManySongs(page, demo, songs);
    const load = await pageCpu(browser, page, async () => {
      await page.goto(`${demo.address}/setlist`);
      await settled(page);
    });
    console.log(`  first load: ${cpuWords(load)}`);
    console.log(`  nodes of the page: ${await page.evaluate(() => document.querySelectorAll('*').length)}`);
    await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
    await settled(page);
    for (const [what, start, work] of WORKS) {
      await start(page);
      await settled(page);
      const cpu = await pageCpu(browser, page, async () => {
        await work(page);
        await settled(page);
      });
      console.log(`  ${what}: ${cpuWords(cpu)}`);
    }
  });
