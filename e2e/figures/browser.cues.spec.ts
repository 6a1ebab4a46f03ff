import type { Page } from '@playwright/test';
import { expect, test } from '../tests/rackle';
import { openManyCues } from './manyCues';
import { cpuWords, pageCpu } from './pageCpu';

// A song of two thousand cues of every sort in the chart: what drawing, scrolling and dragging takes of the page's
// thread, by trace. Sixty frames a second leave sixteen milliseconds for each.

const settled = (page: Page): Promise<void> => page.waitForTimeout(1200);

test('two thousand cues in the chart', async ({ page, demo, browser }) => {
  await openManyCues(page, demo);
  const measure = async (what: string, work: () => Promise<void>): Promise<void> =>
    console.log(`  ${what}: ${cpuWords(await pageCpu(browser, page, work))}`);
  await page.goto(`${demo.address}/setlist`);
  await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
  await settled(page);
  await measure('the page is opened', async () => {
    await page.goto(`${demo.address}/timeline/third-ferry-home`);
    await settled(page);
  });
  const flag = page.getByRole('button', { name: /: lights Beacon Light 999$/ });
  const box = (await flag.boundingBox())!;
  await page.mouse.move(box.x + 1, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 10, box.y + 10);
  await settled(page);
  await measure('a cue is dragged, 30 moves, the whole song in sight', async () => {
    for (let move = 1; move <= 30; move++) await page.mouse.move(box.x + 10 + 4 * move, box.y + 10);
    await settled(page);
  });
  await measure('it is let go', async () => {
    await page.mouse.up();
    await settled(page);
  });
  await page.keyboard.press('Control+a');
  const other = (await page.getByRole('button', { name: /: lights Beacon Light 1003$/ }).boundingBox())!;
  await page.mouse.move(other.x + 1, other.y + 10);
  await page.mouse.down();
  await page.mouse.move(other.x + 10, other.y + 10);
  await settled(page);
  await measure('all of them are dragged, 30 moves', async () => {
    for (let move = 1; move <= 30; move++) await page.mouse.move(other.x + 10 + 4 * (move % 3), other.y + 10);
    await settled(page);
  });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'wider' }).click();
  await settled(page);
  await measure('a sixteenth in sight, scrolled by 30 steps', async () => {
    await page.mouse.move(640, 250);
    for (let step = 0; step < 30; step++) await page.mouse.wheel(60, 0);
    await settled(page);
  });
});
