import { Course } from './course';
import { asPlan, play } from './evaluate';
import { MOST_MOVES, exact } from './exact';
import { greedy } from './greedy';
import type { LoadPlan, LoadTask } from './task';

/**
 * What is loaded when, so that the player waits as little as can be: the shortest worst wait at a planned recall, then the
 * least waiting in all, then the fewest loads, then the least memory. What sounds, what is pinned and, where the budget
 * holds it, what comes right after stays in memory. The best plan up to twelve units, as far as the ways can be gone through;
 * above, a good one, with a bound that no plan can be under.
 * @param mostMoves how far ways are gone through
 */
export function planLoading(task: LoadTask, mostMoves = MOST_MOVES): LoadPlan {
  const course = new Course(task);
  const good = play(course, greedy(course));
  const best = exact(course, good.cost, mostMoves);
  return best === null ? asPlan(course, good, false) : asPlan(course, play(course, best.holds), best.isExact);
}
