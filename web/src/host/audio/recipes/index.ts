import type { Recipe } from '../recipe';
import { tamed } from '../taming';
import { KEYS } from './keys';
import { STRUCK } from './struck';
import { SUSTAINED } from './sustained';
import { TRIMS } from './trims';

/** As loud as all others, and in tune. */
function trimmed(id: string, recipe: Recipe): Recipe {
  const [gainDb, tuneCents, tamedDb] = TRIMS[id] ?? [0, 0, 0];
  return {
    ...recipe,
    gainDb: recipe.gainDb + gainDb,
    tuneCents,
    effects: tamed(recipe.effects ?? [], tamedDb),
  };
}

/** Every preset of the built-in instruments by its id in the catalogue of core. */
export const RECIPES: Readonly<Record<string, Recipe>> = Object.fromEntries(
  Object.entries({ ...KEYS, ...SUSTAINED, ...STRUCK }).map(([id, recipe]) => [id, trimmed(id, recipe)]),
);
