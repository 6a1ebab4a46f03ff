import type { ControlState } from '../../protocol';

/** By role what it does now: of several controls of one role the one that was moved last. */
export function byRole(controls: readonly ControlState[]): Map<string, ControlState> {
  const found = new Map<string, ControlState>();
  for (const control of controls) if (!found.has(control.role) || control.isMoving) found.set(control.role, control);
  return found;
}
