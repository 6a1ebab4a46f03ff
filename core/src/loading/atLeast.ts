import type { Course } from './course';
import type { PlanCost } from './task';

/**
 * No plan waits less, by stop: of two stops that follow each other, what does not fit together is loaded between them,
 * and what is loaded at the second one makes its player wait.
 */
export function waitsAtLeast(course: Course): number[] {
  const { units, budgetBytes, parallel } = course.task;
  return course.needs.map((needs, stop) => {
    if (stop === 0) return 0;
    const before = course.base(stop - 1);
    const late = [...needs].filter((unit) => !before.has(unit));
    const both = new Set([...before, ...needs]);
    const over = Math.min(course.bytesOf(both) - budgetBytes, course.bytesOf(late));
    if (over <= 0) return 0;
    const quickest = Math.min(...late.map((unit) => units[unit].loadMs));
    const byBytes = Math.min(...late.map((unit) => units[unit].loadMs / Math.max(1, units[unit].bytes)));
    return Math.max(quickest, (over * byBytes) / Math.max(1, parallel));
  });
}

/** And of the whole. */
export const atLeast = (course: Course): Pick<PlanCost, 'worstMs' | 'totalMs'> => {
  const waits = waitsAtLeast(course);
  return { worstMs: Math.max(...waits), totalMs: waits.reduce((sum, wait) => sum + wait, 0) };
};
