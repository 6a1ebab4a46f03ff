import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from '@playwright/test';
import { loadOffline, type Globals } from '../tests/offline';

const FILE = join(import.meta.dirname, '../../web/src/host/audio/recipes/trims.ts');

test('every preset: loudness, peak, pitch, width, what velocity and key do, its nearest sibling', async ({ page }) => {
  await loadOffline(page, 'presetFigures');
  const figures = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.presetFigures());
  for (const { id, loudness, peakDb, cents, dcDb, width, centroidRatio, decayRatio, nearest, noteMs } of figures)
    console.log(
      [
        id.padEnd(34),
        `${loudness.toFixed(1)} LUFS`,
        `peak ${peakDb.toFixed(1)} dB`,
        `${cents.toFixed(1)} cents`,
        `DC ${dcDb.toFixed(0)} dB`,
        `width ${width.toFixed(0)} dB`,
        `velocity ${centroidRatio.toFixed(2)}`,
        `decay ${decayRatio === null ? '–' : decayRatio.toFixed(1)}`,
        `${nearest.db.toFixed(1)} dB from ${nearest.id}`,
        `${noteMs.toFixed(0)} ms a second`,
      ].join('  '),
    );
});

test('trims: what each preset needs to be as loud as all others and in tune', async ({ page }) => {
  test.skip(process.env.TRIMS === undefined, 'written when it is asked for');
  await loadOffline(page, 'presetFigures');
  const trims = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.trims());
  const text = readFileSync(FILE, 'utf8');
  const shown = (value: number): string => value.toFixed(1).replace(/^-0\.0$/, '0.0');
  const lines = trims.map(({ id, gainDb, tuneCents }) => `  '${id}': [${shown(gainDb)}, ${shown(tuneCents)}],\n`);
  writeFileSync(FILE, `${text.slice(0, text.indexOf('> = {') + 5)}\n${lines.join('')}};\n`);
});
