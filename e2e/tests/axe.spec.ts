import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  impact: string | null;
  nodes: { html: string; failureSummary: string }[];
}

/** What a page has that is serious or critical, by WCAG 2.1 A and AA, in words. */
async function faults(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  const violations = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: { run(of: Document, options: object): Promise<{ violations: Violation[] }> };
    };
    const found = await axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'], iframes: false });
    return found.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  });
  return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
}

const PAGES = [
  '/gear',
  '/sounds',
  '/sounds/skerry',
  '/sounds/causeway',
  '/songs/third-ferry-home',
  '/library',
  '/setlist',
  '/numbers',
  '/numbers/sheets',
  '/timeline',
  '/soundcheck',
  '/stage',
];

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
