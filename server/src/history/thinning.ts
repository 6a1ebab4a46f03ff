/** A kept state; flags are 0 or 1, as SQLite gives them. In the order of their numbers. */
interface State {
  number: number;
  savedAt: string;
  deleted: number;
  named: number;
}

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;
const DAY_MS = 24 * HOUR_MS;

/** Every save of the last hour, one per ten minutes of the last day, one a day before that. */
function slotOf(savedAt: string, now: Date): string | null {
  const at = Date.parse(savedAt);
  const ageMs = now.getTime() - at;
  // A clock that was set back makes states of the future: they are as new as can be.
  if (Number.isNaN(at) || ageMs < HOUR_MS) return null;
  return ageMs < DAY_MS ? `10 min ${Math.floor(at / (10 * MINUTE_MS))}` : `day ${Math.floor(at / DAY_MS)}`;
}

/** States that stay whatever their age: the newest one, the last body before each deletion, and those with a name. */
function isKept(states: readonly { deleted: number; named: number }[], i: number): boolean {
  if (states[i].named || i === states.length - 1) return true;
  return !states[i].deleted && states[i + 1].deleted === 1;
}

/** Which states of one aggregate may go. Of a slot the last by number stays, whatever the clock said. */
export function thinned(states: readonly State[], now: Date): number[] {
  const unnamed = states.filter(({ named }) => !named);
  const lastOfSlot = new Map<string, number>();
  for (const { number, savedAt } of unnamed) {
    const slot = slotOf(savedAt, now);
    if (slot !== null) lastOfSlot.set(slot, number);
  }
  return unnamed
    .filter(({ number, savedAt }, i) => {
      const slot = slotOf(savedAt, now);
      return slot !== null && lastOfSlot.get(slot) !== number && !isKept(unnamed, i);
    })
    .map(({ number }) => number);
}

/** Which states go so that all together keep within a bound: the oldest first, of those that need not stay. */
export function overBound(
  states: readonly { number: number; of: string; deleted: number; named: number; bytes: number }[],
  boundBytes: number,
): { drop: number[]; isOver: boolean } {
  let total = states.reduce((sum, { bytes }) => sum + bytes, 0);
  const byOne = new Map<string, (typeof states)[number][]>();
  for (const state of states) if (!state.named) byOne.set(state.of, [...(byOne.get(state.of) ?? []), state]);
  const stay = new Set([...byOne.values()].flatMap((own) => own.filter((_, i) => isKept(own, i))));
  const drop: number[] = [];
  for (const state of states) {
    if (total <= boundBytes) break;
    if (state.named || stay.has(state)) continue;
    drop.push(state.number);
    total -= state.bytes;
  }
  return { drop, isOver: total > boundBytes };
}
