import { NEVER, type Course } from './course';
import { soonestAsk } from './soonest';

/** Sets of units as bits: unit 0 is the lowest. */
export type Units = number;

export const unitsOf = (units: Iterable<number>): Units => {
  let bits = 0;
  for (const unit of units) bits |= 1 << unit;
  return bits;
};

export const has = (units: Units, unit: number): boolean => ((units >> unit) & 1) === 1;

export function countOf(units: Units): number {
  let count = 0;
  for (let rest = units; rest !== 0; rest &= rest - 1) count++;
  return count;
}

/** All sets within a set, the largest first, the empty one last. */
export function* within(units: Units): Generator<Units> {
  for (let some = units; some !== 0; some = (some - 1) & units) yield some;
  yield 0;
}

/** A course of few units, so that sets of them are numbers. By stop, the one ahead of all first. */
export class CourseBits {
  /** By set of units: what they take together. */
  readonly bytes: Float64Array;
  readonly loadMs: readonly number[];
  readonly times: readonly number[];
  readonly needs: readonly Units[];
  /** What has to be in memory whatever is planned. */
  readonly base: readonly Units[];
  /** What has to stay besides, if it is there. */
  readonly kept: readonly Units[];
  /** What is needed again behind the stop. */
  readonly later: readonly Units[];
  /**
   * What has to be asked for there, if it is not to be late; anything else can be asked for later, if no wait is longer
   * than to the next stop.
   */
  readonly due: readonly Units[];
  /** In which order units are loaded that are asked for there. */
  readonly order: readonly (readonly number[])[];
  readonly resident: Units;
  readonly budgetBytes: number;

  constructor(course: Course) {
    const { task, needs } = course;
    const all = task.units.map((_, unit) => unit);
    this.bytes = new Float64Array(1 << all.length);
    for (let units = 1; units < this.bytes.length; units++)
      this.bytes[units] = this.bytes[units & (units - 1)] + task.units[31 - Math.clz32(units & -units)].bytes;
    this.loadMs = all.map(course.loadMs);
    this.times = course.times;
    this.needs = needs.map(unitsOf);
    this.base = needs.map((_, stop) => unitsOf(course.base(stop)));
    this.kept = needs.map((_, stop) => unitsOf(course.must(stop, new Set(all))));
    this.later = needs.map((_, stop) => unitsOf(all.filter((unit) => course.nextUse(stop, unit) !== NEVER)));
    const soonest = soonestAsk(course);
    this.due = needs.map((_, stop) => unitsOf(all.filter((unit) => soonest[course.nextUse(stop, unit)] <= stop)));
    this.order = needs.map((_, stop) => course.inOrder(stop, all));
    this.resident = unitsOf(task.resident);
    this.budgetBytes = task.budgetBytes;
  }
}
