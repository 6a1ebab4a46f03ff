import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from '@playwright/test';
import { loadOffline, type Globals } from '../tests/offline';

const FILE = join(import.meta.dirname, '../../web/src/host/audio/recipes/trims.ts');

test('trims: what each preset needs to be as loud as all others and in tune', async ({ page }) => {
  await loadOffline(page, 'presetFigures');
  const trims = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.trims());
  const text = readFileSync(FILE, 'utf8');
  const shown = (value: number): string => value.toFixed(1).replace(/^-0\.0$/, '0.0');
  const lines = trims.map(({ id, gainDb, tuneCents }) => `  '${id}': [${shown(gainDb)}, ${shown(tuneCents)}],\n`);
  writeFileSync(FILE, `${text.slice(0, text.indexOf('> = {') + 5)}\n${lines.join('')}};\n`);
});
