import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from '@playwright/test';
import { loadOffline, type Globals } from '../tests/offline';

const FILE = join(import.meta.dirname, '../../core/src/loading/presetLots.ts');

test('weights: what recorded presets are made of, and what it takes in memory', async ({ page }) => {
  await loadOffline(page, 'presetFigures');
  const { lots, presets } = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.weights());
  writeFileSync(
    FILE,
    `// Written by \`npm run figures -- --weights\`.

/** Lots of samples of the shipped bank that the same presets share, by the first of them: bytes in memory once loaded. */
export const LOT_BYTES: Readonly<Record<string, number>> = {
${lots.map(([key, bytes]) => `  '${key}': ${bytes},`).join('\n')}
};

/** The lots of each recorded preset. */
export const PRESET_LOTS: Readonly<Record<string, readonly string[]>> = {
${presets.map(([id, keys]) => `  '${id}': [${keys.map((key) => `'${key}'`).join(', ')}],`).join('\n')}
};
`,
  );
});
