import type { EntryId, PatchId } from '../show';
import type { Evening } from './evening';
import type { LoadPlan } from './task';

/** What a plan has in memory from each recall on, for whoever follows it. */
export interface HeldByStep {
  /** Of everything that has to be loaded. */
  keys: readonly string[];
  /** In playing order. */
  steps: readonly HeldAt[];
}

interface HeldAt {
  entryId: EntryId;
  patchId: PatchId;
  /** For each key a bit, eight in two hexadecimal digits, the first of them the lowest: short, as an evening has many steps. */
  held: string;
}

export const heldBy = ({ task, places }: Evening, { stops }: LoadPlan): HeldByStep => ({
  keys: task.units.map(({ key }) => key),
  steps: places.map((place, stop) => ({ ...place, held: asHex(stops[stop].holds, task.units.length) })),
});

function asHex(units: readonly number[], count: number): string {
  const bytes = new Uint8Array(Math.ceil(count / 8));
  for (const unit of units) bytes[unit >> 3] |= 1 << (unit & 7);
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Keys of what the plan has in memory from a recall on; null: it knows of no such recall. */
export function heldAt({ keys, steps }: HeldByStep, entryId: string, patchId: string): ReadonlySet<string> | null {
  const step = steps.find((each) => each.entryId === entryId && each.patchId === patchId);
  if (!step) return null;
  const byteOf = (unit: number): number => Number.parseInt(step.held.slice((unit >> 3) * 2, (unit >> 3) * 2 + 2), 16);
  return new Set(keys.filter((_, unit) => (byteOf(unit) >> (unit & 7)) & 1));
}
