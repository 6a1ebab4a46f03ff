import { Course, NEVER } from './course';
import { loadersOf } from './evaluate';
import { run, type Loader } from './loader';
import type { LoadPlan, LoadTask } from './task';

/** How long a jump waits, in ms: by the song it leaves and the song it goes to. */
export interface JumpWaits {
  /** From the end of a song. */
  atEnd: readonly (readonly number[])[];
  /** From its beginning, when its first recall is ready. */
  atBeginning: readonly (readonly number[])[];
}

/** So long after a recall, what is needed later in the evening is loaded while there is room, ms. */
export const AHEAD_AFTER_MS = 5000;

/** What a jump finds: loads at a moment, and what is in memory besides. */
interface Moment {
  loader: Loader;
  besides: ReadonlySet<number>;
  atMs: number;
}

/**
 * Waits of jumps from every song to the first recall of every other, by what is in memory then: what the plan has, and
 * besides, as long as there is room, what it has let go of and what it needs later. What waits to be loaded is dropped,
 * what runs ends.
 */
export function jumpWaits(task: LoadTask, plan: LoadPlan): JumpWaits {
  const course = new Course(task);
  const loaders = loadersOf(task, plan);
  const room = new Room(course, plan);
  const firsts = task.stops.flatMap(({ isFirstOfSong }, i) => (isFirstOfSong ? [i + 1] : []));
  const beginnings: Moment[] = [];
  const ends: Moment[] = [];
  for (let stop = 0; stop < course.needs.length; stop++) {
    const [now, next] = [course.times[stop], course.times[stop + 1] ?? Infinity];
    const left = room.left(
      stop,
      stop === 0 ? null : run(loaders[stop - 1], course.loadMs, course.times[stop - 1], now),
    );
    if (firsts.includes(stop)) {
      const readyMs = now + plan.stops[stop - 1].waitMs;
      beginnings.push({ loader: run(loaders[stop], course.loadMs, now, readyMs), besides: left, atMs: readyMs });
    }
    // After the last one there is all the time in the world.
    const loader = run(loaders[stop], course.loadMs, now, next);
    const besides = room.ahead(stop, loader);
    if (stop > 0 && (firsts.includes(stop + 1) || stop === course.needs.length - 1))
      ends.push({ loader, besides, atMs: next });
  }
  const from = ({ loader, besides, atMs }: Moment): number[] =>
    firsts.map((stop) => {
      const wanted = [...course.needs[stop]].filter((unit) => !besides.has(unit));
      const missing = wanted.filter((unit) => !loader.readyAt.has(unit));
      missing.sort((a, b) => course.loadMs(b) - course.loadMs(a) || a - b);
      const there = wanted.reduce((latest, unit) => Math.max(latest, loader.readyAt.get(unit) ?? -Infinity), -Infinity);
      return Math.max(0, there - atMs, lastOf(loader.freeAt, atMs, missing.map(course.loadMs)));
    });
  return { atEnd: ends.map(from), atBeginning: beginnings.map(from) };
}

/** What is in memory besides what the plan has loaded by then: it takes nothing from it. */
class Room {
  /** What the plan does not hold, the oldest first. */
  private units: number[] = [];
  /** What the plan holds and is there sooner than it asks for. */
  private early: number[] = [];

  private readonly smallest: number;

  constructor(
    private readonly course: Course,
    private readonly plan: LoadPlan,
  ) {
    this.smallest = course.task.units.reduce((least, { bytes }) => Math.min(least, bytes), Infinity);
  }

  /**
   * From a stop on: what was there before or has been let go of, as far as there is room. What is needed no more goes
   * first, the oldest of it first, then what is needed last.
   * @param before how loads stand as the stop comes; null: there are none before it
   */
  left(stop: number, before: Loader | null): ReadonlySet<number> {
    const { evicts } = this.at(stop);
    const holds = new Set(this.at(stop).holds);
    const isThere = (unit: number): boolean => (before?.readyAt.get(unit) ?? Infinity) <= this.course.times[stop];
    const gone = evicts.filter((unit) => this.early.includes(unit) || isThere(unit));
    this.early = [...this.early, ...this.units].filter((unit) => holds.has(unit));
    this.units = [...this.units.filter((unit) => !holds.has(unit)), ...gone];
    const { nextUse } = this;
    const goes = this.units
      .map((unit, age) => ({ unit, age, next: nextUse(stop, unit) }))
      .sort((a, b) => b.next - a.next || a.age - b.age)
      .map(({ unit }) => unit);
    let bytes = this.bytesAt(stop);
    while (bytes > this.course.task.budgetBytes && goes.length > 0) {
      const next = goes.shift()!;
      bytes -= this.course.task.units[next].bytes;
      this.units.splice(this.units.indexOf(next), 1);
    }
    return new Set([...this.units, ...this.early]);
  }

  /** And what has been loaded ahead of its need until the next stop: one at a time, once nothing else is loaded. */
  ahead(stop: number, loader: Loader): ReadonlySet<number> {
    const { times, task, loadMs } = this.course;
    const untilMs = times[stop + 1] ?? Infinity;
    let atMs = loader.queue.length > 0 ? Infinity : Math.max(times[stop] + AHEAD_AFTER_MS, ...loader.freeAt);
    let bytes = this.bytesAt(stop);
    if (bytes + this.smallest > task.budgetBytes || atMs >= untilMs) return new Set([...this.units, ...this.early]);
    const there = new Set([...this.at(stop).holds, ...this.units]);
    const wanted = task.units
      .map((_, unit) => unit)
      .filter((unit) => this.nextUse(stop, unit) !== NEVER && !there.has(unit))
      .sort((a, b) => this.nextUse(stop, a) - this.nextUse(stop, b) || a - b);
    for (const unit of wanted) {
      bytes += task.units[unit].bytes;
      atMs += loadMs(unit);
      if (bytes > task.budgetBytes || atMs > untilMs) break;
      this.units.push(unit);
    }
    return new Set([...this.units, ...this.early]);
  }

  private readonly nextUse = (stop: number, unit: number): number => this.course.nextUse(stop, unit);

  private at(stop: number): LoadPlan['ahead'] {
    return stop === 0 ? this.plan.ahead : this.plan.stops[stop - 1];
  }

  private bytesAt(stop: number): number {
    return this.at(stop).bytes + this.course.bytesOf(this.units);
  }
}

/** How long loads take together, each of these lengths beginning as soon as a place is free. */
function lastOf(freeAt: readonly number[], atMs: number, lengths: readonly number[]): number {
  const free = freeAt.map((at) => Math.max(0, at - atMs));
  let last = 0;
  for (const length of lengths) {
    const place = free.indexOf(Math.min(...free));
    free[place] += length;
    last = Math.max(last, free[place]);
  }
  return last;
}
