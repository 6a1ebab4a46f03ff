import { Course } from './course';
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

/** What a jump finds: loads at a moment. */
interface Moment {
  loader: Loader;
  atMs: number;
}

/**
 * Waits of jumps from every song to the first recall of every other, by what the plan has in memory then: what waits to be
 * loaded is dropped, what runs ends.
 */
export function jumpWaits(task: LoadTask, plan: LoadPlan): JumpWaits {
  const course = new Course(task);
  const loaders = loadersOf(task, plan);
  const firsts = task.stops.flatMap(({ isFirstOfSong }, i) => (isFirstOfSong ? [i + 1] : []));
  const at = (stop: number, fromMs: number, untilMs: number): Moment => ({
    loader: run(loaders[stop], course.loadMs, fromMs, untilMs),
    atMs: untilMs,
  });
  const beginnings = firsts.map((stop) => {
    const beganMs = course.times[stop];
    return at(stop, beganMs, beganMs + plan.stops[stop - 1].waitMs);
  });
  const ends = firsts.map((_, song) => {
    const last = (firsts[song + 1] ?? course.needs.length) - 1;
    // After the last one there is all the time in the world.
    return at(last, course.times[last], course.times[last + 1] ?? Infinity);
  });
  const from = ({ loader, atMs }: Moment): number[] =>
    firsts.map((stop) => {
      const wanted = [...course.needs[stop]];
      const missing = wanted.filter((unit) => !loader.readyAt.has(unit));
      missing.sort((a, b) => course.loadMs(b) - course.loadMs(a) || a - b);
      const there = wanted.reduce((latest, unit) => Math.max(latest, loader.readyAt.get(unit) ?? -Infinity), -Infinity);
      return Math.max(0, there - atMs, lastOf(loader.freeAt, atMs, missing.map(course.loadMs)));
    });
  return { atEnd: ends.map(from), atBeginning: beginnings.map(from) };
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
