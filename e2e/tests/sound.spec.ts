import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { rolldown } from 'rolldown';

interface Offline {
  presets(): Promise<{ id: string; soft: number; hard: number; after: number; print: string }[]>;
  recall(): Promise<{ peak: number; steadyRoughness: number; recallRoughness: number; quietestAcross: number; quietestBefore: number }>;
}

/** A blank page with the audio code in it. */
async function load(page: Page): Promise<void> {
  const bundle = await rolldown({ input: join(import.meta.dirname, '../audio/offline.ts'), logLevel: 'silent' });
  const { output } = await bundle.generate({ format: 'iife' });
  await page.goto('about:blank');
  await page.addScriptTag({ content: output[0].code });
}

test('every preset sounds, answers to velocity, dies away when let go, stays below full scale, and is like no other', async ({ page }) => {
  await load(page);
  const presets = await page.evaluate(() => (globalThis as unknown as { offline: Offline }).offline.presets());
  expect(presets.length).toBeGreaterThanOrEqual(144);
  for (const { id, soft, hard } of presets) {
    expect(hard, `${id} is heard`).toBeGreaterThan(0.02);
    expect(hard, `${id} is not too loud`).toBeLessThan(1);
    expect(hard, `${id} answers to velocity`).toBeGreaterThan(soft);
  }
  expect(new Set(presets.map((preset) => preset.print)).size).toBe(presets.length);
  // Short releases are over after a quarter of a second; pads and bells may ring on.
  const organ = presets.find((preset) => preset.id === 'drawbar-house/chapel-row')!;
  expect(organ.after).toBeLessThan(0.0005);
});

test('a recall makes no click and no gap: the old chord goes on, the new one joins it', async ({ page }) => {
  await load(page);
  const { peak, steadyRoughness, recallRoughness, quietestAcross, quietestBefore } = await page.evaluate(() => (globalThis as unknown as { offline: Offline }).offline.recall());
  console.log(`second difference: steady ${steadyRoughness.toFixed(5)}, over recall, blend and fade ${recallRoughness.toFixed(5)}; quietest 5 ms before ${quietestBefore.toFixed(4)}, across ${quietestAcross.toFixed(4)}`);
  expect(peak).toBeGreaterThan(0.05);
  expect(recallRoughness).toBeLessThan(steadyRoughness * 1.5);
  expect(quietestAcross).toBeGreaterThan(quietestBefore * 0.5);
});
