import { Course } from './course';
import { restingLoader, type Loader } from './loader';
import { atLeast } from './atLeast';
import type { LoadPlan, LoadTask, PlanCost, PlannedStop } from './task';

/** A plan played through. */
export interface Played {
  stops: PlannedStop[];
  cost: PlanCost;
  /** The loads that run from each stop on. */
  loaders: Loader[];
}

/** What it costs to hold these units from each stop on; the first of them is what is loaded ahead. */
export function play(course: Course, holds: readonly ReadonlySet<number>[]): Played {
  let loader = restingLoader(course.task);
  let held: ReadonlySet<number> = new Set(course.task.resident);
  const stops: PlannedStop[] = [];
  const loaders: Loader[] = [];
  holds.forEach((here, stop) => {
    const moved = course.move(loader, held, stop, here);
    stops.push({
      holds: [...here].sort((a, b) => a - b),
      loads: [...here].filter((unit) => !held.has(unit)).sort((a, b) => a - b),
      evicts: [...held].filter((unit) => !here.has(unit)).sort((a, b) => a - b),
      bytes: course.bytesOf(here),
      waitMs: moved.waitMs,
      isOver: course.bytesOf(course.base(stop)) > course.task.budgetBytes,
    });
    loaders.push(moved.loader);
    [loader, held] = [moved.loader, here];
  });
  return { stops, cost: costOf(stops), loaders };
}

function costOf(stops: readonly PlannedStop[]): PlanCost {
  return stops.reduce(
    (cost, { waitMs, loads, bytes }) => ({
      worstMs: Math.max(cost.worstMs, waitMs),
      totalMs: cost.totalMs + waitMs,
      loads: cost.loads + loads.length,
      peakBytes: Math.max(cost.peakBytes, bytes),
    }),
    { worstMs: 0, totalMs: 0, loads: 0, peakBytes: 0 },
  );
}

/** As a plan of a task. */
export function asPlan(course: Course, { stops, cost }: Played, isExact: boolean): LoadPlan {
  return { ahead: stops[0], stops: stops.slice(1), cost, isExact, atLeast: isExact ? cost : atLeast(course) };
}

/** The loads that run from each of its stops on, those ahead first: for what a jump finds. */
export const loadersOf = (task: LoadTask, plan: LoadPlan): Loader[] =>
  play(
    new Course(task),
    [plan.ahead, ...plan.stops].map(({ holds }) => new Set(holds)),
  ).loaders;
