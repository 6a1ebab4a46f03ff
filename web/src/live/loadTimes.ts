import { measuredMs, withLoad, type LoadHeard, type MeasuredPart } from '@rackle/core/loading';

const KEY = 'rackle.loads';
/** So many things are remembered; those that were loaded last stay. */
const MOST_PARTS = 1000;
/** A time that is so much another one is worth another plan. */
const ANOTHER = 1.2;

/** What loading took on this machine, by the key of the plan's part; the one that was loaded last is the last. */
export type LoadTimes = Readonly<Record<string, MeasuredPart>>;

/** With what has just been loaded. */
export function withLoads(times: LoadTimes, loads: readonly LoadHeard[]): LoadTimes {
  const next = new Map(Object.entries(times));
  for (const load of loads) {
    const known = next.get(load.key);
    next.delete(load.key);
    next.set(load.key, withLoad(known, load));
  }
  return Object.fromEntries([...next].slice(-MOST_PARTS));
}

/** Whether a plan that goes by the one would be another by the other. */
export function areOthers(planned: LoadTimes, now: LoadTimes): boolean {
  return Object.entries(now).some(([key, part]) => {
    const known = planned[key];
    if (known === undefined || known.bytes !== part.bytes) return true;
    const [a, b] = [measuredMs(known) ?? 0, measuredMs(part) ?? 0];
    return Math.max(a, b) > Math.max(1, Math.min(a, b)) * ANOTHER;
  });
}

const isTimes = (value: unknown): value is number[] =>
  Array.isArray(value) && value.every((ms) => typeof ms === 'number' && ms >= 0);

/** What this browser has kept; what cannot be read counts as nothing. */
export function readLoadTimes(from: Pick<Storage, 'getItem'> = localStorage): LoadTimes {
  try {
    const kept = JSON.parse(from.getItem(KEY) ?? '{}') as Record<string, Partial<MeasuredPart>>;
    return Object.fromEntries(
      Object.entries(kept).flatMap(([key, { bytes, cold, warm }]): [string, MeasuredPart][] =>
        typeof bytes === 'number' && isTimes(cold) && isTimes(warm) ? [[key, { bytes, cold, warm }]] : [],
      ),
    );
  } catch {
    return {};
  }
}

/** In whole milliseconds, which take little room. */
export function keepLoadTimes(times: LoadTimes, to: Pick<Storage, 'setItem'> = localStorage): void {
  try {
    to.setItem(
      KEY,
      JSON.stringify(times, (_, value: unknown) => (typeof value === 'number' ? Math.round(value) : value)),
    );
  } catch {
    // No room or no permission: the plan goes by sizes then.
  }
}
