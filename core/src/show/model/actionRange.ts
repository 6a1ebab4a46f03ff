import type { Action } from './control';
import type { Effect } from './effect';
import { effectParameter, type EffectParameter } from './effectParameters';

/** Ends of what an action moves, both inclusive, in its unit; '' has none. */
export interface ActionRange {
  readonly low: number;
  readonly high: number;
  readonly unit: EffectParameter['unit'] | '';
}

/** Of a layer's level. */
export const LEVEL: ActionRange = { low: -60, high: 6, unit: 'dB' };
const SEND: ActionRange = { low: 0, high: 100, unit: '%' };
const VALUES: Record<string, ActionRange> = {
  levelDb: LEVEL,
  pan: { low: -100, high: 100, unit: '' },
  room: SEND,
  echo: SEND,
  roomDb: LEVEL,
  echoDb: LEVEL,
  echoRepeats: { low: 0, high: 95, unit: '%' },
};

/**
 * @param effect kind of the effect that the action names; null: it is not there. @returns null when the action has no
 * value, or none that can be moved.
 */
export function actionRange(action: Action, effect: Effect['kind'] | null = null): ActionRange | null {
  if ('parameter' in action) return effect === null ? null : effectParameter(effect, action.parameter);
  if ('value' in action) return VALUES[action.value];
  return action.kind === 'layerController' ? { low: 0, high: 127, unit: '' } : null;
}
