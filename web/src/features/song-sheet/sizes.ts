/** A keyboard by its number of keys, and the keys that it has; both ends are inclusive. */
export interface KeyboardSize {
  keys: number;
  lowest: number;
  highest: number;
}

/** Sizes to choose from, the largest first. */
export const SIZES: readonly KeyboardSize[] = [
  { keys: 88, lowest: 21, highest: 108 },
  { keys: 73, lowest: 28, highest: 100 },
  { keys: 61, lowest: 36, highest: 96 },
  { keys: 25, lowest: 48, highest: 72 },
];
