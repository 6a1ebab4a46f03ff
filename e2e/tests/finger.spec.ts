import type { Page } from '@playwright/test';
import { faults, PAGES } from './axe';
import { expect, open, test } from './rackle';

// A tablet on the rack: everything is pressed by a finger.
test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } });

/** What is lower than a finger needs: 44 px, 24 in a table, whose lines have 44. Links in running text are text. */
const tooLow = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const pressed = 'button, a[href], select, summary, [role="combobox"], [role="option"], input, label:has(> input)';
    const leastOf = (element: Element): number => (element.closest('td, th') ? 24 : 44);
    const isText = (element: Element): boolean => element.matches('p a, li > a') && element.closest('nav') === null;
    return [...document.querySelectorAll(pressed)]
      .filter((element) => element.checkVisibility() && !element.matches('.sr-only, label > input') && !isText(element))
      .filter((element) => Math.round(element.getBoundingClientRect().height) < leastOf(element))
      .map((element) => `${element.tagName} ${element.getAttribute('aria-label') ?? element.textContent}`);
  });

test('whatever a finger presses is 44 pixels high on every page, in tables 24 in lines of 44', async ({
  page,
  demo,
}) => {
  for (const path of PAGES) {
    await open(page, demo, path);
    await expect(page.getByRole('main').getByRole('heading', { level: 1 })).toHaveCount(1);
    expect.soft(await tooLow(page), path).toEqual([]);
    expect.soft(await faults(page, ['target-size']), path).toEqual([]);
    const lines = await page.locator('tbody tr[data-row]').all();
    for (const line of lines.slice(0, 3))
      expect.soft((await line.boundingBox())!.height, path).toBeGreaterThanOrEqual(44);
  }
});

test('on stage Panic, lock, next and previous are 64 pixels high', async ({ page, demo }) => {
  await open(page, demo, '/stage');
  for (const name of [/^Panic/, /lock/i, 'next', 'previous', 'faders']) {
    const box = (await page.getByRole('button', { name, exact: true }).boundingBox())!;
    expect.soft(Math.round(box.height), String(name)).toBeGreaterThanOrEqual(64);
  }
});
