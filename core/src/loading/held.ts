import type { Evening, RecallPlace } from './evening';
import type { LoadPlan } from './task';

/** What a plan has in memory from each recall on, for whoever follows it. */
export interface HeldByStep {
  /** The jump that it was planned from; 0: the evening from its beginning. */
  jump: number;
  /** Of everything that has to be loaded. */
  keys: readonly string[];
  /** In playing order. */
  steps: readonly HeldAt[];
}

interface HeldAt extends RecallPlace {
  /** For each key a bit, eight in two hexadecimal digits, the first of them the lowest: short, as an evening has many steps. */
  held: string;
}

export const heldBy = ({ task, places }: Evening, { stops }: LoadPlan, jump = 0): HeldByStep => ({
  jump,
  keys: task.units.map(({ key }) => key),
  steps: places.map((place, stop) => ({ ...place, held: asHex(stops[stop].holds, task.units.length) })),
});

function asHex(units: readonly number[], count: number): string {
  const bytes = new Uint8Array(Math.ceil(count / 8));
  for (const unit of units) bytes[unit >> 3] |= 1 << (unit & 7);
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Keys of what the plan has in memory from one of its steps on. */
export function heldAt({ keys, steps }: HeldByStep, step: number): ReadonlySet<string> {
  const { held } = steps[step];
  const byteOf = (unit: number): number => Number.parseInt(held.slice((unit >> 3) * 2, (unit >> 3) * 2 + 2), 16);
  return new Set(keys.filter((_, unit) => (byteOf(unit) >> (unit & 7)) & 1));
}
