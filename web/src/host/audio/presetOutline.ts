import { SHIPPED_BANK, type SoundShape } from '@rackle/core/show';
import { fileAddress } from '../../files/fileAddress';
import { MATERIALS } from './materials';
import { materialPreset } from './materials/materialPreset';
import { shapeMaterial } from './materials/shapeMaterial';
import { RECIPES } from './recipes';
import { HELD_S, SOFTEST_DB, type PresetOutline } from './outline';
import { asItIs, type BankAsked } from './sampled/bankAsked';
import { fallOf } from './sampled/falling';
import { modulated } from './sampled/modulations';
import type { SampleZone, SampledPreset } from './sampled/sampledPreset';
import { shapeRecipe } from './shapeRecipe';

const KEY = 60;
const VELOCITY = 100;
const STEP_S = 0.05;
const RANGE_DB = 96;

/** @param bankPreset asks for a preset of the shipped bank */
export async function presetOutline(
  presetId: string,
  shape: SoundShape,
  bankPreset: (address: string, asked: BankAsked) => Promise<SampledPreset | null>,
): Promise<PresetOutline> {
  const material = MATERIALS[presetId] && shapeMaterial(MATERIALS[presetId], shape);
  if (!material) return { zones: [], envelope: madeEnvelope(presetId, shape) };
  const parts: SampledPreset[] = [];
  for (const { bank = 0, program } of material.parts) {
    const part = await bankPreset(fileAddress(SHIPPED_BANK.file), {
      ...asItIs({ bank, program }),
      everyOtherKey: material.isLarge ?? false,
      isOutline: true,
    });
    if (part) parts.push(part);
  }
  if (parts.length < material.parts.length) return { zones: [], envelope: madeEnvelope(presetId, shape) };
  const { zones, samples } = materialPreset(material, parts);
  const ids = [...new Set(samples.map(({ id }) => id))];
  const ofNote = zones.find(
    (zone) =>
      KEY >= zone.lowKey && KEY <= zone.highKey && VELOCITY >= zone.lowVelocity && VELOCITY <= zone.highVelocity,
  );
  return {
    zones: zones.map(({ lowKey, highKey, lowVelocity, highVelocity, sample }) => ({
      lowKey,
      highKey,
      lowVelocity,
      highVelocity,
      sample: ids.indexOf(samples[sample].id),
    })),
    envelope: ofNote ? sampledEnvelope(modulated(ofNote, KEY, VELOCITY)) : [],
  };
}

type Points = { s: number; db: number }[];

/** Up to its top, down as `at` says, and from where it is let go down to nothing at a rate. */
function points(attackS: number, at: (s: number) => number, releaseDbPerS: number): Points {
  const found: Points = [
    { s: 0, db: SOFTEST_DB },
    { s: attackS, db: 0 },
  ];
  for (let s = attackS + STEP_S; s < HELD_S; s += STEP_S) found.push({ s, db: Math.max(SOFTEST_DB, at(s - attackS)) });
  const last = Math.max(SOFTEST_DB, at(Math.max(0, HELD_S - attackS)));
  found.push({ s: Math.max(HELD_S, attackS), db: last });
  found.push({ s: Math.max(HELD_S, attackS) + (last - SOFTEST_DB) / releaseDbPerS, db: SOFTEST_DB });
  return found;
}

function sampledEnvelope({ envelope }: SampleZone): Points {
  const falls = fallOf(envelope, null, 1, 0);
  const at = (s: number): number => {
    const next = falls.findIndex((point) => point.s >= s);
    if (next === 0 || falls.length === 0) return 0;
    if (next < 0) return falls.at(-1)!.db;
    const [from, to] = [falls[next - 1], falls[next]];
    return from.db + ((to.db - from.db) * (s - from.s)) / (to.s - from.s);
  };
  return points(envelope.delayS + envelope.attackS, at, RANGE_DB / envelope.releaseS);
}

/** As voices make it: it falls by e in a quarter of its decay, and in a third of its release. */
function madeEnvelope(presetId: string, shape: SoundShape): Points {
  const recipe = RECIPES[presetId];
  if (!recipe) return [];
  const { attackS, decayS, sustain, releaseS } = shapeRecipe(recipe.kit?.[0] ?? recipe, shape).envelope;
  const at = (s: number): number => 20 * Math.log10(sustain + (1 - sustain) * Math.exp((-4 * s) / decayS) + 1e-6);
  return points(attackS, at, (20 * Math.log10(Math.E) * 3) / releaseS);
}
