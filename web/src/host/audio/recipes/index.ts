import type { Recipe } from '../recipe';
import { KEYS } from './keys';
import { STRUCK } from './struck';
import { SUSTAINED } from './sustained';

/** Every preset of the built-in instruments by its id in the catalogue of core. */
export const RECIPES: Readonly<Record<string, Recipe>> = { ...KEYS, ...SUSTAINED, ...STRUCK };
