import type { Page, Route } from '@playwright/test';
import { expect, open, test, type Rackle } from './rackle';

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

/** The page as it is before the running side is there; its frame comes when it is let. */
async function early(page: Page, rackle: Rackle, path: string): Promise<() => Promise<void>> {
  const held: Route[] = [];
  await page.route('**/host.html', (route) => void held.push(route));
  await open(page, rackle, `/${path}`);
  await expect(page.locator('main h1, main textarea, main input').first()).toBeVisible();
  await mark(page);
  return async () => {
    await expect.poll(() => held.length).toBe(1);
    await held[0].continue();
    await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
    await expect(page.locator('[aria-current="true"][data-position]')).toBeVisible();
  };
}

for (const path of ['gear', 'sounds', 'songs/kelp-dance', 'setlist', 'numbers', 'timeline/kelp-dance', 'soundcheck'])
  test(`what may be pressed on ${path} stays where it is when the rest arrives`, async ({ page, demo }) => {
    const arrives = await early(page, demo, path);
    await arrives();
    // The checks have come through: the page that waits for them most says so.
    if (path === 'setlist') await expect(page.getByText('being planned')).toBeHidden();
    if (path === 'soundcheck') await expect(page.getByRole('button', { name: 'play every change' })).toBeEnabled();
    expect(await moved(page)).toEqual([]);
  });

test('a song’s page opens at the patch where the running side will begin, and stays where one looks meanwhile', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/kelp-dance');
  const undertow = page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true });
  await undertow.click();
  await expect(undertow).toHaveAttribute('aria-current', 'true');
  const patch = page.getByLabel('name of the patch');
  const arrives = await early(page, demo, 'songs/kelp-dance');
  await expect(patch).toHaveValue('Undertow');
  await arrives();
  expect(await moved(page)).toEqual([]);
  const later = await early(page, demo, 'songs/kelp-dance');
  await page
    .getByRole('columnheader', { name: 'Surface' })
    .getByRole('button', { name: /^Surface/ })
    .click();
  await expect(page.getByText('Looked at: Surface. Begins at: Undertow.')).toBeVisible();
  await later();
  await expect(page.getByText('Looked at: Surface. Live: Undertow.')).toBeVisible();
  await expect(patch).toHaveValue('Surface');
});
