import { CC_BANK_LSB, CC_BANK_MSB, CC_LEVEL, CC_PAN, CONTROLLER } from '../../midi/status';
import {
  BALANCE_STRIDE,
  CARRY_CUT,
  CARRY_FADE,
  FLAG_EFFECTS,
  FLAG_OUTBOARD,
  FLAG_SENDS_LEVEL,
  FLAG_SILENT,
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
  RECORD_KEYMAP_SHIFT,
  RECORD_STRIDE,
  RECORD_VALUES,
  SENDS,
  SETS_PARAMETERS,
  type CompiledLayer,
  type CompiledPatch,
  type CompiledShow,
  type CompiledStep,
  type PatchMessage,
} from '../compile/compiled';
import type { ControllerRouter } from '../play/controllerRouter';
import { CURRENT, LEFT, NEW, NOT_CURRENT, STOOD_IN } from '../state/layerStates';
import { Leaving } from './leaving';
import { Outboard } from './outboard';
import { StandIns } from './standIns';
import { StepFinder, positionBefore } from './stepFinder';
import { levelController, panController } from './levels';
import type { LiveSound } from '../play/liveSound';
import { RECALL_RAMP_MS, VALUE_SLOTS } from '../state/limits';
import type { NoteRouter } from '../play/noteRouter';
import { ParameterSender } from './parameterSender';
import type { RecallCause } from '../records';
import type { EngineState } from '../state/engineState';
import type { Overrides } from '../controls/overrides';

const sameBalance = (values: Float64Array, a: number, b: number): boolean => {
  for (let i = 0; i < BALANCE_STRIDE; i++) if (values[a + i] !== values[b + i]) return false;
  return true;
};

/** Carries out recalls, in the order that engine.md gives under *Recall*. */
export class Recaller {
  /** By entry: the position where it was left, −1 when it was never there. */
  private leftAt = new Int32Array(0);
  /** Built-in layers whose sound has been told another preset than their own, by layer number. */
  private readonly toldPresets = new Map<number, number>();
  private readonly parameters: ParameterSender;
  private readonly leaving: Leaving;
  private readonly standIns: StandIns;
  readonly outboard: Outboard;

  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteRouter,
    private readonly controllers: ControllerRouter,
    private readonly hands: Overrides,
    private readonly liveSound: LiveSound,
  ) {
    this.parameters = new ParameterSender(state);
    this.leaving = new Leaving(state, notes, controllers);
    this.standIns = new StandIns(state, this.leaving);
    this.outboard = new Outboard(state, hands, (lane) => this.ready(lane));
  }

  positionWhereLeft(entry: number): number {
    return this.leftAt[entry] ?? -1;
  }

  forgetWhereLeft(entries: number): void {
    this.leftAt = new Int32Array(entries).fill(-1);
  }

  recall(position: number, cause: RecallCause): void {
    const { state } = this;
    const show = state.show!;
    const step = show.steps[position];
    const again = step === state.step;
    this.leftAt[show.records[position * RECORD_STRIDE + RECORD_ENTRY]] = position;
    const moved = this.hands.anyTouched;
    const presetsGoBack = moved && this.hands.forgetStored();
    if (!again || moved) this.change(position, again, presetsGoBack);
    if (again) {
      if (show.sendAgain) {
        this.outboard.selectAll(true);
        this.notes.endEntering();
        this.sendMessages(step.patch.entering);
      }
      if (!moved) this.applyBalance(-1, RECALL_RAMP_MS);
      this.parameters.apply(step.patch, step.balance, false);
    }
    if (state.observer !== null) this.tell(step, cause, again);
  }

  private tell(step: CompiledStep, cause: RecallCause, again: boolean): void {
    const { patch, balance } = step;
    this.state.record({
      type: 'recall',
      atMs: this.state.nowMs,
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
    const { state } = this;
    const { records, patches, plans, values, mutes, steps } = state.show!;
    const at = position * RECORD_STRIDE;
    const patch = patches[records[at + RECORD_PATCH]];
    const oldPatch = state.patch;
    const patchChanges = oldPatch !== patch;
    const enters = !isEdit && (patchChanges || state.entry !== records[at + RECORD_ENTRY]);
    const articulated =
      !patchChanges && (state.step?.balance.articulations !== null || steps[position].balance.articulations !== null);
    const anySends = state.sends || (records[at + RECORD_MESSAGES] & SENDS) !== 0;
    const sendsChange = anySends && !patchChanges && state.step?.balance.sendsKey !== steps[position].balance.sendsKey;
    const oldValuesAt = patchChanges || sendsChange || state.values !== values ? -1 : state.valuesAt;
    if (patchChanges) this.leaveLayers(patch, plans, records[at + RECORD_PLAN], records[at + RECORD_PLAN_END]);
    if (enters && oldPatch !== null) {
      this.notes.endEntering();
      if (state.leavesWithMessages) this.sendMessages(oldPatch.leaving);
    }
    state.step = steps[position];
    state.entry = records[at + RECORD_ENTRY];
    state.patch = patch;
    state.rows = state.show!.rows[records[at + RECORD_MESSAGES] >> RECORD_KEYMAP_SHIFT];
    state.plan = plans;
    state.planFrom = records[at + RECORD_PLAN];
    state.planTo = records[at + RECORD_PLAN_END];
    state.values = values;
    state.valuesAt = records[at + RECORD_VALUES];
    state.mutes = mutes;
    state.mutesAt = records[at + RECORD_MUTES];
    state.leavesWithMessages = (records[at + RECORD_MESSAGES] & LEAVES_WITH_MESSAGES) !== 0;
    state.sends = (records[at + RECORD_MESSAGES] & SENDS) !== 0;
    state.hasLiveSound = (records[at + RECORD_MESSAGES] & HAS_LIVE_SOUND) !== 0;
    this.hands.overlay();
    if (patchChanges) this.outboard.selectNew();
    else if (articulated) this.outboard.selectAll(false);
    if (this.outboard.anyPresetStepped) this.applyPresets(presetsGoBack);
    if (enters && (records[at + RECORD_MESSAGES] & ENTERS_WITH_MESSAGES) !== 0) this.sendMessages(patch.entering);
    const rampMs = patchChanges ? RECALL_RAMP_MS : records[at + RECORD_RAMP_MS];
    this.applyBalance(state.values === values ? oldValuesAt : -1, rampMs);
    if (anySends) this.tellSends(rampMs);
    this.listLive();
    this.settleLayers();
    this.liveSound.settle();
    if ((records[at + RECORD_MESSAGES] & SETS_PARAMETERS) !== 0 || this.parameters.anySet)
      this.parameters.apply(patch, state.step.balance, isEdit);
  }

  /**
   * Every layer sounds with the preset that hands have stepped it to, or with its own. Outboard gear that was there
   * before is told
   * only when a preset has gone back: what is merely edited gets no program.
   */
  private applyPresets(outboardToo: boolean): void {
    const { patch } = this.state;
    for (let i = 0; i < patch!.layers.length; i++)
      if (outboardToo || !patch!.layers[i].outboard) this.presetStepped(patch!.layers[i]);
  }

  /** The preset of a layer of the present patch may be another than before. */
  presetStepped(layer: CompiledLayer): void {
    this.outboard.anyPresetStepped = true;
    if (layer.outboard) {
      this.outboard.selectProgram(layer, false);
      return this.outboard.selectAlso(layer, false);
    }
    const preset = this.hands.presetOf(layer);
    if ((this.toldPresets.get(layer.index) ?? layer.presets.own) === preset || preset < 0) return;
    this.toldPresets.set(layer.index, preset);
    this.state.lanes.preset(layer.destination, preset);
  }

  /** What hands had moved before a restart lies over the show again: the present patch is brought to it. */
  handsTakenUp(anyPreset: boolean): void {
    const { step } = this.state;
    if (step === null) return;
    this.outboard.anyPresetStepped ||= anyPreset;
    this.change(step.position, true);
  }

  /** Mutes of the present patch have been moved by hand: what falls silent carries, what comes back gets its pedal. */
  mutesMoved(): void {
    this.listLive();
    this.settleLayers();
    this.liveSound.settle();
  }

  /** Sends all gear of the present patch what it should know: addresses, controllers, pedals, levels. */
  resend(): void {
    this.outboard.selectAll(true);
    this.state.lanes.lastSent.fill(-1);
    this.greetAgain(-1);
  }

  /** Marks the layers of the new patch, and lets those go that are not in it: cut ones first. */
  private leaveLayers(next: CompiledPatch, plan: Int32Array, from: number, to: number): void {
    const { state } = this;
    const { isCurrent, isStandIn, plan: oldPlan, planFrom: oldFrom, planTo: oldTo } = state;
    for (let at = oldFrom; at < oldTo; at += PLAN_STRIDE)
      if (isCurrent[oldPlan[at]] === CURRENT) isCurrent[oldPlan[at]] = LEFT;
    for (let at = from; at < to; at += PLAN_STRIDE) {
      const index = plan[at];
      isCurrent[index] = isCurrent[index] === LEFT ? CURRENT : isStandIn[index] === 1 ? STOOD_IN : NEW;
    }
    if (state.deferredCount > 0 || this.standIns.anyLoading(plan, from, to)) this.standIns.defer(next, state.patch);
    for (let at = oldFrom; at < oldTo; at += PLAN_STRIDE) {
      const index = oldPlan[at + PLAN_INDEX];
      if (isCurrent[index] !== LEFT) continue;
      isCurrent[index] = NOT_CURRENT;
      if (isStandIn[index] === 0) this.leaving.leave(index, oldPlan[at + PLAN_LANE], oldPlan[at + PLAN_FLAGS]);
    }
    for (let at = from; at < to; at += PLAN_STRIDE) {
      const index = plan[at + PLAN_INDEX];
      if (isCurrent[index] === NEW) state.lanes.users[plan[at + PLAN_LANE]]++;
      else if (isCurrent[index] === STOOD_IN) isStandIn[index] = 0;
    }
  }

  /** A fade is over. */
  faded(layer: number, serial: number): void {
    this.leaving.faded(layer, serial);
  }

  /** The switching time of a lane is over. */
  switched(lane: number, serial: number): void {
    if (this.state.lanes.switchSerial[lane] === serial) this.ready(lane);
  }

  /** A lane's sound is ready: what waits there goes on. */
  ready(lane: number): void {
    if (!this.outboard.goOn(lane)) return;
    this.notes.startWaiting(lane);
    if (this.standIns.undefer(lane)) this.listLive();
  }

  private sendMessages(messages: readonly PatchMessage[]): void {
    const { state } = this;
    for (const message of messages) {
      if (state.lanes.away[message.destination] === 1) continue;
      switch (message.kind) {
        case 'sysex':
          state.lanes.sysex(message.destination, message.bytes);
          break;
        case 'note':
          this.notes.startEntering(message.lane, message.key, message.velocity, message.lengthMs);
          break;
        case 'program': {
          const msb = state.show!.laneUsesMsb[message.lane] === 1 ? Math.max(0, message.msb) : message.msb;
          const lsb = state.show!.laneUsesLsb[message.lane] === 1 ? Math.max(0, message.lsb) : message.lsb;
          state.lanes.sendAddress(message.lane, msb, lsb, message.data1);
          this.outboard.startSwitching(message.lane);
          break;
        }
        case 'controller':
          if (message.data1 === CC_BANK_MSB || message.data1 === CC_BANK_LSB)
            state.lanes.emit(message.lane, CONTROLLER, message.data1, message.data2);
          else state.lanes.sendValue(message.lane, message.data1, message.data2);
      }
    }
  }

  /**
   * Brings every layer to the present balance; those that had it already (from `oldValuesAt` on, −1: none) are left
   * alone.
   */
  private applyBalance(oldValuesAt: number, rampMs: number): void {
    const { lanes, plan, planFrom, planTo, values, valuesAt } = this.state;
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
            this.state.step!.balance.effects[(at - planFrom) / PLAN_STRIDE],
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
    const { lanes, patch } = this.state;
    for (const { outboard, destination, output, effects } of patch!.layers) {
      if (outboard) continue;
      lanes.route(destination, output);
      if (effects.length === 0) lanes.effects(destination, effects, rampMs);
    }
  }

  /** What each layer sends to shared effects. */
  private tellSends(rampMs: number): void {
    const { lanes, patch, step } = this.state;
    const { layers } = patch!;
    for (let i = 0; i < layers.length; i++)
      if (!layers[i].outboard) lanes.sends(layers[i].destination, step!.balance.sends[i], rampMs);
  }

  /**
   * Layers that were entered are greeted. Of those that were there before, the ones that fall silent carry,
   * and the ones that come back get the pedal at once.
   */
  private settleLayers(): void {
    const { state } = this;
    const { plan, planFrom, planTo, mutes, mutesAt } = state;
    const greets = this.controllers.hasGreetings;
    for (let at = planFrom, m = mutesAt; at < planTo; at += PLAN_STRIDE, m++) {
      const index = plan[at + PLAN_INDEX];
      const isNew = state.isCurrent[index] === NEW;
      const wasMuted = state.isMuted[index] === 1;
      const isMuted = mutes[m] === 1;
      state.isCurrent[index] = CURRENT;
      state.isMuted[index] = mutes[m];
      if ((plan[at + PLAN_FLAGS] & FLAG_SILENT) !== 0) continue;
      if (isNew) {
        state.parameterSeen[index] = 0;
        state.lanes.played[plan[at + PLAN_LANE]] = 1;
        if (greets) this.controllers.greet(state.layers[index]!, isMuted);
      } else if (wasMuted && !isMuted) this.controllers.givePedals(state.layers[index]!);
      else if (!wasMuted && isMuted) this.muted(state.layers[index]!);
    }
  }

  /** A layer falls silent without being left: what sounds does what its carry says. */
  private muted(layer: CompiledLayer): void {
    if (layer.carry === CARRY_CUT) this.leaving.cut(layer.index);
    else if (layer.carry === CARRY_FADE) this.leaving.fade(layer);
  }

  private listLive(): void {
    const { state } = this;
    let count = 0;
    const { plan, planFrom, planTo, mutes, mutesAt, layers } = state;
    for (let at = planFrom, m = mutesAt; at < planTo && count < state.live.length; at += PLAN_STRIDE, m++) {
      if ((plan[at + PLAN_FLAGS] & FLAG_SILENT) !== 0) continue;
      state.liveMute[count] = mutes[m];
      state.live[count++] = layers[plan[at + PLAN_INDEX]];
    }
    if (state.standInPatch !== null) {
      for (const layer of state.standInPatch.layers) {
        if (state.isStandIn[layer.index] === 0 || count >= state.live.length) continue;
        state.liveMute[count] = 0;
        state.live[count++] = layer;
      }
    }
    for (let i = count; i < state.liveCount; i++) state.live[i] = null;
    state.liveCount = count;
  }

  /** The present patch's pedals, wheels and controllers, anew, on one destination or on all. */
  greetAgain(destination: number): void {
    const { state } = this;
    const { layers } = state.patch ?? { layers: [] };
    for (let i = 0; i < layers.length; i++) {
      const layer = layers[i];
      if (layer.silent || (destination >= 0 && layer.destination !== destination)) continue;
      for (let pedal = 0; pedal < 3; pedal++) {
        const owned = state.pedalOf[layer.index * 3 + pedal] === 1;
        if (owned && state.lanes.lastSent[layer.lane * VALUE_SLOTS + [64, 66, 67][pedal]] < 64) {
          const value = state.inputs.pedalValue(state.hearsPedals[layer.inputFilter], pedal);
          if (value > 0) state.lanes.sendValue(layer.lane, [64, 66, 67][pedal], value);
        }
      }
      this.controllers.greet(layer, state.mutes[state.mutesAt + i] === 1);
    }
    if (state.step !== null) this.parameters.resend(state.step.patch, state.step.balance, destination);
    this.applyBalance(-1, RECALL_RAMP_MS);
  }

  /** An output is back: what it is owed, then its addresses, then controllers and pedals. */
  outputBack(destination: number): void {
    const { state } = this;
    state.lanes.settle(destination, state.show!.laneCounted);
    this.outboard.selectAll(true, destination);
    this.greetAgain(destination);
  }

  /**
   * A newly compiled show takes the place of the old one; what is current acts as a recall of the layers that changed.
   */
  replace(next: CompiledShow): boolean {
    const { state } = this;
    const oldShow = state.show;
    const oldStep = state.step;
    state.show = next;
    state.hears = next.hears;
    state.hearsPedals = next.hearsPedals;
    if (state.patch !== null) state.rows = next.rows[state.patch.keymap];
    // Nothing that is recalled is another: only the gear, or names.
    if (oldShow !== null && next.steps === oldShow.steps) return false;
    const sameLayout = oldShow !== null && next.layout === oldShow.layout;
    if (!sameLayout) this.moveWhereLeft(next, oldShow);
    if (oldStep === null) return false;
    const position =
      sameLayout && state.entry >= 0 ? oldStep.position : new StepFinder(next).find(oldStep.entryId, oldStep);
    if (position < 0) {
      // It was deleted: it plays on, and "next" goes to what followed it.
      state.step = { ...oldStep, position: positionBefore(next, oldShow!, oldStep) + 0.5 };
      state.entry = -1;
      return false;
    }
    const step = next.steps[position];
    if (step.patch === oldStep.patch && step.balance === oldStep.balance) {
      state.step = step;
      state.entry = step.entry;
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
