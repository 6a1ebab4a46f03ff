import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from '@playwright/test';
import type { PresetTrim } from '../audio/presetFigures';
import { loadOffline, type Globals } from '../tests/offline';

const AUDIO = join(import.meta.dirname, '../../web/src/host/audio');
const HEAD_END = '> = {';

const shown = (value: number): string => value.toFixed(1).replace(/^-0\.0$/, '0.0');
const lineOf = ({ id, gainDb, tuneCents, tamedDb }: PresetTrim): string =>
  `  '${id}': [${shown(gainDb)}, ${shown(tuneCents)}, ${shown(tamedDb)}],`;

/** Trims of a file with those that were measured; what was not stays, as that of made sounds that only stand in. */
function write(file: string, measured: readonly PresetTrim[]): void {
  const path = join(AUDIO, file);
  const text = readFileSync(path, 'utf8');
  const at = text.indexOf(HEAD_END) + HEAD_END.length;
  const lines = new Map([...text.slice(at).matchAll(/^ {2}'([^']+)': .*$/gm)].map(([line, id]) => [id, line]));
  for (const trim of measured) lines.set(trim.id, lineOf(trim));
  writeFileSync(path, `${text.slice(0, at)}\n${[...lines.values()].join('\n')}\n};\n`);
}

// Of presets whose ids begin as PRESETS says; of all where it says nothing.
test('trims: what each preset needs to be as loud as all others and in tune', async ({ page }) => {
  await loadOffline(page, 'presetFigures');
  const trims = await page.evaluate(
    (only) => (globalThis as unknown as Globals).presetFigures.trims(only),
    process.env.PRESETS ?? '',
  );
  write(
    'recipes/trims.ts',
    trims.filter(({ isRecorded }) => !isRecorded),
  );
  write(
    'materials/trims.ts',
    trims.filter(({ isRecorded }) => isRecorded),
  );
});
