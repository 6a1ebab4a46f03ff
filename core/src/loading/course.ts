import { asked, readyBy, run, type Loader } from './loader';
import type { LoadTask } from './task';

/** Later than any stop. */
export const NEVER = 1e9;

/** What one stop does: the loads that run from there on, and how long the player waits. */
export interface Moved {
  loader: Loader;
  waitMs: number;
}

/**
 * A task made ready to be planned. Its stops are numbered from 1; 0 is what is loaded ahead of them, where nothing has to
 * be ready.
 */
export class Course {
  readonly times: readonly number[];
  readonly needs: readonly ReadonlySet<number>[];
  readonly pinned: readonly number[];
  /**
   * By stop: what of it, when it is in memory, stays for what comes right after: the next stop and the next song's first
   * one, where the budget holds both; where it does not, the next stop alone; where it does not hold that, nothing.
   */
  private readonly kept: readonly ReadonlySet<number>[];
  /** By stop and unit: the next stop behind it that needs the unit. */
  private readonly next: readonly Int32Array[];

  constructor(readonly task: LoadTask) {
    const first = task.stops[0]?.atMs ?? 0;
    this.times = [first - task.beforeMs, ...task.stops.map(({ atMs }) => atMs)];
    this.needs = [new Set<number>(), ...task.stops.map(({ needs }) => new Set(needs))];
    this.pinned = task.units.flatMap(({ isPinned }, unit) => (isPinned ? [unit] : []));
    const last = this.needs.length - 1;
    const next: Int32Array[] = new Array<Int32Array>(this.needs.length);
    next[last] = new Int32Array(task.units.length).fill(NEVER);
    for (let stop = last - 1; stop >= 0; stop--) {
      next[stop] = next[stop + 1].slice();
      for (const unit of this.needs[stop + 1]) next[stop][unit] = stop + 1;
    }
    this.next = next;
    let song: ReadonlySet<number> = new Set();
    const kept: ReadonlySet<number>[] = [];
    for (let stop = last; stop >= 0; stop--) {
      const nextStop = this.needs[stop + 1] ?? new Set();
      const both = new Set([...nextStop, ...song]);
      const isRoomFor = (units: ReadonlySet<number>): boolean =>
        this.bytesOf(new Set([...this.base(stop), ...units])) <= task.budgetBytes;
      kept[stop] = [both, nextStop].find(isRoomFor) ?? new Set();
      if (stop > 0 && task.stops[stop - 1].isFirstOfSong) song = this.needs[stop];
    }
    this.kept = kept;
  }

  readonly loadMs = (unit: number): number => this.task.units[unit].loadMs;

  /** The next stop behind this one that needs a unit, NEVER: none. */
  nextUse(stop: number, unit: number): number {
    return this.next[stop][unit];
  }

  bytesOf(units: Iterable<number>): number {
    let sum = 0;
    for (const unit of units) sum += this.task.units[unit].bytes;
    return sum;
  }

  /**
   * From the stop before, where something was held, to this one, from where on something else is: what is no more is let
   * go of, what is new is asked for, what is needed here first, then by its next use.
   */
  move(loader: Loader, held: ReadonlySet<number>, stop: number, holds: ReadonlySet<number>): Moved {
    const { times, needs } = this;
    const now = times[stop];
    const before = stop === 0 ? loader : run(loader, this.loadMs, times[stop - 1], now);
    const queue = this.inOrder(stop, [
      ...before.queue.filter((unit) => holds.has(unit)),
      ...[...holds].filter((unit) => !held.has(unit)),
    ]);
    const after = asked(before, (unit) => !holds.has(unit), queue);
    const ready = readyBy(after, this.loadMs, now, [...needs[stop]]);
    return { loader: after, waitMs: ready > now ? ready - now : 0 };
  }

  /** Units in the order in which they are loaded from a stop on. */
  inOrder(stop: number, units: readonly number[]): number[] {
    const rank = (unit: number): number => (this.needs[stop].has(unit) ? stop : this.nextUse(stop, unit));
    return [...units].sort((a, b) => rank(a) - rank(b) || a - b);
  }

  /** What has to be in memory from a stop on whatever is planned: what it needs, and what is pinned. */
  base(stop: number): Set<number> {
    return new Set([...this.needs[stop], ...this.pinned]);
  }

  /** And of what is held what stays for what comes right after. */
  must(stop: number, held: ReadonlySet<number>): Set<number> {
    return new Set([...this.base(stop), ...[...this.kept[stop]].filter((unit) => held.has(unit))]);
  }
}
