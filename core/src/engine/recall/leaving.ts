import type { LayerPlans } from '../compile/layerPlans';
import { Carry } from '../compile/carry';
import type { CompiledLayer } from '../compile/compiled';
import type { ControllerRouter } from '../play/controllerRouter';
import { Standing } from '../state/layerStates';
import { CUT_MS } from '../state/limits';
import type { NoteEnder } from '../play/noteEnder';
import { Due, type EngineState } from '../state/engineState';

/** What becomes of layers that are left behind or fall silent: their notes and pedals do what their carry says. */
export class Leaving {
  private fadeCount = 0;

  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteEnder,
    private readonly controllers: ControllerRouter,
  ) {}

  /** A layer is left behind: its notes and pedals do what its carry says. */
  leave(plan: LayerPlans, row: number): void {
    const { state } = this;
    const index = plan.index(row);
    const lane = plan.lane(row);
    const carry = plan.carry(row);
    state.lanes.users[lane]--;
    if (carry === Carry.cut) this.cut(index);
    else if (carry === Carry.fade) this.fade(state.layers[index]!);
    else if (plan.loops(row)) this.notes.endDetached(index);
    if (this.isRestless(index, lane, plan.lanes(row))) this.linger(index);
  }

  cut(index: number): void {
    const { state } = this;
    const layer = state.layers[index];
    // What rings on after its key is cut as well, whatever its release.
    if (layer !== null && !layer.outboard) state.lanes.fade(layer.destination, CUT_MS);
    if (state.holdsOf[index] > 0) this.notes.endLayer(index);
    this.controllers.dropPedals(index);
  }

  fade(layer: CompiledLayer): void {
    const { state } = this;
    const serial = ++this.fadeCount;
    state.fadeSerial[layer.index] = serial;
    this.notes.takeIntoFade(layer.index, serial);
    if (!layer.outboard) state.lanes.fade(layer.destination, layer.fadeMs);
    state.record({ type: 'fade', atMs: state.nowMs, layer: layer.name, fadeMs: layer.fadeMs });
    if (!state.schedule.add(state.nowMs + layer.fadeMs, Due.faded, layer.index, serial))
      this.faded(layer.index, serial);
  }

  /** A fade is over: the notes that it took end, and (unless the layer is back) its pedals. */
  faded(layer: number, serial: number): void {
    const { state } = this;
    this.notes.endLayer(layer, serial);
    if (
      state.fadeSerial[layer] === serial &&
      state.isCurrent[layer] === Standing.notCurrent &&
      state.isStandIn[layer] === 0
    )
      this.controllers.dropPedals(layer);
  }

  private isRestless(index: number, lane: number, lanes: number): boolean {
    const { state } = this;
    if (state.holdsOf[index] > 0) return true;
    const pedals = index * 3;
    if ((state.pedalOf[pedals] | state.pedalOf[pedals + 1] | state.pedalOf[pedals + 2]) !== 0) return true;
    for (let l = lane; l < lane + lanes; l++) if (state.lanes.bent[l] === 1) return true;
    return false;
  }

  /** Keeps an eye on a layer left behind until it is silent, its pedals are up and its wheel is at rest. */
  private linger(index: number): void {
    const { state } = this;
    this.forgetRested();
    if (state.isLingering[index] === 1 || state.lingeringCount >= state.lingering.length) return;
    state.isLingering[index] = 1;
    state.lingering[state.lingeringCount++] = index;
  }

  private forgetRested(): void {
    const { state } = this;
    let kept = 0;
    for (let i = 0; i < state.lingeringCount; i++) {
      const index = state.lingering[i];
      const layer = state.layers[index];
      if (
        layer !== null &&
        state.isCurrent[index] === Standing.notCurrent &&
        this.isRestless(index, layer.lane, layer.lanes)
      )
        state.lingering[kept++] = index;
      else state.isLingering[index] = 0;
    }
    state.lingeringCount = kept;
  }
}
