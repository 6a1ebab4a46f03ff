import { waitsAtLeast } from './atLeast';
import { CourseBits, countOf, has, within, type Units } from './bits';
import type { Course } from './course';
import { Heap } from './heap';
import { SAME_MS, advanced, asked, atRest, isNoLater, isSame, waitAt, type Loading } from './loadingBits';
import { loadsAtLeast } from './loadsAtLeast';
import type { PlanCost } from './task';

/** Above so many units all ways are too many. */
const MOST_UNITS = 12;
/** So many ways from one stop to the next are looked at, in all; then it is given up. */
export const MOST_MOVES = 400_000;
/** Bounding so many sets of units at a stop takes as long as looking at one way. */
const SETS_AS_ONE_MOVE = 200;

type Cost = Pick<PlanCost, 'worstMs' | 'totalMs' | 'loads'>;

/** Where one can be at a stop, with the best way there. */
interface State extends Cost {
  /** The stop it is at; −1: before all. */
  stop: number;
  holds: Units;
  /** What of it stays until it is needed again: it was loaded for that, or kept. */
  stays: Units;
  loading: Loading;
  from: State | null;
  /** What it costs at least, to its end. */
  least: Cost;
}

/** What a search goes by. */
interface Search {
  /** At most so much in memory, where what has to be there leaves that. */
  mostBytes: number;
  /** No wait is longer; null: the longest is what is made small, and nothing else. */
  capMs: number | null;
  /** Nothing that costs more is of any use. */
  most: Cost;
  /** No wait is as long as the time to the next stop, so that whatever is needed is ready before it can be let go of. */
  isCalm: boolean;
}

class TooMany extends Error {}

/**
 * The best way to hold units from stop to stop: the shortest worst wait, then the least waiting in all, then the fewest
 * loads, then the least memory. All ways are looked at but those that cannot be better, the most promising first (A*).
 * @param known what some plan costs @param mostMoves ways from one stop to the next that are looked at, in all
 * @returns null when there are too many ways to find a better one
 */
export function exact(
  course: Course,
  known: PlanCost,
  mostMoves: number,
): { holds: ReadonlySet<number>[]; isExact: boolean } | null {
  if (course.task.units.length > MOST_UNITS) return null;
  const walk = new Walk(course, mostMoves);
  const shortest = orNull(() => shortestWait(course, walk, known));
  if (shortest === null) return null;
  const { isCalm } = shortest;
  const best = orNull(() => leastWaits(course, walk, shortest, known));
  if (best === null) return shortest.worstMs < known.worstMs - SAME_MS ? asHolds(course, shortest, false) : null;
  const least = orNull(() => leastMemory(walk, best, isCalm));
  return asHolds(course, least ?? best, least !== null);
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

/** The best by its longest wait, and in which kind of search it was found. */
interface Shortest extends State {
  isCalm: boolean;
}

function shortestWait(course: Course, walk: Walk, known: PlanCost): Shortest | null {
  const mostBytes = course.task.budgetBytes;
  const best = (mostMs: number, isCalm: boolean): Shortest | null => {
    const most = { worstMs: Math.min(mostMs, known.worstMs), totalMs: Infinity, loads: Infinity };
    const state = walk.best({ mostBytes, capMs: null, most, isCalm });
    return state && { ...state, isCalm };
  };
  // Plans that wait longer than to the next stop somewhere are many more, and only of use where there are no others.
  return best(shortestGap(course), true) ?? best(Infinity, false);
}

function leastWaits(course: Course, walk: Walk, shortest: Shortest, known: PlanCost): State | null {
  const capMs = shortest.worstMs;
  const most = known.worstMs > capMs + SAME_MS ? { worstMs: capMs, totalMs: Infinity, loads: Infinity } : known;
  return walk.best({ mostBytes: course.task.budgetBytes, capMs, most, isCalm: shortest.isCalm });
}

/** Between two recalls. */
const shortestGap = ({ times }: Course): number =>
  times.slice(2).reduce((least, at, i) => Math.min(least, at - times[i + 1]), Infinity);

/** The same waits and loads with the least memory. */
function leastMemory(walk: Walk, best: State, isCalm: boolean): State {
  const { bytes } = walk.bits;
  const peak = Math.max(...statesOf(best).map(({ holds }) => bytes[holds]));
  const fewer = [...new Set(bytes)].filter((each) => each < peak).sort((a, b) => a - b);
  let found = best;
  let [low, high] = [0, fewer.length];
  // What does with so much does with more.
  while (low < high) {
    const middle = (low + high) >> 1;
    const state = walk.best({ mostBytes: fewer[middle], capMs: best.worstMs, most: best, isCalm });
    if (state !== null) [found, high] = [state, middle];
    else low = middle + 1;
  }
  return found;
}

/** Its way, without where it began. */
function statesOf(state: State): State[] {
  const states: State[] = [];
  for (let at: State | null = state; at?.from; at = at.from) states.push(at);
  return states.reverse();
}

function asHolds({ task }: Course, state: State, isExact: boolean): ReturnType<typeof exact> {
  const setOf = (units: Units): Set<number> =>
    new Set(task.units.flatMap((_, unit) => (has(units, unit) ? [unit] : [])));
  return { holds: statesOf(state).map(({ holds }) => setOf(holds)), isExact };
}

/** Where one goes from a stop. */
interface Way {
  holds: Units;
  stays: Units;
}

class Walk {
  readonly bits: CourseBits;
  private moves = 0;
  /** By stop: waits behind it that no plan is without, the longest and all of them. */
  private readonly worstBehind: number[] = [];
  private readonly totalBehind: number[] = [];
  private readonly start: State;

  constructor(
    course: Course,
    private readonly mostMoves: number,
  ) {
    this.bits = new CourseBits(course);
    const waits = waitsAtLeast(course);
    let [worst, total] = [0, 0];
    for (let stop = waits.length - 1; stop >= 0; stop--) {
      this.worstBehind[stop] = worst;
      this.totalBehind[stop] = total;
      worst = Math.max(worst, waits[stop]);
      total += waits[stop];
    }
    const nothing = { worstMs: 0, totalMs: 0, loads: 0 };
    const loading = atRest(course.task.parallel);
    this.start = { ...nothing, stop: -1, holds: this.bits.resident, stays: 0, loading, from: null, least: nothing };
  }

  /** The best way to the last stop; null: there is none within the bounds. */
  best(search: Search): State | null {
    const { bits } = this;
    const last = bits.needs.length - 1;
    let loadsBehind: LoadsBehind = null;
    if (search.capMs !== null) {
      this.spend((bits.bytes.length * bits.needs.length) / SETS_AS_ONE_MOVE);
      loadsBehind = loadsAtLeast(bits, search.mostBytes);
    }
    const open = new Heap<State>((a, b) => compare(a, b, search));
    const closed = new Map<number, State[]>();
    open.add(this.start);
    for (let state = open.take(); state; state = open.take()) {
      if (state.stop === last) return state;
      const at = (state.stop + 1) * bits.bytes.length + state.holds;
      const others = closed.get(at);
      if (others?.some((other) => this.isAsGood(other, state!, search))) continue;
      if (others) others.push(state);
      else closed.set(at, [state]);
      const loading = state.stop < 0 ? state.loading : advanced(bits, state.loading, state.stop);
      for (const way of this.ways(state, search)) {
        const moved = this.moved(state, loading, way, loadsBehind, search);
        if (moved !== null) open.add(moved);
      }
    }
    return null;
  }

  private spend(moves: number): void {
    this.moves += moves;
    if (this.moves > this.mostMoves) throw new TooMany();
  }

  /** Null where it leads to nothing within the bounds. */
  private moved(
    from: State,
    before: Loading,
    { holds, stays }: Way,
    loadsBehind: LoadsBehind,
    search: Search,
  ): State | null {
    this.spend(1);
    const { bits } = this;
    const stop = from.stop + 1;
    const added = holds & ~from.holds;
    const loading = asked(before, holds, added);
    const waitMs = waitAt(bits, loading, stop);
    const worstMs = Math.max(from.worstMs, waitMs);
    const totalMs = from.totalMs + waitMs;
    const loads = from.loads + countOf(added);
    const least = {
      worstMs: Math.max(worstMs, this.worstBehind[stop]),
      totalMs: totalMs + this.totalBehind[stop],
      loads: loads + (loadsBehind?.[stop][holds] ?? 0),
    };
    if (!isWithin(least, search)) return null;
    return { stop, holds, stays, loading, worstMs, totalMs, loads, from, least };
  }

  /** Whatever can be done from a state can be done from another one that is at the same stop and holds the same, for no more. */
  private isAsGood(state: State, other: State, { capMs, isCalm }: Search): boolean {
    if ((state.stays & ~other.stays) !== 0) return false;
    if (capMs === null ? state.worstMs > other.worstMs + SAME_MS : order(state, other) > 0) return false;
    const now = this.bits.times[Math.max(0, state.stop)];
    if (!isCalm) return isSame(state.loading, other.loading, now);
    return isNoLater(state.loading, other.loading, now, this.bits.loadMs);
  }

  /**
   * What may be held from the next stop on: what must be, and whatever else is needed later and fits. In a calm course
   * nothing is loaded, or kept after its use, to be let go of before it is needed again: it could as well not be there.
   */
  private *ways({ stop, holds, stays }: State, { mostBytes, isCalm }: Search): Generator<Way> {
    const { bytes, base, kept, later, due, budgetBytes, needs } = this.bits;
    const next = stop + 1;
    const must = base[next] | (kept[next] & holds);
    if (bytes[must] > budgetBytes) {
      if ((stays & ~must) === 0) yield { holds: must, stays: stays & ~needs[next] };
      return;
    }
    const fixed = must | stays;
    if (bytes[fixed] > mostBytes) return;
    for (const some of within(later[next] & ~fixed & (isCalm ? holds | due[next] : -1))) {
      const all = fixed | some;
      if (bytes[all] > mostBytes) continue;
      yield { holds: all, stays: isCalm ? (stays | some) & ~needs[next] : 0 };
    }
  }
}

type LoadsBehind = readonly Uint16Array[] | null;

/** Waits first, then loads. */
function order(a: Cost, b: Cost): number {
  const waits = a.totalMs - b.totalMs;
  return Math.abs(waits) > SAME_MS ? waits : a.loads - b.loads;
}

const compare = (a: State, b: State, { capMs }: Search): number =>
  (capMs === null ? a.least.worstMs - b.least.worstMs : order(a.least, b.least)) || b.stop - a.stop;

function isWithin(least: Cost, { capMs, most }: Search): boolean {
  if (least.worstMs > Math.min(capMs ?? Infinity, most.worstMs) + SAME_MS) return false;
  return order(least, most) <= 0;
}
