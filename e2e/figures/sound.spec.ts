import { test } from '@playwright/test';
import { OFFLINE_THREADS, cpuSeconds } from './threads';
import { loadOffline, type Globals } from '../tests/offline';

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

const SOUND_S = 8;

test('64 notes at once of the heaviest presets: seconds of sound by a second of CPU', async ({ page }) => {
  await loadOffline(page, 'presetFigures');
  const ids = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.heaviest(5));
  for (const id of ids) {
    const before = cpuSeconds(OFFLINE_THREADS);
    await page.evaluate(
      ([which, seconds]) => (globalThis as unknown as Globals).presetFigures.manyNotes(which, seconds),
      [id, SOUND_S] as const,
    );
    console.log(`${id}: ${(SOUND_S / (cpuSeconds(OFFLINE_THREADS) - before)).toFixed(1)} times real time`);
  }
});
