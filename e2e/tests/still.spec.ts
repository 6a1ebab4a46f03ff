import type { Page, Route } from '@playwright/test';
import { expect, open, test } from './rackle';

// What comes after the page is drawn: where the set stands, what is plugged in, what was checked.

const PRESSED = 'main button, main a, main input, main [role=combobox], main [role=slider]';

interface Marked {
  tops: Map<Element, number>;
}

const mark = (page: Page): Promise<number> =>
  page.evaluate((pressed) => {
    const tops = new Map<Element, number>();
    for (const one of document.querySelectorAll(pressed)) tops.set(one, one.getBoundingClientRect().top);
    (globalThis as unknown as Marked).tops = tops;
    return tops.size;
  }, PRESSED);

const moved = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...(globalThis as unknown as Marked).tops].flatMap(([one, before]) => {
      const { top, width } = one.getBoundingClientRect();
      if (width === 0 || Math.abs(top - before) < 1) return [];
      return `${one.getAttribute('aria-label') ?? one.textContent}: ${before} to ${top}`;
    }),
  );

for (const path of ['gear', 'sounds', 'setlist', 'numbers', 'timeline/kelp-dance', 'soundcheck'])
  test(`what may be pressed on ${path} stays where it is when the rest arrives`, async ({ page, demo }) => {
    const held: Route[] = [];
    await page.route('**/host.html', (route) => void held.push(route));
    await open(page, demo, `/${path}`);
    await expect(page.locator('main h1, main textarea, main input').first()).toBeVisible();
    await mark(page);
    await expect.poll(() => held.length).toBe(1);
    await held[0].continue();
    await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
    await expect(page.locator('[aria-current="true"][data-position]')).toBeVisible();
    // The checks have come through: the page that waits for them most says so.
    if (path === 'setlist') await expect(page.getByText('being planned')).toBeHidden();
    if (path === 'soundcheck') await expect(page.getByRole('button', { name: 'play every change' })).toBeEnabled();
    expect(await moved(page)).toEqual([]);
  });
