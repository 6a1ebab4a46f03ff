import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, type Rackle } from '../tests/rackle';

const CUES = 2000;
const KINDS = (i: number, patches: string[]): object =>
  [
    { kind: 'recall', patchId: patches[i % patches.length] },
    { kind: 'controller', port: 'Beacon', channel: 1, controller: 7, value: i % 128 },
    { kind: 'note', to: { kind: 'port', port: 'Skerry', channel: 1 }, key: 40 + (i % 40), lengthTicks: 480 },
    { kind: 'lights', name: `Light ${i}`, port: 'Beacon', bytes: [0xb0, 7, i % 128] },
  ][i % 4];

/** Opens the demo with a song of two thousand cues of every sort, about nineteen minutes long. */
export async function openManyCues(page: Page, rackle: Rackle): Promise<void> {
  const path = join(import.meta.dirname, '../../demo/tern-ledge.json');
  const show = JSON.parse(readFileSync(path, 'utf8')) as {
    songs: { id: string; map: { bars: number }; sections: object[]; cues: object[]; patches: { id: string }[] }[];
  };
  const song = show.songs.find(({ id }) => id === 'third-ferry-home')!;
  song.map.bars = 500;
  song.sections = [];
  const patches = song.patches.map(({ id }) => id);
  song.cues = Array.from({ length: CUES }, (_, i) => ({ id: `cue-${i}`, atTick: i * 900, ...KINDS(i, patches) }));
  const answer = await page.request.post(`${rackle.address}/api/v1/show/file`, { data: show });
  expect(answer.ok(), await answer.text()).toBe(true);
}
