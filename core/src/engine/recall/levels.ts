/** Controller value of a level in dB: 40 log10(value / 127), the trade's usual curve. */
export const levelController = (levelDb: number): number =>
  Math.max(0, Math.min(127, Math.round(127 * 10 ** (levelDb / 40))));
/** Pan (−100 to 100) as controller 10, 0–127. */
export const panController = (pan: number): number => Math.max(0, Math.min(127, Math.round(64 + (pan * 63.5) / 100)));
