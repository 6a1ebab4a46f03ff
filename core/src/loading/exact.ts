import { NEVER, type Course } from './course';
import { waitsAtLeast } from './atLeast';
import { Heap } from './heap';
import { restingLoader, type Loader } from './loader';
import type { PlanCost } from './task';

/** Above so many units all ways are too many. */
const MOST_UNITS = 12;
/** So many ways from one stop to the next are looked at, in all; then it is given up. */
const MOST_MOVES = 100_000;
const SAME_MS = 1e-6;

/** Where one can be at a stop, with the best way there. */
interface State {
  holds: ReadonlySet<number>;
  loader: Loader;
  worstMs: number;
  totalMs: number;
  loads: number;
  /** The stop it is at; −1: before all. */
  stop: number;
  from: State | null;
  /** What it costs at least, to its end. */
  least: Pick<PlanCost, 'worstMs' | 'totalMs' | 'loads'>;
}

/** What a search goes by. */
interface Search {
  /** At most so much in memory, where what has to be there leaves that. */
  mostBytes: number;
  /** No wait is longer; null: the longest is what is made small, and nothing else. */
  capMs: number | null;
  /** Nothing that costs more is of any use. */
  most: Pick<PlanCost, 'worstMs' | 'totalMs' | 'loads'>;
}

class TooMany extends Error {}

/**
 * The best way to hold units from stop to stop: the shortest worst wait, then the least waiting in all, then the fewest
 * loads, then the least memory. All ways are looked at but those that cannot be better: what is needed again goes only
 * where its room is taken; the most promising first (A*).
 * @param known what some plan costs @returns null when there are too many ways
 */
export function exact(course: Course, known: PlanCost): { holds: ReadonlySet<number>[]; isExact: boolean } | null {
  if (course.task.units.length > MOST_UNITS) return null;
  const walk = new Walk(course);
  const best = orNull(() => leastWaits(course, walk, known));
  if (best === null) return null;
  const least = orNull(() => leastMemory(course, walk, best));
  return { holds: pathOf(least ?? best), isExact: least !== null };
}

/** Null also when it takes too many moves. */
function orNull<T>(search: () => T | null): T | null {
  try {
    return search();
  } catch (cause) {
    if (cause instanceof TooMany) return null;
    throw cause;
  }
}

function leastWaits(course: Course, walk: Walk, known: PlanCost): State | null {
  const mostBytes = course.task.budgetBytes;
  const any = { worstMs: known.worstMs, totalMs: Infinity, loads: Infinity };
  const shortest = walk.best({ mostBytes, capMs: null, most: any });
  if (shortest === null) return null;
  const capMs = shortest.worstMs;
  return walk.best({ mostBytes, capMs, most: known.worstMs > capMs + SAME_MS ? { ...any, worstMs: capMs } : known });
}

/** The same waits and loads with the least memory. */
function leastMemory(course: Course, walk: Walk, best: State): State {
  const { units } = course.task;
  const sums = new Set<number>();
  for (let mask = 0; mask < 1 << units.length; mask++)
    sums.add(course.bytesOf(units.flatMap((_, unit) => ((mask >> unit) & 1 ? [unit] : []))));
  const peak = Math.max(...pathOf(best).map((holds) => course.bytesOf(holds)));
  const fewer = [...sums].filter((bytes) => bytes < peak).sort((a, b) => a - b);
  let found = best;
  let [low, high] = [0, fewer.length];
  // What does with so much does with more.
  while (low < high) {
    const middle = (low + high) >> 1;
    const state = walk.best({ mostBytes: fewer[middle], capMs: best.worstMs, most: best });
    if (state !== null) [found, high] = [state, middle];
    else low = middle + 1;
  }
  return found;
}

function pathOf(state: State): ReadonlySet<number>[] {
  const path: ReadonlySet<number>[] = [];
  for (let at: State | null = state; at?.from; at = at.from) path.push(at.holds);
  return path.reverse();
}

class Walk {
  private moves = 0;
  /** By stop: waits behind it that no plan is without, the longest and all of them. */
  private readonly worstBehind: number[] = [];
  private readonly totalBehind: number[] = [];

  constructor(private readonly course: Course) {
    const waits = waitsAtLeast(course);
    let [worst, total] = [0, 0];
    for (let stop = waits.length - 1; stop >= 0; stop--) {
      this.worstBehind[stop] = worst;
      this.totalBehind[stop] = total;
      worst = Math.max(worst, waits[stop]);
      total += waits[stop];
    }
  }

  /** The best way to the last stop; null: there is none within the bounds. */
  best(search: Search): State | null {
    const { course } = this;
    const last = course.needs.length - 1;
    const open = new Heap<State>((a, b) => this.compare(a, b, search));
    const closed = new Set<string>();
    open.add({
      holds: new Set(course.task.resident),
      loader: restingLoader(course.task),
      worstMs: 0,
      totalMs: 0,
      loads: 0,
      stop: -1,
      from: null,
      least: { worstMs: 0, totalMs: 0, loads: 0 },
    });
    for (let state = open.take(); state; state = open.take()) {
      if (state.stop === last) return state;
      const key = keyOf(state, this.course.times[Math.max(0, state.stop)]);
      if (closed.has(key)) continue;
      closed.add(key);
      for (const holds of this.ways(state.holds, state.stop + 1, search.mostBytes)) {
        const moved = this.moved(state, holds, search);
        if (moved !== null) open.add(moved);
      }
    }
    return null;
  }

  /** What a way costs at least, to its end. */
  private atLeast({
    worstMs,
    totalMs,
    loads,
    stop,
    holds,
  }: Omit<State, 'least'>): Pick<PlanCost, 'worstMs' | 'totalMs' | 'loads'> {
    let missing = 0;
    this.course.task.units.forEach((_, unit) => {
      if (!holds.has(unit) && this.course.nextUse(stop, unit) !== NEVER) missing++;
    });
    return {
      worstMs: Math.max(worstMs, this.worstBehind[stop]),
      totalMs: totalMs + this.totalBehind[stop],
      loads: loads + missing,
    };
  }

  private compare(a: State, b: State, { capMs }: Search): number {
    const [left, right] = [a.least, b.least];
    if (capMs === null) return left.worstMs - right.worstMs || b.stop - a.stop;
    const waits = left.totalMs - right.totalMs;
    return (Math.abs(waits) > SAME_MS ? waits : 0) || left.loads - right.loads || b.stop - a.stop;
  }

  private moved(state: State, holds: ReadonlySet<number>, { capMs, most }: Search): State | null {
    this.moves++;
    if (this.moves > MOST_MOVES) throw new TooMany();
    const stop = state.stop + 1;
    const { loader, waitMs } = this.course.move(state.loader, state.holds, stop, holds);
    if (capMs !== null && waitMs > capMs + SAME_MS) return null;
    let { loads } = state;
    for (const unit of holds) if (!state.holds.has(unit)) loads++;
    const moved = {
      holds,
      loader,
      worstMs: Math.max(state.worstMs, waitMs),
      totalMs: state.totalMs + waitMs,
      loads,
      stop,
      from: state,
    };
    const least = this.atLeast(moved);
    const { worstMs, totalMs, loads: atLeastLoads } = least;
    if (worstMs > most.worstMs + SAME_MS || totalMs > most.totalMs + SAME_MS) return null;
    return totalMs > most.totalMs - SAME_MS && atLeastLoads > most.loads ? null : { ...moved, least };
  }

  /** What may be held from a stop on: what must be, whatever else is asked for, and as much of the rest as there is room. */
  private *ways(held: ReadonlySet<number>, stop: number, mostBytes: number): Generator<ReadonlySet<number>> {
    const { course } = this;
    const { units, budgetBytes } = course.task;
    const must = course.must(stop, held);
    const mustBytes = course.bytesOf(must);
    if (mustBytes > budgetBytes) {
      yield must;
      return;
    }
    if (mustBytes > mostBytes) return;
    const isUsed = (unit: number): boolean => !must.has(unit) && course.nextUse(stop, unit) !== NEVER;
    const rest = [...held].filter(isUsed);
    const others = units.map((_, unit) => unit).filter((unit) => !held.has(unit) && isUsed(unit));
    for (const added of subsets(others)) {
      const room = mostBytes - mustBytes - course.bytesOf(added);
      if (room < 0) continue;
      for (const kept of fullest(rest, room, course)) yield new Set([...must, ...added, ...kept]);
    }
  }
}

function* subsets(units: readonly number[]): Generator<number[]> {
  for (let mask = 0; mask < 1 << units.length; mask++) yield units.filter((_, i) => (mask >> i) & 1);
}

/** Those that fit and to which nothing can be added. */
function* fullest(units: readonly number[], room: number, course: Course): Generator<number[]> {
  if (course.bytesOf(units) <= room) {
    yield [...units];
    return;
  }
  for (const some of subsets(units)) {
    const left = room - course.bytesOf(some);
    if (left < 0) continue;
    if (units.some((unit) => !some.includes(unit) && course.task.units[unit].bytes <= left)) continue;
    yield some;
  }
}

/** What is yet to come depends on nothing else. */
function keyOf({ holds, loader, stop }: State, nowMs: number): string {
  const late = (at: number): number => (at > nowMs ? at - nowMs : 0);
  const running = [...loader.readyAt]
    .filter(([, at]) => at > nowMs)
    .map(([unit, at]) => `${unit}:${late(at)}`)
    .sort();
  return [
    stop,
    [...holds].sort((a, b) => a - b),
    running,
    loader.queue,
    loader.freeAt.map(late).sort((a, b) => a - b),
  ].join('|');
}
