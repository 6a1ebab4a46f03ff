import { Carry } from '../compile/carry';
import type { CompiledLayer, CompiledPatch, CompiledShow } from '../compile/compiled';
import type { LayerPlans } from '../compile/layerPlans';
import type { Overrides } from '../controls/overrides';
import type { ControllerRouter } from '../play/controllerRouter';
import type { LiveSound } from '../play/liveSound';
import type { NoteRouter } from '../play/noteRouter';
import { recallRecord, type RecallCause } from '../records';
import type { EngineState } from '../state/engineState';
import { PEDAL_CONTROLLERS } from '../state/inputs';
import { Standing } from '../state/layerStates';
import { RECALL_RAMP_MS, VALUE_SLOTS } from '../state/limits';
import { BalanceTeller } from './balanceTeller';
import { Leaving } from './leaving';
import { Outboard } from './outboard';
import { ParameterSender } from './parameterSender';
import { PatchMessages } from './patchMessages';
import { StandIns } from './standIns';
import { StepFinder, positionBefore } from './stepFinder';
import { WhereLeft } from './whereLeft';

/** Carries out recalls, in the order that engine.md gives under *Recall*. */
export class Recaller {
  readonly whereLeft = new WhereLeft();
  /** Built-in layers whose sound has been told another preset than their own, by layer number. */
  private readonly toldPresets = new Map<number, number>();
  /** From the present step to the next; written anew by each recall. */
  private readonly way = {
    patchChanges: false,
    /** The patch, or its entry of the set, is entered. */
    enters: false,
    articulates: false,
    sends: false,
    /** Where the balance that layers have stands in `values`; −1: they are brought to the new one all. */
    oldValuesAt: -1,
    rampMs: 0,
  };
  private readonly parameters: ParameterSender;
  private readonly leaving: Leaving;
  private readonly standIns: StandIns;
  private readonly balances: BalanceTeller;
  private readonly messages: PatchMessages;
  readonly outboard: Outboard;

  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteRouter,
    private readonly controllers: ControllerRouter,
    private readonly hands: Overrides,
    private readonly liveSound: LiveSound,
  ) {
    this.parameters = new ParameterSender(state);
    this.leaving = new Leaving(state, notes.ender, controllers);
    this.standIns = new StandIns(state, this.leaving);
    this.balances = new BalanceTeller(state, hands);
    this.outboard = new Outboard(state, hands, (lane) => this.ready(lane));
    this.messages = new PatchMessages(state, notes, this.outboard);
  }

  recall(position: number, cause: RecallCause): void {
    const { state } = this;
    const show = state.show!;
    const step = show.steps[position];
    const again = step === state.step;
    this.whereLeft.note(show.records.entry(position), position);
    const moved = this.hands.anyTouched;
    const presetsGoBack = moved && this.hands.forgetStored();
    if (!again || moved) this.change(position, again, presetsGoBack);
    if (again) {
      if (show.sendAgain) {
        this.outboard.selectAll(true);
        this.notes.ender.endEntering();
        this.messages.send(step.patch.entering);
      }
      // Levels come after what is entered with, which may have set them.
      if (!moved || show.sendAgain) this.balances.tell(-1, RECALL_RAMP_MS);
      this.parameters.apply(step.patch, step.balance, false);
    }
    if (state.observer !== null) state.record(recallRecord(step, cause, again, state.nowMs));
  }

  /** Goes to a position; as an edit of what is current, the patch itself is neither left nor entered. */
  private change(position: number, isEdit: boolean, presetsGoBack = false): void {
    const { state, way } = this;
    const { records, patches, plans, steps } = state.show!;
    const oldPatch = state.patch;
    const patch = patches[records.patch(position)];
    const { balance } = steps[position];
    this.findWay(position, isEdit);
    if (way.patchChanges) this.leaveLayers(patch, plans, records.plan(position), records.planEnd(position));
    if (way.enters && oldPatch !== null) this.leaveMessages(oldPatch);
    this.stand(position);
    this.hands.overlay();
    if (way.patchChanges) this.outboard.selectNew();
    else if (way.articulates) this.outboard.selectAll(false);
    if (this.outboard.anyPresetStepped) this.applyPresets(presetsGoBack);
    if (way.enters && records.entersWithMessages(position)) this.messages.send(patch.entering);
    // Where hands have moved values, they lie over the show's in a table of their own.
    this.balances.tell(state.values === state.show!.values ? way.oldValuesAt : -1, way.rampMs);
    if (way.sends) this.balances.tellSends(way.rampMs);
    this.listLive();
    this.settleLayers();
    this.liveSound.settle();
    if (records.setsParameters(position) || this.parameters.anySet) this.parameters.apply(patch, balance, isEdit);
  }

  /** What lies between the present step and a position. */
  private findWay(position: number, isEdit: boolean): void {
    const { state, way } = this;
    const { records, patches, values, steps } = state.show!;
    const { balance } = steps[position];
    const old = state.step?.balance;
    way.patchChanges = state.patch !== patches[records.patch(position)];
    way.enters = !isEdit && (way.patchChanges || state.entry !== records.entry(position));
    way.articulates = old?.articulations !== null || balance.articulations !== null;
    way.sends = state.sends || records.sends(position);
    const sendsChange = way.sends && old?.sendsKey !== balance.sendsKey;
    way.oldValuesAt = way.patchChanges || sendsChange || state.values !== values ? -1 : state.valuesAt;
    way.rampMs = way.patchChanges ? RECALL_RAMP_MS : records.rampMs(position);
  }

  /** What the patch being left has sent as it was entered ends, and what it says on leaving is sent. */
  private leaveMessages(patch: CompiledPatch): void {
    this.notes.ender.endEntering();
    if (this.state.leavesWithMessages) this.messages.send(patch.leaving);
  }

  /** The engine's memory points at another position from here on. */
  private stand(position: number): void {
    const { state } = this;
    const { records, patches, plans, values, mutes, steps, rows } = state.show!;
    state.step = steps[position];
    state.entry = records.entry(position);
    state.patch = patches[records.patch(position)];
    state.rows = rows[records.keymap(position)];
    state.plan = plans;
    state.planFrom = records.plan(position);
    state.planTo = records.planEnd(position);
    state.values = values;
    state.valuesAt = records.values(position);
    state.mutes = mutes;
    state.mutesAt = records.mutes(position);
    state.leavesWithMessages = records.leavesWithMessages(position);
    state.sends = records.sends(position);
    state.hasLiveSound = records.hasLiveSound(position);
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
  private leaveLayers(next: CompiledPatch, plan: LayerPlans, from: number, to: number): void {
    const { state } = this;
    const { isCurrent, isStandIn, plan: oldPlan, planFrom: oldFrom, planTo: oldTo } = state;
    for (let row = oldFrom; row < oldTo; row++) {
      const index = oldPlan.index(row);
      if (isCurrent[index] === Standing.current) isCurrent[index] = Standing.left;
    }
    for (let row = from; row < to; row++) {
      const index = plan.index(row);
      if (isCurrent[index] === Standing.left) isCurrent[index] = Standing.current;
      else isCurrent[index] = isStandIn[index] === 1 ? Standing.stoodIn : Standing.new;
    }
    if (state.deferredCount > 0 || this.standIns.anyLoading(plan, from, to)) this.standIns.defer(next, state.patch);
    for (let row = oldFrom; row < oldTo; row++) {
      const index = oldPlan.index(row);
      if (isCurrent[index] !== Standing.left) continue;
      isCurrent[index] = Standing.notCurrent;
      if (isStandIn[index] === 0) this.leaving.leave(oldPlan, row);
    }
    for (let row = from; row < to; row++) {
      const index = plan.index(row);
      if (isCurrent[index] === Standing.new) state.lanes.users[plan.lane(row)]++;
      else if (isCurrent[index] === Standing.stoodIn) isStandIn[index] = 0;
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
    this.notes.waiting.start(lane);
    if (this.standIns.undefer(lane)) this.listLive();
  }

  /**
   * Layers that were entered are greeted. Of those that were there before, the ones that fall silent carry,
   * and the ones that come back get the pedal at once.
   */
  private settleLayers(): void {
    const { state } = this;
    const { plan, planFrom, planTo, mutes, mutesAt } = state;
    const greets = this.controllers.hasGreetings;
    for (let row = planFrom, m = mutesAt; row < planTo; row++, m++) {
      const index = plan.index(row);
      const isNew = state.isCurrent[index] === Standing.new;
      const wasMuted = state.isMuted[index] === 1;
      const isMuted = mutes[m] === 1;
      state.isCurrent[index] = Standing.current;
      state.isMuted[index] = mutes[m];
      if (plan.isSilent(row)) continue;
      if (isNew) {
        state.parameterSeen[index] = 0;
        state.lanes.played[plan.lane(row)] = 1;
        if (greets) this.controllers.greet(state.layers[index]!, isMuted);
      } else if (wasMuted && !isMuted) this.controllers.givePedals(state.layers[index]!);
      else if (!wasMuted && isMuted) this.muted(state.layers[index]!);
    }
  }

  /** A layer falls silent without being left: what sounds does what its carry says. */
  private muted(layer: CompiledLayer): void {
    if (layer.carry === Carry.cut) this.leaving.cut(layer.index);
    else if (layer.carry === Carry.fade) this.leaving.fade(layer);
  }

  private listLive(): void {
    const { state } = this;
    let count = 0;
    const { plan, planFrom, planTo, mutes, mutesAt, layers } = state;
    for (let row = planFrom, m = mutesAt; row < planTo && count < state.live.length; row++, m++) {
      if (plan.isSilent(row)) continue;
      state.liveMute[count] = mutes[m];
      state.live[count++] = layers[plan.index(row)];
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
      this.givePedalsAgain(layer);
      this.controllers.greet(layer, state.mutes[state.mutesAt + i] === 1);
    }
    if (state.step !== null) this.parameters.resend(state.step.patch, state.step.balance, destination);
    this.balances.tell(-1, RECALL_RAMP_MS);
  }

  /** Pedals that a layer holds down, and that its gear has forgotten. */
  private givePedalsAgain({ index, lane, inputFilter }: CompiledLayer): void {
    const { lanes, pedalOf, inputs, hearsPedals } = this.state;
    for (let pedal = 0; pedal < 3; pedal++) {
      const controller = PEDAL_CONTROLLERS[pedal];
      if (pedalOf[index * 3 + pedal] !== 1 || lanes.lastSent[lane * VALUE_SLOTS + controller] >= 64) continue;
      const value = inputs.pedalValue(hearsPedals[inputFilter], pedal);
      if (value > 0) lanes.sendValue(lane, controller, value);
    }
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
    if (!sameLayout) this.whereLeft.move(next, oldShow);
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
    this.balances.tellEdited(RECALL_RAMP_MS);
    return true;
  }
}
