import type { Course } from './course';

/**
 * For each stop, from which one on what it needs may be asked for, without ever being later for it: between two gaps so
 * long that all that is needed from the one before to the one behind is loaded within them, nothing has to be asked for
 * before the first of the two begins. Holds for plans in which whatever is needed is ready before the next stop.
 */
export function soonestAsk({ times, needs, pinned, loadMs }: Course): number[] {
  const msOf = (units: Iterable<number>): number => [...units].reduce((sum, unit) => sum + loadMs(unit), 0);
  const work = needs.map((units, stop) => msOf(stop === 0 ? pinned : units));
  // Stretches of stops with a long gap before each; those whose gap turns out too short are one with the one before.
  let firsts = needs.map((_, stop) => stop);
  for (let known = Infinity; known > firsts.length;) {
    known = firsts.length;
    const stretches = firsts.map((first, i) => work.slice(first, firsts[i + 1]).reduce((sum, each) => sum + each, 0));
    firsts = firsts.filter((first, i) => i === 0 || times[first] - times[first - 1] >= stretches[i - 1] + stretches[i]);
  }
  let first = 0;
  return needs.map((_, stop) => {
    if (firsts.includes(stop)) first = stop;
    return Math.max(0, first - 1);
  });
}
