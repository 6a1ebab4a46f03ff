import { CC_LEVEL, CC_PAN } from '../../midi/status';
import { BALANCE_STRIDE } from '../compile/compiled';
import type { Overrides } from '../controls/overrides';
import type { EngineState } from '../state/engineState';
import { levelController, panController } from './levels';

const sameBalance = (values: Float64Array, a: number, b: number): boolean => {
  for (let i = 0; i < BALANCE_STRIDE; i++) if (values[a + i] !== values[b + i]) return false;
  return true;
};

/** Tells sound and gear the present balance: levels, pans, effects, sends, outputs. */
export class BalanceTeller {
  constructor(
    private readonly state: EngineState,
    private readonly hands: Overrides,
  ) {}

  /**
   * Brings every layer to the present balance; those that had it already (from `oldValuesAt` on, −1: none) are left
   * alone.
   */
  tell(oldValuesAt: number, rampMs: number): void {
    const { lanes, plan, planFrom, planTo, values, valuesAt, step } = this.state;
    for (let row = planFrom; row < planTo; row++) {
      const layer = row - planFrom;
      const at = valuesAt + layer * BALANCE_STRIDE;
      if (plan.isOutboard(row)) {
        if (plan.sendsLevel(row)) this.sendLevel(plan.lane(row), values[at], values[at + 1]);
        continue;
      }
      if (plan.hasEffects(row)) lanes.effects(plan.destination(row), step!.balance.effects[layer], rampMs);
      if (oldValuesAt < 0 || !sameBalance(values, oldValuesAt + layer * BALANCE_STRIDE, at))
        lanes.balance(plan.destination(row), values, at, rampMs);
    }
    if (this.hands.effects.anyTouched) this.hands.effects.overlay();
  }

  private sendLevel(lane: number, levelDb: number, pan: number): void {
    const { lanes } = this.state;
    lanes.bringTo(lane, CC_LEVEL, levelController(levelDb));
    lanes.bringTo(lane, CC_PAN, panController(pan));
  }

  /** What an edit may have changed, and a recall cannot. */
  tellEdited(rampMs: number): void {
    const { lanes, patch } = this.state;
    for (const { outboard, destination, output, effects } of patch!.layers) {
      if (outboard) continue;
      lanes.route(destination, output);
      if (effects.length === 0) lanes.effects(destination, effects, rampMs);
    }
  }

  /** What each layer sends to shared effects. */
  tellSends(rampMs: number): void {
    const { lanes, patch, step } = this.state;
    const { layers } = patch!;
    for (let i = 0; i < layers.length; i++)
      if (!layers[i].outboard) lanes.sends(layers[i].destination, step!.balance.sends[i], rampMs);
  }
}
