import type { LayerPlans } from '../compile/layerPlans';
import type { CompiledLayer, CompiledPatch } from '../compile/compiled';
import { Blocked } from '../state/lanes';
import { Standing } from '../state/layerStates';
import type { Leaving } from './leaving';
import type { EngineState } from '../state/engineState';

/** Layers that are put off until their sound is ready, and those of the patch before that play their keys meanwhile. */
export class StandIns {
  /** Layers that the running recall puts off. */
  private readonly deferring: CompiledLayer[] = [];
  /** Keys that they span. */
  private lowest = 127;
  private highest = 0;

  constructor(
    private readonly state: EngineState,
    private readonly leaving: Leaving,
  ) {}

  anyLoading(plan: LayerPlans, from: number, to: number): boolean {
    for (let row = from; row < to; row++) if (this.isLoading(plan, row)) return true;
    return false;
  }

  private isLoading(plan: LayerPlans, row: number): boolean {
    return plan.stays(row) && (this.state.lanes.blockedBy[plan.lane(row)] & Blocked.notReady) !== 0;
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
    this.findDeferring(next);
    if (this.deferring.length === 0 && stillStanding === null) return;
    if (oldPatch !== null) this.clearDeferred(oldPatch);
    for (const layer of this.deferring) this.setDeferred(layer, true);
    state.standInPatch = state.deferredCount > 0 ? cover : null;
    this.coverWith(cover);
  }

  /** Layers of a patch that is left stand in where they cover keys of what is put off; the others of them go. */
  private coverWith(cover: CompiledPatch): void {
    const { state, lowest, highest } = this;
    for (let i = 0; i < cover.layers.length; i++) {
      const { index } = cover.layers[i];
      const stood = state.isStandIn[index] === 1;
      const isFree = stood ? state.isCurrent[index] !== Standing.stoodIn : state.isCurrent[index] === Standing.left;
      if (!isFree) continue;
      const covers = state.deferredCount > 0 && cover.lowKey[i] <= highest && cover.highKey[i] >= lowest;
      state.isStandIn[index] = covers ? 1 : 0;
      if (stood && !covers) this.leaving.leave(cover.plan, i);
    }
  }

  /** The layers of a patch that cannot sound yet, and the keys that they span. */
  private findDeferring({ plan, layers, lowKey, highKey }: CompiledPatch): void {
    const { isCurrent, isDeferred } = this.state;
    this.lowest = 127;
    this.highest = 0;
    if (this.deferring.length > 0) this.deferring.length = 0;
    for (let row = 0; row < plan.count; row++) {
      const index = plan.index(row);
      if (!this.isLoading(plan, row) || !(isCurrent[index] === Standing.new || isDeferred[index] === 1)) continue;
      this.deferring.push(layers[row]);
      this.lowest = Math.min(this.lowest, lowKey[row]);
      this.highest = Math.max(this.highest, highKey[row]);
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
      if (deferred) state.lanes.blockedBy[lane] |= Blocked.deferred;
      else state.lanes.blockedBy[lane] &= ~Blocked.deferred;
    }
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
      this.leaving.leave(standInPatch.plan, i);
    }
    return true;
  }
}
