import { CONTROLLER } from '../../midi/status';
import { AddressHow } from '../../timeline';
import type { Address, CompiledLayer } from '../compile/compiled';
import { Blocked } from '../state/lanes';
import { Standing } from '../state/layerStates';
import { Due, type EngineState } from '../state/engineState';
import type { Overrides } from '../controls/overrides';

/** Brings outboard gear to its addresses: what is known is not sent again, what switches is waited for. */
export class Outboard {
  /** Hands have stepped presets of the present patch. */
  anyPresetStepped = false;
  /**
   * By lane: the address whose further messages were sent last, and the one whose further messages wait for the
   * switching to end.
   */
  private readonly alsoSent: (Address | null)[] = [];
  private readonly alsoWaits: (Address | null)[] = [];

  constructor(
    private readonly state: EngineState,
    private readonly hands: Overrides,
    /** A lane need not be waited for any more. */
    private readonly onReady: (lane: number) => void,
  ) {}

  selectNew(): void {
    const { plan, planFrom, planTo, isCurrent, layers } = this.state;
    for (let row = planFrom; row < planTo; row++) {
      const index = plan.index(row);
      if (plan.isOutboard(row) && isCurrent[index] === Standing.new) this.selectProgram(layers[index]!, false);
    }
    // What goes with an address is sent when every program is: channels may be shared.
    for (let row = planFrom; row < planTo; row++) {
      const index = plan.index(row);
      if (plan.isOutboard(row) && isCurrent[index] === Standing.new) this.selectAlso(layers[index]!, false);
    }
  }

  /** Every outboard layer of the present patch, or those of one destination. */
  selectAll(always: boolean, destination = -1): void {
    const layers = (this.state.patch?.layers ?? []).filter(
      (layer) => layer.outboard && (destination < 0 || layer.destination === destination),
    );
    for (const layer of layers) this.selectProgram(layer, always);
    for (const layer of layers) this.selectAlso(layer, always);
  }

  /** An address that was asked for by hand. */
  selectNow(lane: number, address: Address): void {
    const { lanes, nowMs } = this.state;
    if (lanes.isAway(lane)) return;
    if (address.program >= 0) this.sendAddress(lane, address.msb, address.lsb, address.program);
    if (address.also.length === 0) return;
    if (lanes.readyAtMs[lane] > nowMs) this.alsoWaits[lane] = address;
    else this.sendAlso(lane, address);
  }

  /**
   * A cue asks for an address. While the instrument switches, only the last one waits.
   * @param how bits of `AddressHow`: nothing is sent where it is known to stand there already, or a bank byte is not sent
   * that the channel has got.
   */
  selectForCue(lane: number, address: Address, how: number): void {
    const { lanes, nowMs, show } = this.state;
    const ifOther = (how & AddressHow.ifOther) !== 0;
    if (lanes.isAway(lane)) return;
    const { program } = address;
    const msb = ifOther && show!.laneUsesMsb[lane] === 1 ? Math.max(0, address.msb) : address.msb;
    const lsb = ifOther && show!.laneUsesLsb[lane] === 1 ? Math.max(0, address.lsb) : address.lsb;
    const isThere = ifOther && this.standsAt(lane, msb, lsb, program);
    if (program >= 0 && !isThere) this.sendOrWait(lane, msb, lsb, program, how);
    if (address.also.length === 0 || (isThere && this.alsoSent[lane]?.key === address.key)) return;
    if (lanes.readyAtMs[lane] > nowMs) this.alsoWaits[lane] = address;
    else this.sendAlso(lane, address);
  }

  /** Whether it is known to stand at an address, with no other one waiting. */
  private standsAt(lane: number, msb: number, lsb: number, program: number): boolean {
    const { lanes } = this.state;
    return (
      lanes.pendingProgram[lane] < 0 &&
      lanes.program[lane] === program &&
      lanes.msb[lane] === msb &&
      lanes.lsb[lane] === lsb
    );
  }

  /** While the instrument switches, only the last address waits. */
  private sendOrWait(lane: number, msb: number, lsb: number, program: number, how = 0): void {
    const { lanes, nowMs } = this.state;
    lanes.pendingProgram[lane] = -1;
    if (lanes.readyAtMs[lane] <= nowMs) return this.sendAddress(lane, msb, lsb, program, how);
    lanes.pendingMsb[lane] = msb;
    lanes.pendingLsb[lane] = lsb;
    lanes.pendingProgram[lane] = program;
  }

  /** Says where an instrument without numbers stands in its list. */
  setCount(lane: number, count: number): void {
    this.state.lanes.program[lane] = count;
  }

  /**
   * Brings an outboard channel to a layer's address, unless it is there already; while it switches, only the last
   * address waits.
   */
  selectProgram(layer: CompiledLayer, always: boolean): void {
    const { state } = this;
    const { lane } = layer;
    const address = this.addressOf(layer);
    if (address === null || layer.silent || state.lanes.isAway(lane)) return;
    // Of several layers on one channel the first says where it stands, unless a hand has stepped another.
    if (!layer.ownsAddress && !this.anyPresetStepped) return;
    const { lanes } = state;
    if (always) {
      // Several layers on one channel: once is enough.
      if (lanes.stamp[lane] === state.serial) return;
      lanes.stamp[lane] = state.serial;
    }
    const msb = state.show!.laneUsesMsb[lane] === 1 ? Math.max(0, address.msb) : address.msb;
    const lsb = state.show!.laneUsesLsb[lane] === 1 ? Math.max(0, address.lsb) : address.lsb;
    const known = lanes.program[lane] === address.program && lanes.msb[lane] === msb && lanes.lsb[lane] === lsb;
    lanes.pendingProgram[lane] = -1;
    if (address.program < 0 || (known && !always)) return;
    this.sendOrWait(lane, msb, lsb, address.program);
  }

  /** What goes with a layer's address, once its program is there: not while the instrument is switching. */
  selectAlso(layer: CompiledLayer, always: boolean): void {
    const { lanes, nowMs } = this.state;
    const { lane } = layer;
    const address = this.addressOf(layer);
    if (address === null || layer.silent || lanes.isAway(lane)) return;
    this.alsoWaits[lane] = null;
    if (
      address.also.length === 0 ||
      (!always && lanes.pendingProgram[lane] < 0 && this.alsoSent[lane]?.key === address.key)
    )
      return;
    if (lanes.readyAtMs[lane] > nowMs) this.alsoWaits[lane] = address;
    else this.sendAlso(lane, address);
  }

  /**
   * What an outboard layer of the present patch has to stand at: as the blend has it, as hands have stepped it, or its
   * own.
   */
  private addressOf(layer: CompiledLayer): Address | null {
    const articulations = this.state.step?.balance.articulations ?? null;
    const articulation =
      articulations === null ? null : (articulations[this.state.patch!.layers.indexOf(layer)] ?? null);
    if (articulation !== null) return articulation;
    return this.anyPresetStepped ? (layer.presets.addresses?.[this.hands.presetOf(layer)] ?? null) : layer.address;
  }

  /** Key switches, each a short note, and controllers. */
  private sendAlso(lane: number, address: Address): void {
    const { lanes } = this.state;
    this.alsoSent[lane] = address;
    if (lanes.isAway(lane)) return;
    for (const { status, data1, data2 } of address.also) {
      if (status === CONTROLLER) lanes.sendValue(lane, data1, data2);
      else if (lanes.noteOn(lane, data1, data2)) lanes.noteOff(lane, data1, 64);
    }
  }

  private sendAddress(lane: number, msb: number, lsb: number, program: number, how = 0): void {
    const { state } = this;
    this.alsoSent[lane] = null;
    if (state.observer !== null && state.lanes.isSounding(lane))
      state.warn('program-under-held-notes', this.laneName(lane));
    const counted = state.show!.laneCounted[lane];
    if (counted) {
      if (state.lanes.program[lane] < 0) state.warn('count-unknown', this.laneName(lane));
      state.lanes.sendCounted(lane, counted, program);
    } else state.lanes.sendAddress(lane, msb, lsb, program, how);
    this.startSwitching(lane);
  }

  startSwitching(lane: number): void {
    const { state } = this;
    const switchMs = state.show!.laneSwitchMs[lane];
    if (switchMs === 0 || switchMs === undefined) return;
    state.lanes.setReadyAt(lane, state.nowMs + switchMs);
    if (!state.schedule.add(state.nowMs + switchMs, Due.switched, lane, state.lanes.switchSerial[lane]))
      this.onReady(lane);
  }

  private laneName(lane: number): string {
    const { registry, lanes } = this.state;
    const destination = lanes.destinationOf(lane);
    const name = registry.nameOf(destination);
    return registry.destinations[destination].kind === 'port' ? `${name}, channel ${lanes.channelOf(lane) + 1}` : name;
  }

  /** A lane's sound is ready: the address that waits there is sent, and what goes with it. @returns whether it still is */
  goOn(lane: number): boolean {
    const { lanes } = this.state;
    lanes.setReadyAt(lane, 0);
    const program = lanes.pendingProgram[lane];
    lanes.pendingProgram[lane] = -1;
    if (program >= 0) {
      this.sendAddress(lane, lanes.pendingMsb[lane], lanes.pendingLsb[lane], program);
      if ((lanes.blockedBy[lane] & Blocked.notReady) !== 0) return false;
    }
    const also = this.alsoWaits[lane] ?? null;
    this.alsoWaits[lane] = null;
    if (also !== null) this.sendAlso(lane, also);
    return true;
  }
}
