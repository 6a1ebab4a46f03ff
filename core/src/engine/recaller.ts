import { CC_BANK_LSB, CC_BANK_MSB, CC_LEVEL, CC_PAN, CONTROLLER } from '../midi/status';
import {
  type Address,
  BALANCE_STRIDE,
  CARRY_CUT,
  CARRY_FADE,
  FLAG_CARRY_SHIFT,
  FLAG_EFFECTS,
  FLAG_LOOPS,
  FLAG_OUTBOARD,
  FLAG_SENDS_LEVEL,
  FLAG_SILENT,
  FLAG_SIXTEEN_LANES,
  FLAG_STAYS,
  ENTERS_WITH_MESSAGES,
  HAS_LIVE_SOUND,
  LEAVES_WITH_MESSAGES,
  PLAN_DESTINATION,
  PLAN_FLAGS,
  PLAN_INDEX,
  PLAN_LANE,
  PLAN_STRIDE,
  RECORD_ENTRY,
  RECORD_MESSAGES,
  RECORD_MUTES,
  RECORD_PATCH,
  RECORD_PLAN,
  RECORD_PLAN_END,
  RECORD_RAMP_MS,
  RECORD_SHAPE_SHIFT,
  RECORD_STRIDE,
  RECORD_VALUES,
  SENDS,
  SETS_PARAMETERS,
  type CompiledEntry,
  type CompiledLayer,
  type CompiledPatch,
  type CompiledShow,
  type CompiledStep,
  type PatchMessage,
} from './compile/compiled';
import type { ControllerDesk } from './controllerDesk';
import { DEFERRED, NOT_READY } from './lanes';
import { levelController, panController } from './levels';
import type { LiveSound } from './liveSound';
import { CUT_MS, RECALL_RAMP_MS, VALUE_SLOTS } from './limits';
import type { NoteDesk } from './noteDesk';
import { ParameterDesk } from './parameterDesk';
import type { RecallCause } from './records';
import { DUE_FADED, DUE_SWITCHED, type Rig } from './rig';
import type { ValueDesk } from './valueDesk';

// What `isCurrent` says of a layer; all but the first two only while a recall runs.
const NOT_CURRENT = 0;
const CURRENT = 1;
const NEW = 2;
/** It stood in for a deferred layer, and is now in the new patch itself. */
const STOOD_IN = 3;
const LEFT = 4;

const sameBalance = (values: Float64Array, a: number, b: number): boolean => {
  for (let i = 0; i < BALANCE_STRIDE; i++) if (values[a + i] !== values[b + i]) return false;
  return true;
};

/** Carries out recalls, in the order that engine.md gives under *Recall*. */
export class Recaller {
  /** By entry: the position where it was left, −1 when it was never there. */
  private leftAt = new Int32Array(0);
  private fadeCount = 0;
  /** Layers that the running recall puts off. */
  private readonly deferring: CompiledLayer[] = [];
  /** Built-in layers whose sound has been told another preset than their own, by layer number. */
  private readonly toldPresets = new Map<number, number>();
  private readonly parameters: ParameterDesk;
  private anyPresetStepped = false;
  /**
   * By lane: the address whose further messages were sent last, and the one whose further messages wait for the
   * switching to end.
   */
  private readonly alsoSent: (Address | null)[] = [];
  private readonly alsoWaits: (Address | null)[] = [];

  constructor(
    private readonly rig: Rig,
    private readonly notes: NoteDesk,
    private readonly controllers: ControllerDesk,
    private readonly hands: ValueDesk,
    private readonly liveSound: LiveSound,
  ) {
    this.parameters = new ParameterDesk(rig);
  }

  positionWhereLeft(entry: number): number {
    return this.leftAt[entry] ?? -1;
  }

  forgetWhereLeft(entries: number): void {
    this.leftAt = new Int32Array(entries).fill(-1);
  }

  recall(position: number, cause: RecallCause): void {
    const { rig } = this;
    const show = rig.show!;
    const step = show.steps[position];
    const again = step === rig.step;
    this.leftAt[show.records[position * RECORD_STRIDE + RECORD_ENTRY]] = position;
    const moved = this.hands.anyTouched;
    const presetsGoBack = moved && this.hands.forgetStored();
    if (!again || moved) this.change(position, again, presetsGoBack);
    if (again) {
      if (show.sendAgain) {
        this.selectAll(true);
        this.notes.endEntering();
        this.sendMessages(step.patch.entering);
      }
      if (!moved) this.applyBalance(-1, RECALL_RAMP_MS);
      this.parameters.apply(step.patch, step.balance, false);
    }
    if (rig.observer !== null) this.tell(step, cause, again);
  }

  private tell(step: CompiledStep, cause: RecallCause, again: boolean): void {
    const { patch, balance } = step;
    this.rig.record({
      type: 'recall',
      atMs: this.rig.nowMs,
      cause,
      again,
      position: step.position,
      entryId: step.entryId,
      songId: patch.songId,
      patchId: patch.patchId,
      blendId: balance.blendId,
      song: patch.song,
      patch: patch.name,
      blend: balance.name,
    });
  }

  /** Goes to a position; as an edit of what is current, the patch itself is neither left nor entered. */
  private change(position: number, isEdit: boolean, presetsGoBack = false): void {
    const { rig } = this;
    const { records, patches, plans, values, mutes, steps } = rig.show!;
    const at = position * RECORD_STRIDE;
    const patch = patches[records[at + RECORD_PATCH]];
    const oldPatch = rig.patch;
    const patchChanges = oldPatch !== patch;
    const enters = !isEdit && (patchChanges || rig.entry !== records[at + RECORD_ENTRY]);
    const articulated =
      !patchChanges && (rig.step?.balance.articulations !== null || steps[position].balance.articulations !== null);
    const anySends = rig.sends || (records[at + RECORD_MESSAGES] & SENDS) !== 0;
    const sendsChange = anySends && !patchChanges && rig.step?.balance.sendsKey !== steps[position].balance.sendsKey;
    const oldValuesAt = patchChanges || sendsChange || rig.values !== values ? -1 : rig.valuesAt;
    if (patchChanges) this.leaveLayers(patch, plans, records[at + RECORD_PLAN], records[at + RECORD_PLAN_END]);
    if (enters && oldPatch !== null) {
      this.notes.endEntering();
      if (rig.leavesWithMessages) this.sendMessages(oldPatch.leaving);
    }
    rig.step = steps[position];
    rig.entry = records[at + RECORD_ENTRY];
    rig.patch = patch;
    rig.rows = rig.show!.rows[records[at + RECORD_MESSAGES] >> RECORD_SHAPE_SHIFT];
    rig.plan = plans;
    rig.planFrom = records[at + RECORD_PLAN];
    rig.planTo = records[at + RECORD_PLAN_END];
    rig.values = values;
    rig.valuesAt = records[at + RECORD_VALUES];
    rig.mutes = mutes;
    rig.mutesAt = records[at + RECORD_MUTES];
    rig.leavesWithMessages = (records[at + RECORD_MESSAGES] & LEAVES_WITH_MESSAGES) !== 0;
    rig.sends = (records[at + RECORD_MESSAGES] & SENDS) !== 0;
    rig.hasLiveSound = (records[at + RECORD_MESSAGES] & HAS_LIVE_SOUND) !== 0;
    this.hands.overlay();
    if (patchChanges) this.selectNew();
    else if (articulated) this.selectAll(false);
    if (this.anyPresetStepped) this.applyPresets(presetsGoBack);
    if (enters && (records[at + RECORD_MESSAGES] & ENTERS_WITH_MESSAGES) !== 0) this.sendMessages(patch.entering);
    const rampMs = patchChanges ? RECALL_RAMP_MS : records[at + RECORD_RAMP_MS];
    this.applyBalance(rig.values === values ? oldValuesAt : -1, rampMs);
    if (anySends) this.tellSends(rampMs);
    this.listLive();
    this.settleLayers();
    this.liveSound.settle();
    if ((records[at + RECORD_MESSAGES] & SETS_PARAMETERS) !== 0 || this.parameters.anySet)
      this.parameters.apply(patch, rig.step.balance, isEdit);
  }

  /**
   * Every layer sounds with the preset that hands have stepped it to, or with its own. Outboard gear that was there
   * before is told
   * only when a preset has gone back: what is merely edited gets no program.
   */
  private applyPresets(outboardToo: boolean): void {
    const { patch } = this.rig;
    for (let i = 0; i < patch!.layers.length; i++)
      if (outboardToo || !patch!.layers[i].outboard) this.presetStepped(patch!.layers[i]);
  }

  /** The preset of a layer of the present patch may be another than before. */
  presetStepped(layer: CompiledLayer): void {
    this.anyPresetStepped = true;
    if (layer.outboard) {
      this.selectProgram(layer, false);
      return this.selectAlso(layer, false);
    }
    const preset = this.hands.presetOf(layer);
    if ((this.toldPresets.get(layer.index) ?? layer.presets.own) === preset || preset < 0) return;
    this.toldPresets.set(layer.index, preset);
    this.rig.lanes.preset(layer.destination, preset);
  }

  /** Mutes of the present patch have been moved by hand: what falls silent carries, what comes back gets its pedal. */
  mutesMoved(): void {
    this.listLive();
    this.settleLayers();
    this.liveSound.settle();
  }

  /** An address that was asked for by hand. */
  selectNow(lane: number, address: Address): void {
    const { lanes, nowMs } = this.rig;
    if (lanes.isAway(lane)) return;
    if (address.program >= 0) this.sendAddress(lane, address.msb, address.lsb, address.program);
    if (address.also.length === 0) return;
    if (lanes.readyAtMs[lane] > nowMs) this.alsoWaits[lane] = address;
    else this.sendAlso(lane, address);
  }

  /** Says where an instrument without numbers stands in its list. */
  setCount(lane: number, count: number): void {
    this.rig.lanes.program[lane] = count;
  }

  /** Sends all gear of the present patch what it should know: addresses, controllers, pedals, levels. */
  resend(): void {
    this.selectAll(true);
    this.rig.lanes.lastSent.fill(-1);
    this.greetAgain(-1);
  }

  private selectNew(): void {
    const { plan, planFrom, planTo, isCurrent, layers } = this.rig;
    for (let at = planFrom; at < planTo; at += PLAN_STRIDE) {
      const index = plan[at + PLAN_INDEX];
      if ((plan[at + PLAN_FLAGS] & FLAG_OUTBOARD) !== 0 && isCurrent[index] === NEW)
        this.selectProgram(layers[index]!, false);
    }
    // What goes with an address is sent when every program is: channels may be shared.
    for (let at = planFrom; at < planTo; at += PLAN_STRIDE) {
      const index = plan[at + PLAN_INDEX];
      if ((plan[at + PLAN_FLAGS] & FLAG_OUTBOARD) !== 0 && isCurrent[index] === NEW)
        this.selectAlso(layers[index]!, false);
    }
  }

  /** Every outboard layer of the present patch, or those of one destination. */
  private selectAll(always: boolean, destination = -1): void {
    const layers = (this.rig.patch?.layers ?? []).filter(
      (layer) => layer.outboard && (destination < 0 || layer.destination === destination),
    );
    for (const layer of layers) this.selectProgram(layer, always);
    for (const layer of layers) this.selectAlso(layer, always);
  }

  /** Marks the layers of the new patch, and lets those go that are not in it: cut ones first. */
  private leaveLayers(next: CompiledPatch, plan: Int32Array, from: number, to: number): void {
    const { rig } = this;
    const { isCurrent, isStandIn, plan: oldPlan, planFrom: oldFrom, planTo: oldTo } = rig;
    for (let at = oldFrom; at < oldTo; at += PLAN_STRIDE)
      if (isCurrent[oldPlan[at]] === CURRENT) isCurrent[oldPlan[at]] = LEFT;
    for (let at = from; at < to; at += PLAN_STRIDE) {
      const index = plan[at];
      isCurrent[index] = isCurrent[index] === LEFT ? CURRENT : isStandIn[index] === 1 ? STOOD_IN : NEW;
    }
    if (rig.deferredCount > 0 || this.anyLoading(plan, from, to)) this.defer(next, rig.patch);
    for (let at = oldFrom; at < oldTo; at += PLAN_STRIDE) {
      const index = oldPlan[at + PLAN_INDEX];
      if (isCurrent[index] !== LEFT) continue;
      isCurrent[index] = NOT_CURRENT;
      if (isStandIn[index] === 0) this.leave(index, oldPlan[at + PLAN_LANE], oldPlan[at + PLAN_FLAGS]);
    }
    for (let at = from; at < to; at += PLAN_STRIDE) {
      const index = plan[at + PLAN_INDEX];
      if (isCurrent[index] === NEW) rig.lanes.users[plan[at + PLAN_LANE]]++;
      else if (isCurrent[index] === STOOD_IN) isStandIn[index] = 0;
    }
  }

  private anyLoading(plan: Int32Array, from: number, to: number): boolean {
    const { hindered } = this.rig.lanes;
    for (let at = from; at < to; at += PLAN_STRIDE)
      if ((plan[at + PLAN_FLAGS] & FLAG_STAYS) !== 0 && (hindered[plan[at + PLAN_LANE]] & NOT_READY) !== 0) return true;
    return false;
  }

  /**
   * Layers of the new patch that stay away until their sound is ready; the layers of the old patch that cover their
   * keys stand in.
   * While one recall is still waiting in this way, the next keeps the same stand-ins.
   */
  private defer(next: CompiledPatch, oldPatch: CompiledPatch | null): void {
    const { rig } = this;
    const stillStanding = rig.deferredCount > 0 ? rig.standInPatch : null;
    const cover = stillStanding ?? oldPatch;
    if (cover === null) return;
    let lowest = 127;
    let highest = 0;
    if (this.deferring.length > 0) this.deferring.length = 0;
    const { plan } = next;
    for (let at = 0, i = 0; at < plan.length; at += PLAN_STRIDE, i++) {
      const index = plan[at + PLAN_INDEX];
      const loading =
        (plan[at + PLAN_FLAGS] & FLAG_STAYS) !== 0 && (rig.lanes.hindered[plan[at + PLAN_LANE]] & NOT_READY) !== 0;
      if (!loading || !(rig.isCurrent[index] === NEW || rig.isDeferred[index] === 1)) continue;
      this.deferring.push(next.layers[i]);
      lowest = Math.min(lowest, next.lowKey[i]);
      highest = Math.max(highest, next.highKey[i]);
    }
    if (this.deferring.length === 0 && stillStanding === null) return;
    if (oldPatch !== null) this.clearDeferred(oldPatch);
    for (const layer of this.deferring) this.setDeferred(layer, true);
    rig.standInPatch = rig.deferredCount > 0 ? cover : null;
    for (let i = 0; i < cover.layers.length; i++) {
      const { index } = cover.layers[i];
      const stood = rig.isStandIn[index] === 1;
      if (!(stood ? rig.isCurrent[index] !== STOOD_IN : rig.isCurrent[index] === LEFT)) continue;
      const covers = rig.deferredCount > 0 && cover.lowKey[i] <= highest && cover.highKey[i] >= lowest;
      rig.isStandIn[index] = covers ? 1 : 0;
      if (stood && !covers) this.leaveStandIn(cover, i);
    }
  }

  private clearDeferred(patch: CompiledPatch): void {
    for (const layer of patch.layers) if (this.rig.isDeferred[layer.index] === 1) this.setDeferred(layer, false);
  }

  private setDeferred(layer: CompiledLayer, deferred: boolean): void {
    const { rig } = this;
    rig.isDeferred[layer.index] = deferred ? 1 : 0;
    rig.deferredCount += deferred ? 1 : -1;
    for (let lane = layer.lane; lane < layer.lane + layer.lanes; lane++) {
      if (deferred) rig.lanes.hindered[lane] |= DEFERRED;
      else rig.lanes.hindered[lane] &= ~DEFERRED;
    }
  }

  private leaveStandIn(patch: CompiledPatch, i: number): void {
    const at = i * PLAN_STRIDE;
    this.leave(patch.plan[at + PLAN_INDEX], patch.plan[at + PLAN_LANE], patch.plan[at + PLAN_FLAGS]);
  }

  /** A layer is left behind: its notes and pedals do what its carry says. */
  private leave(index: number, lane: number, flags: number): void {
    const { rig } = this;
    const carry = flags >> FLAG_CARRY_SHIFT;
    rig.lanes.users[lane]--;
    if (carry === CARRY_CUT) this.cut(index);
    else if (carry === CARRY_FADE) this.fade(rig.layers[index]!);
    else if ((flags & FLAG_LOOPS) !== 0) this.notes.endDetached(index);
    if (this.isRestless(index, lane, (flags & FLAG_SIXTEEN_LANES) === 0 ? 1 : 16)) this.linger(index);
  }

  private cut(index: number): void {
    const { rig } = this;
    const layer = rig.layers[index];
    // What rings on after its key is cut as well, whatever its release.
    if (layer !== null && !layer.outboard) rig.lanes.fade(layer.destination, CUT_MS);
    if (rig.holdsOf[index] > 0) this.notes.endLayer(index);
    this.controllers.dropPedals(index);
  }

  private fade(layer: CompiledLayer): void {
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

  /** Keeps an eye on a layer left behind until it is silent, its pedals are up and its wheel is at rest. */
  private linger(index: number): void {
    const { rig } = this;
    this.forgetRested();
    if (rig.isLingering[index] === 1 || rig.lingeringCount >= rig.lingering.length) return;
    rig.isLingering[index] = 1;
    rig.lingering[rig.lingeringCount++] = index;
  }

  private isRestless(index: number, lane: number, lanes: number): boolean {
    const { rig } = this;
    if (rig.holdsOf[index] > 0) return true;
    const pedals = index * 3;
    if ((rig.pedalOf[pedals] | rig.pedalOf[pedals + 1] | rig.pedalOf[pedals + 2]) !== 0) return true;
    for (let l = lane; l < lane + lanes; l++) if (rig.lanes.bent[l] === 1) return true;
    return false;
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

  /**
   * Brings an outboard channel to a layer's address, unless it is there already; while it switches, only the last
   * address waits.
   */
  private selectProgram(layer: CompiledLayer, always: boolean): void {
    const { rig } = this;
    const { lane } = layer;
    const address = this.addressOf(layer);
    if (address === null || layer.silent || rig.lanes.isAway(lane)) return;
    const { lanes } = rig;
    if (always) {
      // Several layers on one channel: once is enough.
      if (lanes.stamp[lane] === rig.serial) return;
      lanes.stamp[lane] = rig.serial;
    }
    const msb = rig.show!.laneUsesMsb[lane] === 1 ? Math.max(0, address.msb) : address.msb;
    const lsb = rig.show!.laneUsesLsb[lane] === 1 ? Math.max(0, address.lsb) : address.lsb;
    const known = lanes.program[lane] === address.program && lanes.msb[lane] === msb && lanes.lsb[lane] === lsb;
    lanes.pendingProgram[lane] = -1;
    if (address.program < 0 || (known && !always)) return;
    if (lanes.readyAtMs[lane] > rig.nowMs) {
      lanes.pendingMsb[lane] = msb;
      lanes.pendingLsb[lane] = lsb;
      lanes.pendingProgram[lane] = address.program;
    } else this.sendAddress(lane, msb, lsb, address.program);
  }

  /** What goes with a layer's address, once its program is there: not while the instrument is switching. */
  private selectAlso(layer: CompiledLayer, always: boolean): void {
    const { lanes, nowMs } = this.rig;
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
    const articulations = this.rig.step?.balance.articulations ?? null;
    const articulation = articulations === null ? null : (articulations[this.rig.patch!.layers.indexOf(layer)] ?? null);
    if (articulation !== null) return articulation;
    return this.anyPresetStepped ? (layer.presets.addresses?.[this.hands.presetOf(layer)] ?? null) : layer.address;
  }

  /** Key switches, each a short note, and controllers. */
  private sendAlso(lane: number, address: Address): void {
    const { lanes } = this.rig;
    this.alsoSent[lane] = address;
    if (lanes.isAway(lane)) return;
    for (const { status, data1, data2 } of address.also) {
      if (status === CONTROLLER) lanes.sendValue(lane, data1, data2);
      else if (lanes.noteOn(lane, data1, data2)) lanes.noteOff(lane, data1, 64);
    }
  }

  private sendAddress(lane: number, msb: number, lsb: number, program: number): void {
    const { rig } = this;
    this.alsoSent[lane] = null;
    if (rig.observer !== null && rig.lanes.isSounding(lane)) rig.warn('program-under-held-notes', this.laneName(lane));
    const counted = rig.show!.laneCounted[lane];
    if (counted) {
      if (rig.lanes.program[lane] < 0) rig.warn('count-unknown', this.laneName(lane));
      rig.lanes.sendCounted(lane, counted, program);
    } else rig.lanes.sendAddress(lane, msb, lsb, program);
    this.startSwitching(lane);
  }

  private startSwitching(lane: number): void {
    const { rig } = this;
    const switchMs = rig.show!.laneSwitchMs[lane];
    if (switchMs === 0 || switchMs === undefined) return;
    rig.lanes.setReadyAt(lane, rig.nowMs + switchMs);
    if (!rig.schedule.add(rig.nowMs + switchMs, DUE_SWITCHED, lane, rig.lanes.switchSerial[lane])) this.ready(lane);
  }

  /** The switching time of a lane is over. */
  switched(lane: number, serial: number): void {
    if (this.rig.lanes.switchSerial[lane] === serial) this.ready(lane);
  }

  /** A lane's sound is ready: what waits there goes on. */
  ready(lane: number): void {
    const { rig } = this;
    const { lanes } = rig;
    lanes.setReadyAt(lane, 0);
    const program = lanes.pendingProgram[lane];
    lanes.pendingProgram[lane] = -1;
    if (program >= 0) {
      this.sendAddress(lane, lanes.pendingMsb[lane], lanes.pendingLsb[lane], program);
      if ((lanes.hindered[lane] & NOT_READY) !== 0) return;
    }
    const also = this.alsoWaits[lane] ?? null;
    this.alsoWaits[lane] = null;
    if (also !== null) this.sendAlso(lane, also);
    this.notes.startWaiting(lane);
    this.undefer(lane);
  }

  private undefer(lane: number): void {
    const { rig } = this;
    if (rig.deferredCount === 0) return;
    for (const layer of rig.patch?.layers ?? [])
      if (rig.isDeferred[layer.index] === 1 && lane >= layer.lane && lane < layer.lane + layer.lanes)
        this.setDeferred(layer, false);
    if (rig.deferredCount > 0 || rig.standInPatch === null) return;
    const { standInPatch } = rig;
    rig.standInPatch = null;
    for (let i = 0; i < standInPatch.layers.length; i++) {
      const { index } = standInPatch.layers[i];
      if (rig.isStandIn[index] === 0) continue;
      rig.isStandIn[index] = 0;
      this.leaveStandIn(standInPatch, i);
    }
    this.listLive();
  }

  private laneName(lane: number): string {
    const { book, lanes } = this.rig;
    const destination = lanes.destinationOf(lane);
    const name = book.nameOf(destination);
    return book.destinations[destination].kind === 'port' ? `${name}, channel ${lanes.channelOf(lane) + 1}` : name;
  }

  private sendMessages(messages: readonly PatchMessage[]): void {
    const { rig } = this;
    for (const message of messages) {
      if (rig.lanes.away[message.destination] === 1) continue;
      switch (message.kind) {
        case 'sysex':
          rig.lanes.sysex(message.destination, message.bytes);
          break;
        case 'note':
          this.notes.startEntering(message.lane, message.key, message.velocity, message.lengthMs);
          break;
        case 'program': {
          const msb = rig.show!.laneUsesMsb[message.lane] === 1 ? Math.max(0, message.msb) : message.msb;
          const lsb = rig.show!.laneUsesLsb[message.lane] === 1 ? Math.max(0, message.lsb) : message.lsb;
          rig.lanes.sendAddress(message.lane, msb, lsb, message.data1);
          this.startSwitching(message.lane);
          break;
        }
        case 'controller':
          if (message.data1 === CC_BANK_MSB || message.data1 === CC_BANK_LSB)
            rig.lanes.emit(message.lane, CONTROLLER, message.data1, message.data2);
          else rig.lanes.sendValue(message.lane, message.data1, message.data2);
      }
    }
  }

  /**
   * Brings every layer to the present balance; those that had it already (from `oldValuesAt` on, −1: none) are left
   * alone.
   */
  private applyBalance(oldValuesAt: number, rampMs: number): void {
    const { lanes, plan, planFrom, planTo, values, valuesAt } = this.rig;
    for (
      let at = planFrom, v = valuesAt, old = oldValuesAt;
      at < planTo;
      at += PLAN_STRIDE, v += BALANCE_STRIDE, old += BALANCE_STRIDE
    ) {
      const flags = plan[at + PLAN_FLAGS];
      if ((flags & FLAG_OUTBOARD) === 0) {
        if ((flags & FLAG_EFFECTS) !== 0)
          lanes.effects(
            plan[at + PLAN_DESTINATION],
            this.rig.step!.balance.effects[(at - planFrom) / PLAN_STRIDE],
            rampMs,
          );
        if (oldValuesAt < 0 || !sameBalance(values, old, v))
          lanes.balance(plan[at + PLAN_DESTINATION], values, v, rampMs);
      } else if ((flags & (FLAG_SENDS_LEVEL | FLAG_SILENT)) === FLAG_SENDS_LEVEL) {
        lanes.bringTo(plan[at + PLAN_LANE], CC_LEVEL, levelController(values[v]));
        lanes.bringTo(plan[at + PLAN_LANE], CC_PAN, panController(values[v + 1]));
      }
    }
    if (this.hands.effects.anyTouched) this.hands.effects.overlay();
  }

  /** What an edit may have changed, and a recall cannot. */
  private tellEdited(rampMs: number): void {
    const { lanes, patch } = this.rig;
    for (const { outboard, destination, output, effects } of patch!.layers) {
      if (outboard) continue;
      lanes.route(destination, output);
      if (effects.length === 0) lanes.effects(destination, effects, rampMs);
    }
  }

  /** What each layer sends to shared effects. */
  private tellSends(rampMs: number): void {
    const { lanes, patch, step } = this.rig;
    const { layers } = patch!;
    for (let i = 0; i < layers.length; i++)
      if (!layers[i].outboard) lanes.sends(layers[i].destination, step!.balance.sends[i], rampMs);
  }

  /**
   * Layers that were entered are greeted. Of those that were there before, the ones that fall silent carry,
   * and the ones that come back get the pedal at once.
   */
  private settleLayers(): void {
    const { rig } = this;
    const { plan, planFrom, planTo, mutes, mutesAt } = rig;
    const greets = this.controllers.hasGreetings;
    for (let at = planFrom, m = mutesAt; at < planTo; at += PLAN_STRIDE, m++) {
      const index = plan[at + PLAN_INDEX];
      const isNew = rig.isCurrent[index] === NEW;
      const wasMuted = rig.isMuted[index] === 1;
      const isMuted = mutes[m] === 1;
      rig.isCurrent[index] = CURRENT;
      rig.isMuted[index] = mutes[m];
      if ((plan[at + PLAN_FLAGS] & FLAG_SILENT) !== 0) continue;
      if (isNew) {
        rig.parameterSeen[index] = 0;
        rig.lanes.played[plan[at + PLAN_LANE]] = 1;
        if (greets) this.controllers.greet(rig.layers[index]!, isMuted);
      } else if (wasMuted && !isMuted) this.controllers.givePedals(rig.layers[index]!);
      else if (!wasMuted && isMuted) this.muted(rig.layers[index]!);
    }
  }

  /** A layer falls silent without being left: what sounds does what its carry says. */
  private muted(layer: CompiledLayer): void {
    if (layer.carry === CARRY_CUT) this.cut(layer.index);
    else if (layer.carry === CARRY_FADE) this.fade(layer);
  }

  private listLive(): void {
    const { rig } = this;
    let count = 0;
    const { plan, planFrom, planTo, mutes, mutesAt, layers } = rig;
    for (let at = planFrom, m = mutesAt; at < planTo && count < rig.live.length; at += PLAN_STRIDE, m++) {
      if ((plan[at + PLAN_FLAGS] & FLAG_SILENT) !== 0) continue;
      rig.liveMute[count] = mutes[m];
      rig.live[count++] = layers[plan[at + PLAN_INDEX]];
    }
    if (rig.standInPatch !== null) {
      for (const layer of rig.standInPatch.layers) {
        if (rig.isStandIn[layer.index] === 0 || count >= rig.live.length) continue;
        rig.liveMute[count] = 0;
        rig.live[count++] = layer;
      }
    }
    for (let i = count; i < rig.liveCount; i++) rig.live[i] = null;
    rig.liveCount = count;
  }

  /** The present patch's pedals, wheels and controllers, anew, on one destination or on all. */
  greetAgain(destination: number): void {
    const { rig } = this;
    const { layers } = rig.patch ?? { layers: [] };
    for (let i = 0; i < layers.length; i++) {
      const layer = layers[i];
      if (layer.silent || (destination >= 0 && layer.destination !== destination)) continue;
      for (let pedal = 0; pedal < 3; pedal++) {
        const owned = rig.pedalOf[layer.index * 3 + pedal] === 1;
        if (owned && rig.lanes.lastSent[layer.lane * VALUE_SLOTS + [64, 66, 67][pedal]] < 64) {
          const value = rig.inputs.pedalValue(rig.hearsPedals[layer.hearing], pedal);
          if (value > 0) rig.lanes.sendValue(layer.lane, [64, 66, 67][pedal], value);
        }
      }
      this.controllers.greet(layer, rig.mutes[rig.mutesAt + i] === 1);
    }
    if (rig.step !== null) this.parameters.resend(rig.step.patch, rig.step.balance, destination);
    this.applyBalance(-1, RECALL_RAMP_MS);
  }

  /** An output is back: what it is owed, then its addresses, then controllers and pedals. */
  outputBack(destination: number): void {
    const { rig } = this;
    rig.lanes.settle(destination, rig.show!.laneCounted);
    this.selectAll(true, destination);
    this.greetAgain(destination);
  }

  /**
   * A newly compiled show takes the place of the old one; what is current acts as a recall of the layers that changed.
   */
  replace(next: CompiledShow): boolean {
    const { rig } = this;
    const oldShow = rig.show;
    const oldStep = rig.step;
    rig.show = next;
    rig.hears = next.hears;
    rig.hearsPedals = next.hearsPedals;
    if (rig.patch !== null) rig.rows = next.rows[rig.patch.shape];
    // Nothing that is recalled is another: only the gear, or names.
    if (oldShow !== null && next.steps === oldShow.steps) return false;
    const sameLayout = oldShow !== null && next.layout === oldShow.layout;
    if (!sameLayout) this.moveWhereLeft(next, oldShow);
    if (oldStep === null) return false;
    const position =
      sameLayout && rig.entry >= 0 ? oldStep.position : new StepFinder(next).find(oldStep.entryId, oldStep);
    if (position < 0) {
      // It was deleted: it plays on, and "next" goes to what followed it.
      rig.step = { ...oldStep, position: positionBefore(next, oldShow!, oldStep) + 0.5 };
      rig.entry = -1;
      return false;
    }
    const step = next.steps[position];
    if (step.patch === oldStep.patch && step.balance === oldStep.balance) {
      rig.step = step;
      rig.entry = step.entry;
      return false;
    }
    this.change(position, true);
    this.tellEdited(RECALL_RAMP_MS);
    return true;
  }

  /** Where entries were left, in another layout. */
  private moveWhereLeft(next: CompiledShow, old: CompiledShow | null): void {
    const left = this.leftAt;
    this.forgetWhereLeft(next.entries.length);
    if (old === null) return;
    const finder = new StepFinder(next);
    left.forEach((position, entry) => {
      if (position < 0) return;
      const found = finder.find(old.entries[entry].entryId, old.steps[position]);
      if (found >= 0) this.leftAt[next.steps[found].entry] = found;
    });
  }
}

/** Finds steps of another compiled show by what they are, not by where they stood. */
class StepFinder {
  private readonly entries: ReadonlyMap<string, CompiledEntry>;

  constructor(private readonly show: CompiledShow) {
    this.entries = new Map(show.entries.map((entry) => [entry.entryId, entry]));
  }

  /** Position, −1 when it is gone. */
  find(entryId: string, { patch, balance }: CompiledStep): number {
    const entry = this.entries.get(entryId);
    if (entry === undefined || entry.songId !== patch.songId) return -1;
    for (let i = entry.first; i < entry.end; i++) {
      const step = this.show.steps[i];
      if (step.patch.patchId === patch.patchId && step.balance.blendId === balance.blendId) return i;
    }
    return -1;
  }
}

/** Position, in the new show, of the nearest step before a deleted one that still exists; −1 when none does. */
function positionBefore(next: CompiledShow, old: CompiledShow, deleted: CompiledStep): number {
  const finder = new StepFinder(next);
  for (let i = Math.ceil(deleted.position) - 1; i >= 0; i--) {
    const found = finder.find(old.steps[i].entryId, old.steps[i]);
    if (found >= 0) return found;
  }
  return -1;
}
