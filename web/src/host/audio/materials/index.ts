import { GENERAL_MIDI_KITS, builtIn } from '@rackle/core/show';
import { tamed } from '../taming';
import { KEYS } from './keys';
import type { Material } from './material';
import { STRUCK } from './struck';
import { SUSTAINED } from './sustained';
import { MATERIAL_TRIMS } from './trims';

const DRUMS = 128;
const PROGRAMS = 128;
/** The concert pianos, which are long and sampled at many keys. */
const LARGE = new Set([0, 1, 3]);

/** All of the bank, as it is. */
const cargo = (builtIn('cargo')?.presets ?? []).map(({ id }, i): [string, Material] => [
  id,
  i < PROGRAMS
    ? { parts: [{ program: i }], isLarge: LARGE.has(i) }
    : { parts: [{ bank: DRUMS, program: GENERAL_MIDI_KITS[i - PROGRAMS].program }] },
]);

function trimmed(id: string, material: Material): Material {
  const [gainDb, tuneCents, tamedDb] = MATERIAL_TRIMS[id] ?? [0, 0, 0];
  return { ...material, gainDb, tuneCents, effects: tamed(material.effects ?? [], tamedDb) };
}

/** What the built-in presets that are recorded are made of, by their ids in the catalogue of core. */
export const MATERIALS: Readonly<Record<string, Material>> = Object.fromEntries(
  [...Object.entries({ ...KEYS, ...SUSTAINED, ...STRUCK }), ...cargo].map(([id, material]) => [
    id,
    trimmed(id, material),
  ]),
);
