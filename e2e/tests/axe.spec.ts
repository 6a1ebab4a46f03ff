import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { faults, PAGES } from './axe';
import { expect, open, test } from './rackle';

for (const ground of ['paper', 'blackout'] as const)
  test(`nothing serious for eye and hand on any page, on ${ground}, with bench and monitor open`, async ({
    page,
    demo,
  }) => {
    await page.emulateMedia({ colorScheme: ground === 'paper' ? 'light' : 'dark' });
    for (const path of PAGES) {
      await open(page, demo, path);
      await expect(page.getByRole('main').getByRole('heading', { level: 1 })).toHaveCount(1);
      if (path === '/setlist') {
        await page.getByRole('contentinfo').getByRole('button', { name: 'bench' }).click();
        await page.getByRole('contentinfo').getByRole('button', { name: 'monitor' }).click();
        await expect(page.getByTestId('bench')).toBeVisible();
      }
      expect.soft(await faults(page), `${path} on ${ground}`).toEqual([]);
    }
  });

const REEL = '/timeline/pewter-jug-reel';
const FILE = join(import.meta.dirname, '../../demo/pewter-jug-reel.mid');
const backing = (page: Page): Promise<void> => page.getByRole('tab', { name: /backing part/ }).click();

/** What opens over the pages, by what a hand presses. */
const OPENED: [what: string, path: string, open: (page: Page) => Promise<unknown>][] = [
  ['palette', '/setlist', (page) => page.keyboard.press('Control+k')],
  ['keys', '/setlist', (page) => page.keyboard.press('Shift+Slash')],
  ['a new song', '/setlist', (page) => page.getByRole('button', { name: 'Add song' }).click()],
  ['a question', '/setlists', (page) => page.getByRole('button', { name: /^delete Midsummer/ }).click()],
  ['a port', '/gear', (page) => page.getByRole('button', { name: /^Updown 2/ }).click()],
  ['a role', '/gear', (page) => page.getByRole('button', { name: 'Swell', exact: true }).click()],
  ['learn', '/gear', (page) => page.getByRole('button', { name: 'Learn open roles' }).click()],
  [
    'numbering',
    '/numbers',
    (page) =>
      page
        .getByRole('button', { name: /^Number/ })
        .first()
        .click(),
  ],
  ['a saved show', '/setlist', (page) => page.getByTestId('save-state').click()],
  ['backing parts', REEL, backing],
  [
    'a MIDI file that comes in',
    REEL,
    async (page) => {
      await backing(page);
      await page.getByLabel('a MIDI file from this machine').setInputFiles(FILE);
      await expect(page.getByTestId('midi-outcome')).toContainText('backing part');
    },
  ],
  [
    'a MIDI file that goes out',
    REEL,
    async (page) => {
      await backing(page);
      await page.getByRole('button', { name: 'save as a MIDI file' }).click();
      await expect(page.getByTestId('midi-out')).toContainText('tracks');
    },
  ],
  ['faders', '/stage', (page) => page.getByRole('button', { name: 'faders' }).click()],
];

for (const ground of ['paper', 'blackout'] as const)
  test(`nor in what opens over the pages, on ${ground}`, async ({ page, demo }) => {
    await page.emulateMedia({ colorScheme: ground === 'paper' ? 'light' : 'dark' });
    for (const [what, path, act] of OPENED) {
      await open(page, demo, path);
      await act(page);
      expect.soft(await faults(page), `${what} on ${ground}`).toEqual([]);
    }
  });

test('on stage everything that is read has a contrast of seven', async ({ page, demo }) => {
  await open(page, demo, '/stage');
  for (const position of [0, 18, 31]) {
    await page.locator(`[data-position="${position}"]`).click();
    await expect(page.locator(`[data-position="${position}"]`)).toHaveAttribute('aria-current', 'true');
    expect.soft(await faults(page, ['color-contrast-enhanced']), `position ${position}`).toEqual([]);
  }
});

test('in the system’s own colours tapes, bars and rulers stay drawn', async ({ page, demo }) => {
  await page.emulateMedia({ forcedColors: 'active' });
  await open(page, demo, '/stage');
  await page.locator('[data-position="18"]').click();
  await expect(page.getByTestId('stage-name')).toHaveText('Undertow');
  await expect(page.getByRole('slider', { name: 'value of Swell' })).toBeVisible();
  const drawn = await page.evaluate(() => {
    const ground = getComputedStyle(document.body).backgroundColor;
    const colour = (selector: string): boolean => {
      const found = document.querySelector(selector);
      return found !== null && getComputedStyle(found).backgroundColor !== ground;
    };
    return ['[data-testid="key-ruler"] .tape', '[data-testid="run-strip"] .tape', '[role="slider"] .bg-ink'].map(
      colour,
    );
  });
  expect(drawn).toEqual([true, true, true]);
});
