import { BYTES_IN_MB } from '../show';
import { NEVER, type Course } from './course';

/** Of what is held, what should go first: it is not needed for long, and comes back quickly for what it takes. */
function spare(course: Course, stop: number, unit: number): number {
  const next = course.nextUse(stop, unit);
  if (next === NEVER) return Infinity;
  const { loadMs, bytes } = course.task.units[unit];
  return (course.times[next] - course.times[stop]) / Math.max(1e-3, loadMs / Math.max(1e-3, bytes / BYTES_IN_MB));
}

/**
 * What is held from each stop on, by one look ahead at a time: what is needed next comes next, where it fits, or in the
 * place of what is needed later.
 */
export function greedy(course: Course): ReadonlySet<number>[] {
  const { budgetBytes, units } = course.task;
  const smallest = Math.min(...units.map(({ bytes }) => bytes));
  const holds: ReadonlySet<number>[] = [];
  let held: ReadonlySet<number> = new Set(course.task.resident);
  for (let stop = 0; stop < course.needs.length; stop++) {
    const must = course.must(stop, held);
    const here = new Set(must);
    for (const unit of held) if (course.nextUse(stop, unit) !== NEVER) here.add(unit);
    let bytes = course.bytesOf(here);
    const goes = (unit: number): void => {
      here.delete(unit);
      bytes -= units[unit].bytes;
    };
    const spares = [...here]
      .filter((unit) => !must.has(unit))
      .sort((a, b) => spare(course, stop, b) - spare(course, stop, a) || a - b);
    while (bytes > budgetBytes && spares.length > 0) goes(spares.shift()!);
    const wanted = units
      .map((_, unit) => unit)
      .filter((unit) => !here.has(unit) && course.nextUse(stop, unit) !== NEVER)
      .sort((a, b) => course.nextUse(stop, a) - course.nextUse(stop, b) || a - b);
    for (const unit of wanted) {
      const next = course.nextUse(stop, unit);
      const room = budgetBytes - bytes;
      // Nothing smaller comes, and nothing that is spared is needed later than what comes.
      if (room < smallest && !spares.some((other) => course.nextUse(stop, other) > next)) break;
      const given = units[unit].bytes <= room ? [] : givenUp(course, stop, spares, next, units[unit].bytes - room);
      if (given === null) continue;
      for (const gone of given) {
        goes(gone);
        spares.splice(spares.indexOf(gone), 1);
      }
      here.add(unit);
      bytes += units[unit].bytes;
    }
    holds.push(here);
    held = here;
  }
  return holds;
}

/** Of what can be spared and is needed later than a stop, so much that it makes room; null: there is not enough. */
function givenUp(
  course: Course,
  stop: number,
  spares: readonly number[],
  next: number,
  bytes: number,
): number[] | null {
  const out: number[] = [];
  let room = 0;
  for (const unit of spares) {
    if (room >= bytes) break;
    if (course.nextUse(stop, unit) <= next) continue;
    out.push(unit);
    room += course.task.units[unit].bytes;
  }
  return room >= bytes ? out : null;
}
