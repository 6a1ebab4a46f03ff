/** Keyboards by their number of keys, and the keys that they have. All ends are inclusive. */
export const SIZES: readonly { keys: number; lowest: number; highest: number }[] = [
  { keys: 88, lowest: 21, highest: 108 },
  { keys: 73, lowest: 28, highest: 100 },
  { keys: 61, lowest: 36, highest: 96 },
  { keys: 25, lowest: 48, highest: 72 },
];
