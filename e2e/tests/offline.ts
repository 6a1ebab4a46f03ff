import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { rolldown } from 'rolldown';

export interface Offline {
  presets(): Promise<{ id: string; soft: number; hard: number; after: number; print: string }[]>;
  recall(): Promise<{
    peak: number;
    steadyRoughness: number;
    recallRoughness: number;
    quietestAcross: number;
    quietestBefore: number;
  }>;
  swap(): Promise<{ loudest: number; clickDb: number; longestGapMs: number }>;
  swapHeld(): Promise<{
    steadyRoughness: number;
    swapRoughness: number;
    quietestBefore: number;
    quietestAcross: number;
  }>;
  load(): Promise<{ seconds: number; tookMs: number; peak: number; silentMs: number }>;
  effects(): Promise<{ kind: string; differs: number; peak: number }[]>;
  effectEnds(): Promise<{ of: string; low: number; high: number; threw: string | null }[]>;
  flatEqualiser(): Promise<number>;
  cut(): Promise<{ id: string; leftDb: number; rougher: number }[]>;
  allSoundOff(): Promise<{ leftDb: number; rougher: number; nextDb: number }>;
  bank(bytes: number[]): Promise<{ presets: string[]; hz: number; after: number; silence: number }>;
  generators(
    bytes: number[],
    programs: number,
  ): Promise<{ early: number; late: number; levels: number[]; released: number }[]>;
}

export type Globals = { offline: Offline };

/** A blank page with the audio code in it. */
export async function loadOffline(page: Page): Promise<void> {
  const bundle = await rolldown({ input: join(import.meta.dirname, '../audio/offline.ts'), logLevel: 'silent' });
  const { output } = await bundle.generate({ format: 'iife' });
  await page.goto('about:blank');
  await page.addScriptTag({ content: output[0].code });
}
