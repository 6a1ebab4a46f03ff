import {
  CARRY_CUT,
  CARRY_FADE,
  FLAG_CARRY_SHIFT,
  FLAG_LOOPS,
  FLAG_SIXTEEN_LANES,
  type CompiledLayer,
} from './compile/compiled';
import type { ControllerDesk } from './controllerDesk';
import { NOT_CURRENT } from './layerStates';
import { CUT_MS } from './limits';
import type { NoteDesk } from './noteDesk';
import { DUE_FADED, type Rig } from './rig';

/** What becomes of layers that are left behind or fall silent: their notes and pedals do what their carry says. */
export class Leaving {
  private fadeCount = 0;

  constructor(
    private readonly rig: Rig,
    private readonly notes: NoteDesk,
    private readonly controllers: ControllerDesk,
  ) {}

  /** A layer is left behind: its notes and pedals do what its carry says. */
  leave(index: number, lane: number, flags: number): void {
    const { rig } = this;
    const carry = flags >> FLAG_CARRY_SHIFT;
    rig.lanes.users[lane]--;
    if (carry === CARRY_CUT) this.cut(index);
    else if (carry === CARRY_FADE) this.fade(rig.layers[index]!);
    else if ((flags & FLAG_LOOPS) !== 0) this.notes.endDetached(index);
    if (this.isRestless(index, lane, (flags & FLAG_SIXTEEN_LANES) === 0 ? 1 : 16)) this.linger(index);
  }

  cut(index: number): void {
    const { rig } = this;
    const layer = rig.layers[index];
    // What rings on after its key is cut as well, whatever its release.
    if (layer !== null && !layer.outboard) rig.lanes.fade(layer.destination, CUT_MS);
    if (rig.holdsOf[index] > 0) this.notes.endLayer(index);
    this.controllers.dropPedals(index);
  }

  fade(layer: CompiledLayer): void {
    const { rig } = this;
    const serial = ++this.fadeCount;
    rig.fadeSerial[layer.index] = serial;
    this.notes.takeIntoFade(layer.index, serial);
    if (!layer.outboard) rig.lanes.fade(layer.destination, layer.fadeMs);
    rig.record({ type: 'fade', atMs: rig.nowMs, layer: layer.name, fadeMs: layer.fadeMs });
    if (!rig.schedule.add(rig.nowMs + layer.fadeMs, DUE_FADED, layer.index, serial)) this.faded(layer.index, serial);
  }

  /** A fade is over: the notes that it took end, and (unless the layer is back) its pedals. */
  faded(layer: number, serial: number): void {
    const { rig } = this;
    this.notes.endLayer(layer, serial);
    if (rig.fadeSerial[layer] === serial && rig.isCurrent[layer] === NOT_CURRENT && rig.isStandIn[layer] === 0)
      this.controllers.dropPedals(layer);
  }

  private isRestless(index: number, lane: number, lanes: number): boolean {
    const { rig } = this;
    if (rig.holdsOf[index] > 0) return true;
    const pedals = index * 3;
    if ((rig.pedalOf[pedals] | rig.pedalOf[pedals + 1] | rig.pedalOf[pedals + 2]) !== 0) return true;
    for (let l = lane; l < lane + lanes; l++) if (rig.lanes.bent[l] === 1) return true;
    return false;
  }

  /** Keeps an eye on a layer left behind until it is silent, its pedals are up and its wheel is at rest. */
  private linger(index: number): void {
    const { rig } = this;
    this.forgetRested();
    if (rig.isLingering[index] === 1 || rig.lingeringCount >= rig.lingering.length) return;
    rig.isLingering[index] = 1;
    rig.lingering[rig.lingeringCount++] = index;
  }

  private forgetRested(): void {
    const { rig } = this;
    let kept = 0;
    for (let i = 0; i < rig.lingeringCount; i++) {
      const index = rig.lingering[i];
      const layer = rig.layers[index];
      if (layer !== null && rig.isCurrent[index] === NOT_CURRENT && this.isRestless(index, layer.lane, layer.lanes))
        rig.lingering[kept++] = index;
      else rig.isLingering[index] = 0;
    }
    rig.lingeringCount = kept;
  }
}
