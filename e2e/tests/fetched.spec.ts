import type { Route } from '@playwright/test';
import { expect, open, test } from './rackle';

// Parts that are fetched later, on a network that fails at the wrong moment.

const LATER = /\/assets\/(StagePage|Palette|dist)-[^/]*\.js$/;

test('what cannot be fetched takes nothing else with it, and comes when it is asked for again', async ({
  page,
  demo,
}) => {
  const first = await (await page.request.get(`${demo.address}/setlist`)).text();
  const refused: string[] = [];
  const refuse = (route: Route): Promise<void> => {
    const url = route.request().url();
    if (first.includes(new URL(url).pathname)) return route.fallback();
    refused.push(url);
    return route.abort();
  };
  await page.route(LATER, refuse);
  await open(page, demo);
  // What says short words on the foot line is asked for by itself, once the first page has had its time.
  await expect.poll(() => refused.some((url) => url.includes('/dist-'))).toBe(true);
  await page.keyboard.press('Control+k');
  await expect.poll(() => refused.some((url) => url.includes('/Palette-'))).toBe(true);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^Panic/ })).toBeVisible();

  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('This page could not be shown');
  await page.locator('[data-position="8"]').click();
  await expect(page.locator('[data-position="8"]')).toHaveAttribute('aria-current', 'true');
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await expect(page.getByTestId('song-row').first()).toBeVisible();

  await page.unroute(LATER);
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-name')).toHaveText('Gangway');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog', { name: 'Find' })).toBeVisible();
});
