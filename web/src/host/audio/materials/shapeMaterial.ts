import type { SoundShape } from '@rackle/core/show';
import type { Material, MaterialEffect, MaterialPart } from './material';

const TIMES = 8;
const OCTAVES_OF_BRIGHTNESS = 4.5;
const OPEN_HZ = 18_000;
const BRIGHTEST_DB = 12;
const WIDEST_CENTS = 14;
const TWIN_DB = -4;
const VIBRATO_HZ = 5.3;
const MOST_VIBRATO_CENTS = 30;
const BREATH = 121;
const SOFTEST_BREATH_DB = -34;
const LOUDER_BREATH_DB = 22;

const scaled = (away: number): number => TIMES ** (away / 100);

/** The material of a preset of the player's own: that of the preset it was made from, moved by a handful of controls. */
export function shapeMaterial(material: Material, shape: SoundShape): Material {
  const { bright, attack, decay, release, touch, vibrato, width, noise } = shape;
  const cents = (material.vibrato?.cents ?? 0) * (vibrato < 0 ? 1 + vibrato / 100 : 1);
  return {
    ...material,
    parts: [...widened(material.parts, width), ...breath(noise)],
    times: { attack: scaled(attack), decay: scaled(decay), release: scaled(release) },
    touch: Math.min(2, Math.max(0, (material.touch ?? 1) + touch / 100)),
    ...(vibrato === 0
      ? {}
      : {
          vibrato: {
            ...material.vibrato,
            hz: material.vibrato?.hz ?? VIBRATO_HZ,
            cents: cents + (Math.max(0, vibrato) / 100) * MOST_VIBRATO_CENTS,
          },
        }),
    effects: [...(material.effects ?? []), ...brightness(bright)],
  };
}

/** What is recorded has its own noise in it: there can only be more. */
const breath = (noise: number): MaterialPart[] =>
  noise <= 0 ? [] : [{ program: BREATH, levelDb: SOFTEST_BREATH_DB + (noise / 100) * LOUDER_BREATH_DB }];

function brightness(bright: number): MaterialEffect[] {
  if (bright === 0) return [];
  if (bright < 0)
    return [{ kind: 'filter', hz: OPEN_HZ * 2 ** ((bright / 100) * OCTAVES_OF_BRIGHTNESS), resonance: 0 }];
  const highDb = (bright / 100) * BRIGHTEST_DB;
  return [{ kind: 'equaliser', lowDb: 0, middleHz: 3000, middleDb: highDb / 3, highDb }];
}

/** Parts that are apart move further apart; a lone one gets a twin. */
function widened(parts: readonly MaterialPart[], width: number): readonly MaterialPart[] {
  if (width === 0) return parts;
  if (parts.some(({ cents = 0 }) => cents !== 0))
    return parts.map((part) => ({ ...part, cents: (part.cents ?? 0) * 4 ** (width / 100) }));
  if (width < 0) return parts;
  const cents = (width / 100) * WIDEST_CENTS;
  return parts.flatMap((part) => [
    { ...part, cents: -cents, levelDb: (part.levelDb ?? 0) + TWIN_DB },
    { ...part, cents, levelDb: (part.levelDb ?? 0) + TWIN_DB },
  ]);
}
