import { builtIn } from '@rackle/core/show';
import type { MaterialEffect } from '../materials/material';

/** What made sounds stand in, where they would all be in one place: pads are as wide as a hall. */
export const MADE_EFFECTS: Readonly<Record<string, readonly MaterialEffect[]>> = Object.fromEntries(
  (builtIn('fogbank')?.presets ?? []).map(({ id }, i): [string, MaterialEffect[]] => [
    id,
    [{ kind: 'chorus', rateHz: 0.22 + 0.06 * (i % 5), depth: 45 + 5 * (i % 4), mix: 50 }],
  ]),
);
