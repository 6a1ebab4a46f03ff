import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  impact: string | null;
  nodes: { html: string; failureSummary: string }[];
}

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'];

/** What a page has that is serious or critical, by WCAG 2.1 A and AA or by single rules, in words. */
export async function faults(page: Page, rules?: readonly string[]): Promise<string[]> {
  await page.evaluate(AXE);
  const only = rules ? { type: 'rule', values: rules } : { type: 'tag', values: LEVELS };
  const violations = await page.evaluate(async (runOnly) => {
    const { axe } = globalThis as unknown as {
      axe: { run(of: Document, options: object): Promise<{ violations: Violation[] }> };
    };
    const found = await axe.run(document, { runOnly, iframes: false });
    return found.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  }, only);
  return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
}

/** Every page, as the demo has it. */
export const PAGES = [
  '/gear',
  '/sounds',
  '/sounds/skerry',
  '/sounds/causeway',
  '/songs/third-ferry-home',
  '/library',
  '/setlist',
  '/setlists',
  '/guide',
  '/history',
  '/history?list=states',
  '/history?list=backups',
  '/numbers',
  '/print/floor',
  '/print/run',
  '/numbers/sheets',
  '/timeline',
  '/soundcheck',
  '/stage',
];
