import { SOUND_CONTROLLER_REST } from '../../show';
import type { CompiledBalance, CompiledPatch } from '../compile/compiled';
import { VALUE_SLOTS } from '../state/limits';
import type { EngineState } from '../state/engineState';

/**
 * Sound controllers that patches and blends store: sent at a recall, after everything that the player's hands hold.
 * What one patch has set on
 * an outboard channel, another one that plays there and does not set it brings back to rest.
 */
export class ParameterSender {
  /**
   * `lane * VALUE_SLOTS + controller` of whatever has been set, and the value that was stored for it. Grows with new
   * ones only.
   */
  private readonly keys: number[] = [];
  private readonly stored: number[] = [];
  /** Of each, the last recall that set it. */
  private readonly setBy: number[] = [];
  private serial = 0;

  constructor(private readonly state: EngineState) {}

  get anySet(): boolean {
    return this.keys.length > 0;
  }

  /** @param isEdit what was stored before and is still the same is left as hands have made it since. */
  apply(patch: CompiledPatch, balance: CompiledBalance, isEdit: boolean): void {
    const { lanes } = this.state;
    this.serial++;
    for (let i = 0; i < patch.parameters.length; i++) {
      const { lane, lanes: count, controller } = patch.parameters[i];
      const value = balance.parameters[i];
      const at = this.place(lane * VALUE_SLOTS + controller);
      const same = isEdit && this.stored[at] === value;
      this.stored[at] = value;
      this.setBy[at] = this.serial;
      if (same) continue;
      for (let l = lane; l < lane + count; l++) lanes.bringTo(l, controller, value);
    }
    for (let at = 0; at < this.keys.length; at++) {
      const lane = Math.floor(this.keys[at] / VALUE_SLOTS);
      if (this.setBy[at] === this.serial || this.stored[at] === SOUND_CONTROLLER_REST || lanes.users[lane] === 0)
        continue;
      this.stored[at] = SOUND_CONTROLLER_REST;
      lanes.bringTo(lane, this.keys[at] % VALUE_SLOTS, SOUND_CONTROLLER_REST);
    }
  }

  /** Sends what the present patch stores once more, to one destination or (−1) to all. */
  resend(patch: CompiledPatch, balance: CompiledBalance, destination: number): void {
    for (let i = 0; i < patch.parameters.length; i++) {
      const { lane, lanes: count, controller } = patch.parameters[i];
      if (destination >= 0 && this.state.lanes.destinationOf(lane) !== destination) continue;
      for (let l = lane; l < lane + count; l++) this.state.lanes.bringTo(l, controller, balance.parameters[i]);
    }
  }

  private place(key: number): number {
    const known = this.keys.indexOf(key);
    if (known >= 0) return known;
    this.stored.push(-1);
    this.setBy.push(0);
    return this.keys.push(key) - 1;
  }
}
