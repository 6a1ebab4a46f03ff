import {
  FLAG_STAYS,
  PLAN_FLAGS,
  PLAN_INDEX,
  PLAN_LANE,
  PLAN_STRIDE,
  type CompiledLayer,
  type CompiledPatch,
} from '../compile/compiled';
import { DEFERRED, NOT_READY } from '../state/lanes';
import { LEFT, NEW, STOOD_IN } from '../state/layerStates';
import type { Leaving } from './leaving';
import type { EngineState } from '../state/engineState';

/** Layers that are put off until their sound is ready, and those of the patch before that play their keys meanwhile. */
export class StandIns {
  /** Layers that the running recall puts off. */
  private readonly deferring: CompiledLayer[] = [];

  constructor(
    private readonly state: EngineState,
    private readonly leaving: Leaving,
  ) {}

  anyLoading(plan: Int32Array, from: number, to: number): boolean {
    const { blockedBy } = this.state.lanes;
    for (let at = from; at < to; at += PLAN_STRIDE)
      if ((plan[at + PLAN_FLAGS] & FLAG_STAYS) !== 0 && (blockedBy[plan[at + PLAN_LANE]] & NOT_READY) !== 0)
        return true;
    return false;
  }

  /**
   * Layers of the new patch that stay away until their sound is ready; the layers of the old patch that cover their
   * keys stand in.
   * While one recall is still waiting in this way, the next keeps the same stand-ins.
   */
  defer(next: CompiledPatch, oldPatch: CompiledPatch | null): void {
    const { state } = this;
    const stillStanding = state.deferredCount > 0 ? state.standInPatch : null;
    const cover = stillStanding ?? oldPatch;
    if (cover === null) return;
    let lowest = 127;
    let highest = 0;
    if (this.deferring.length > 0) this.deferring.length = 0;
    const { plan } = next;
    for (let at = 0, i = 0; at < plan.length; at += PLAN_STRIDE, i++) {
      const index = plan[at + PLAN_INDEX];
      const loading =
        (plan[at + PLAN_FLAGS] & FLAG_STAYS) !== 0 && (state.lanes.blockedBy[plan[at + PLAN_LANE]] & NOT_READY) !== 0;
      if (!loading || !(state.isCurrent[index] === NEW || state.isDeferred[index] === 1)) continue;
      this.deferring.push(next.layers[i]);
      lowest = Math.min(lowest, next.lowKey[i]);
      highest = Math.max(highest, next.highKey[i]);
    }
    if (this.deferring.length === 0 && stillStanding === null) return;
    if (oldPatch !== null) this.clearDeferred(oldPatch);
    for (const layer of this.deferring) this.setDeferred(layer, true);
    state.standInPatch = state.deferredCount > 0 ? cover : null;
    for (let i = 0; i < cover.layers.length; i++) {
      const { index } = cover.layers[i];
      const stood = state.isStandIn[index] === 1;
      if (!(stood ? state.isCurrent[index] !== STOOD_IN : state.isCurrent[index] === LEFT)) continue;
      const covers = state.deferredCount > 0 && cover.lowKey[i] <= highest && cover.highKey[i] >= lowest;
      state.isStandIn[index] = covers ? 1 : 0;
      if (stood && !covers) this.leaveStandIn(cover, i);
    }
  }

  private clearDeferred(patch: CompiledPatch): void {
    for (const layer of patch.layers) if (this.state.isDeferred[layer.index] === 1) this.setDeferred(layer, false);
  }

  private setDeferred(layer: CompiledLayer, deferred: boolean): void {
    const { state } = this;
    state.isDeferred[layer.index] = deferred ? 1 : 0;
    state.deferredCount += deferred ? 1 : -1;
    for (let lane = layer.lane; lane < layer.lane + layer.lanes; lane++) {
      if (deferred) state.lanes.blockedBy[lane] |= DEFERRED;
      else state.lanes.blockedBy[lane] &= ~DEFERRED;
    }
  }

  private leaveStandIn(patch: CompiledPatch, i: number): void {
    const at = i * PLAN_STRIDE;
    this.leaving.leave(patch.plan[at + PLAN_INDEX], patch.plan[at + PLAN_LANE], patch.plan[at + PLAN_FLAGS]);
  }

  /** A lane's sound is ready: its layer plays. @returns whether the layers that stood in have gone */
  undefer(lane: number): boolean {
    const { state } = this;
    if (state.deferredCount === 0) return false;
    for (const layer of state.patch?.layers ?? [])
      if (state.isDeferred[layer.index] === 1 && lane >= layer.lane && lane < layer.lane + layer.lanes)
        this.setDeferred(layer, false);
    if (state.deferredCount > 0 || state.standInPatch === null) return false;
    const { standInPatch } = state;
    state.standInPatch = null;
    for (let i = 0; i < standInPatch.layers.length; i++) {
      const { index } = standInPatch.layers[i];
      if (state.isStandIn[index] === 0) continue;
      state.isStandIn[index] = 0;
      this.leaveStandIn(standInPatch, i);
    }
    return true;
  }
}
