/** Does all steps at once of what could be done in slices. */
export function allOf(steps: Iterator<void>): void {
  while (steps.next().done !== true);
}
