// What effects are made of, where it is more than their parameters: for those who make the sound, and those who draw it.

/** Width of an equaliser's middle band. */
export const MIDDLE_Q = 0.7;
/** Where an equaliser's shelves begin, in Hz, by its middle. */
export const shelvesHz = (middleHz: number): { low: number; high: number } => ({
  low: Math.max(80, middleHz / 3),
  high: Math.min(12_000, middleHz * 3),
});
/** Q of each of a filter's two biquads, by its resonance in per cent. */
export const filterQ = (resonance: number): number => 0.5 + resonance / 8;

/** How far a drive goes at 100 %. */
const MOST_DRIVE_DB = 34;
/** How much of what a drive adds in level is taken back, as a power of it. */
const MADE_UP = 0.45;
/** What a drive multiplies what comes in by, and what leaves it. */
export function driveGains(amount: number): { into: number; out: number } {
  const into = 10 ** (((amount / 100) * MOST_DRIVE_DB) / 20);
  return { into, out: into ** -MADE_UP };
}

/** Above its threshold a compressor bends over so many dB. */
const KNEE_DB = 30;

/** What a compressor makes of a level, in dB, before anything is made up: a knee that bends from the threshold on. */
export function compressedDb(inDb: number, thresholdDb: number, ratio: number): number {
  const over = inDb - thresholdDb;
  if (over <= 0) return inDb;
  if (over >= KNEE_DB) return thresholdDb + KNEE_DB / 2 + KNEE_DB / (2 * ratio) + (over - KNEE_DB) / ratio;
  return inDb - ((1 - 1 / ratio) * over * over) / (2 * KNEE_DB);
}
