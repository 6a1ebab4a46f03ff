import type { SoundShape } from '@rackle/core/show';
import type { OscillatorRecipe, Recipe } from './recipe';

const OCTAVES_OF_BRIGHTNESS = 2.5;
const TIMES = 8;
const WIDEST_CENTS = 14;

const scaled = (seconds: number, away: number): number => seconds * TIMES ** (away / 100);

/** The recipe of a preset of the player's own: that of the preset it was made from, moved by a handful of controls. */
export function shapeRecipe(recipe: Recipe, shape: SoundShape): Recipe {
  const { bright, attack, decay, release, touch, vibrato, width, noise } = shape;
  const brightness = 2 ** ((bright / 100) * OCTAVES_OF_BRIGHTNESS);
  return {
    ...recipe,
    oscillators: widened(recipe.oscillators, width).map((oscillator) =>
      oscillator.fm
        ? { ...oscillator, fm: { ...oscillator.fm, index: oscillator.fm.index * 2 ** (bright / 100) } }
        : oscillator,
    ),
    envelope: {
      attackS: scaled(Math.max(0.002, recipe.envelope.attackS), attack),
      decayS: scaled(recipe.envelope.decayS, decay),
      sustain: recipe.envelope.sustain,
      releaseS: scaled(recipe.envelope.releaseS, release),
    },
    ...(recipe.filter
      ? {
          filter: {
            ...recipe.filter,
            hz: recipe.filter.hz * brightness,
            ...(recipe.filter.velocityHz === undefined ? {} : { velocityHz: recipe.filter.velocityHz * brightness }),
          },
        }
      : bright < 0
        ? { filter: { type: 'lowpass' as const, hz: 9000 * brightness ** 1.6, keyTrack: 0.5 } }
        : {}),
    ...(recipe.noise
      ? { noise: { ...recipe.noise, gain: recipe.noise.gain * (1 + noise / 100) } }
      : noise > 0
        ? { noise: { gain: (noise / 100) * 0.25, decayS: 0.07, hz: 2600 } }
        : {}),
    ...(vibrato === 0
      ? {}
      : {
          vibrato: {
            hz: recipe.vibrato?.hz ?? 5.3,
            cents: Math.max(
              0,
              (recipe.vibrato?.cents ?? 0) * (vibrato < 0 ? 1 + vibrato / 100 : 1) + Math.max(0, vibrato) * 0.3,
            ),
          },
        }),
    touch: Math.min(1, Math.max(0, (recipe.touch ?? 0.8) + touch / 100)),
    ...(recipe.kit ? { kit: recipe.kit.map((hit) => shapeRecipe(hit, shape)) } : {}),
  };
}

/** Oscillators that are apart move further apart; a lone one gets a twin. */
function widened(oscillators: readonly OscillatorRecipe[], width: number): readonly OscillatorRecipe[] {
  if (width === 0) return oscillators;
  const areApart = oscillators.some((oscillator) => (oscillator.detuneCents ?? 0) !== 0);
  if (areApart)
    return oscillators.map((oscillator) => ({
      ...oscillator,
      detuneCents: (oscillator.detuneCents ?? 0) * 4 ** (width / 100),
    }));
  if (width < 0 || oscillators.length === 0) return oscillators;
  const [first, ...rest] = oscillators;
  const cents = (width / 100) * WIDEST_CENTS;
  return [
    { ...first, gain: first.gain * 0.6, detuneCents: cents },
    { ...first, gain: first.gain * 0.6, detuneCents: -cents },
    ...rest,
  ];
}
