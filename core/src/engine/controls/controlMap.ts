import type { Action } from '../../show';
import {
  SourceKind,
  SOURCE_KINDS,
  type CompiledBinding,
  type CompiledControl,
  type CompiledInput,
  type ControlTables,
  type ProgramTable,
  type ProgramTarget,
} from '../compile/compiled';
import { MAX_INPUT_CHANNELS } from '../state/limits';
import { REASON } from '../reasons';
import type { RecallCause } from '../records';
import type { EngineState } from '../state/engineState';
import type { Overrides } from './overrides';

/** The number that a table has for a program; −1 when it has none. */
function find(table: ProgramTable | null, bank: number, program: number): number {
  const programs = table?.banks.get(bank);
  return programs === undefined ? -1 : programs[program];
}

/** Steps of an encoder's message: how far it was turned, with its sign. @hotpath */
export function encoderSteps(coding: number, value: number): number {
  if (coding === 1) return value < 64 ? value : value - 128;
  if (coding === 2) return value - 64;
  return value < 64 ? value : 64 - value;
}

/** Which way a counting controller has stepped from its last program, 1 or −1; 0: it says the same again. */
function counterDirection(reference: number, program: number, lowest: number, highest: number): number {
  if (program === reference) return program === highest ? 1 : program === lowest ? -1 : 0;
  if (highest - lowest > 1) {
    if (reference === highest && program === lowest) return 1;
    if (reference === lowest && program === highest) return -1;
  }
  return Math.sign(program - reference);
}

/** What controls need done. */
export interface ActionTaker {
  carryOut(binding: CompiledBinding, cause: RecallCause): void;
  stepBy(direction: 1 | -1, cause: RecallCause): void;
  recallAt(position: number, cause: RecallCause): void;
}

const FINE_MOST = 16_383;
const RELEASED_BELOW = 0.42;

/** What happens to controls: roles, program changes, counters. */
export class ControlMap {
  private byPort: ControlTables['byPort'] = [];
  private keys: string[] = [];
  private acceptedMs = new Float64Array(0);
  private pressed = new Uint8Array(0);
  /** Where each control stood after its last move, shaped, 0–1; NaN before the first. */
  private stood = new Float64Array(0);
  private movedMs = new Float64Array(0);
  /** Last MSB of 14 bit controls. */
  private fineMsb = new Uint8Array(0);
  /** Keys whose press was taken by a role, so that their release is too. */
  private readonly keyTaken = new Uint8Array(MAX_INPUT_CHANNELS * 128);

  constructor(
    private readonly state: EngineState,
    private readonly taker: ActionTaker,
    private readonly values: Overrides,
    /** Where an entry was left, or its first position. */
    private readonly whereLeft: (entry: number, first: number) => number,
  ) {}

  /** Takes up the controls of a new compiled show; those that were there before stay as they stand. */
  load({ controls, byPort }: ControlTables): void {
    if (this.byPort === byPort) return;
    this.byPort = byPort;
    const acceptedMs = new Float64Array(controls.length).fill(-Infinity);
    const pressed = new Uint8Array(controls.length);
    const stood = new Float64Array(controls.length).fill(NaN);
    const movedMs = new Float64Array(controls.length).fill(-Infinity);
    const known = new Map(this.keys.map((key, i) => [key, i]));
    controls.forEach(({ key }, i) => {
      const old = known.get(key);
      if (old === undefined) return;
      acceptedMs[i] = this.acceptedMs[old];
      pressed[i] = this.pressed[old];
      stood[i] = this.stood[old];
      movedMs[i] = this.movedMs[old];
    });
    this.keys = controls.map(({ key }) => key);
    this.acceptedMs = acceptedMs;
    this.pressed = pressed;
    this.stood = stood;
    this.movedMs = movedMs;
    this.fineMsb = new Uint8Array(controls.length);
  }

  /** Latching controls that are down, by key. What a hand or foot holds down is up again by the time of a restart. */
  latchedKeys(): string[] {
    const { controls } = this.state.show?.controls ?? { controls: [] };
    return this.keys.filter((_, i) => this.pressed[i] === 1 && controls[i]?.latching === true);
  }

  /** The same again, after a restart. */
  takeUpLatched(keys: readonly string[]): void {
    for (const key of keys) {
      const at = this.keys.indexOf(key);
      if (at >= 0) this.pressed[at] = 1;
    }
  }

  private controlAt(inputChannel: number, kind: number, number: number): number {
    const table = this.byPort[inputChannel >> 4];
    return table === undefined ? -1 : table[((inputChannel & 15) * SOURCE_KINDS + kind) * 128 + number];
  }

  private bindingsOf({ roleNumber }: CompiledControl): readonly CompiledBinding[] | undefined {
    return this.roleBindings(roleNumber);
  }

  private roleBindings(roleNumber: number): readonly CompiledBinding[] | undefined {
    const { state } = this;
    return state.patch?.roleBindings[roleNumber] ?? state.show?.roleBindings[roleNumber];
  }

  /**
   * A hand on a screen does what a control would, at once: values to a share of their ranges, or (null) presses. A knob
   * that stands elsewhere then picks the value up as it does after a recall.
   */
  byHand(role: string, share: number | null): void {
    const { state } = this;
    const bindings = this.roleBindings(state.registry.findRole(role)) ?? [];
    let played = 0;
    for (const binding of bindings) {
      if (binding.isValue !== (share !== null)) continue;
      played++;
      if (share !== null) this.values.put(role, binding, share);
      else this.doPress(role, binding, 'page');
    }
    if (played === 0) state.ignore(REASON['role-does-nothing']);
  }

  private doPress(role: string, binding: CompiledBinding, cause: RecallCause): void {
    const { state } = this;
    if (state.observer !== null)
      state.record({ type: 'action', atMs: state.nowMs, role, action: actionName(binding.action) });
    this.taker.carryOut(binding, cause);
  }

  /** A controller that may be a role's; true when it is used up. @hotpath */
  takesController(inputChannel: number, number: number, value: number): boolean {
    const at = this.controlAt(inputChannel, SourceKind.controller, number);
    if (at < 0) return false;
    const control = this.state.show!.controls.controls[at];
    if (control.coding !== 0) this.turn(at, control, encoderSteps(control.coding, value));
    else if (control.isFine) {
      if (number < 32) this.fineMsb[at] = value;
      this.move(at, control, ((this.fineMsb[at] << 7) | (number < 32 ? 0 : value)) / FINE_MOST);
    } else this.move(at, control, value / 127);
    return !control.passOn;
  }

  /** The wheel (14 bit). @hotpath */
  takesWheel(inputChannel: number, value: number): boolean {
    return this.takesSwing(this.controlAt(inputChannel, SourceKind.wheel, 0), value / FINE_MOST);
  }

  /** Channel pressure. @hotpath */
  takesPressure(inputChannel: number, value: number): boolean {
    return this.takesSwing(this.controlAt(inputChannel, SourceKind.pressure, 0), value / 127);
  }

  private takesSwing(at: number, position: number): boolean {
    if (at < 0) return false;
    const control = this.state.show!.controls.controls[at];
    this.move(at, control, position);
    return !control.passOn;
  }

  /** A key that may be a role's; true when it makes no sound. @hotpath */
  takesKey(inputChannel: number, key: number, velocity: number): boolean {
    const at = this.controlAt(inputChannel, SourceKind.note, key);
    const slot = (inputChannel << 7) | key;
    return (at >= 0 || (velocity === 0 && this.keyTaken[slot] === 1)) && this.playKey(at, slot, velocity);
  }

  private playKey(at: number, slot: number, velocity: number): boolean {
    const control = at < 0 ? null : this.state.show!.controls.controls[at];
    const wasTaken = this.keyTaken[slot] === 1;
    this.keyTaken[slot] = velocity > 0 && control?.passOn === false ? 1 : 0;
    if (control !== null) this.move(at, control, velocity > 0 ? 1 : 0);
    return velocity > 0 ? control?.passOn === false : wasTaken;
  }

  /** Whether a key's press was taken by a role: its pressure is then, too. @hotpath */
  hasTakenKey(slot: number): boolean {
    return this.keyTaken[slot] === 1;
  }

  /** Whether all that is down on a channel was taken by roles, so that its pressure is theirs. */
  hasTakenAll(inputChannel: number): boolean {
    const { head } = this.state.holds;
    let taken = false;
    for (let slot = inputChannel << 7; slot < (inputChannel + 1) << 7; slot++) {
      if (head[slot] >= 0) return false;
      taken ||= this.keyTaken[slot] === 1;
    }
    return taken;
  }

  /** A program change plays a role at each message: it has no release. */
  takesProgram(inputChannel: number, program: number): boolean {
    const { inputs, show } = this.state;
    for (
      let at = this.controlAt(inputChannel, SourceKind.program, program);
      at >= 0;
      at = show!.controls.controls[at].next
    ) {
      const control = show!.controls.controls[at];
      if (
        (control.msb >= 0 && control.msb !== inputs.bankMsb[inputChannel]) ||
        (control.lsb >= 0 && control.lsb !== inputs.bankLsb[inputChannel])
      )
        continue;
      this.hit(at, control);
      return !control.passOn;
    }
    return false;
  }

  /** A key of the computer; true when it plays a role. */
  takesComputerKey(code: string, down: boolean): boolean {
    const at = this.state.show?.controls.computerKeys.get(code);
    if (at === undefined) return false;
    this.move(at, this.state.show!.controls.controls[at], down ? 1 : 0);
    return true;
  }

  /** A control stands somewhere new, 0–1 of its whole travel. @hotpath */
  private move(at: number, control: CompiledControl, raw: number): void {
    const { lowest, highest } = control;
    const within = highest === lowest ? raw : Math.min(1, Math.max(0, (raw - lowest) / (highest - lowest)));
    const now = (control.reversed ? 1 - within : within) ** control.exponent;
    const last = this.stood[at];
    this.stood[at] = now;
    this.movedMs[at] = this.state.nowMs;
    const travel = control.reversed ? 1 - raw : raw;
    // Down from 64; up again only well below it, so that a pedal that trembles there is not hit over and over. That is
    // known of the control, whatever it does in this patch: a press here may be released in another.
    const down = travel >= 0.5 ? 1 : travel < RELEASED_BELOW ? 0 : this.pressed[at];
    const changes = this.pressed[at] !== down;
    this.pressed[at] = down;
    const bindings = this.bindingsOf(control);
    if (bindings === undefined) return this.state.ignore(REASON['role-does-nothing']);
    for (let i = 0; i < bindings.length; i++)
      if (bindings[i].isValue) this.values.move(control, bindings[i], last, now);
    if (changes && (down === 1 || control.latching)) this.hit(at, control);
  }

  /** An encoder is turned: values move by steps; a press acts on a turn to the right. @hotpath */
  private turn(at: number, control: CompiledControl, steps: number): void {
    const by = (control.reversed ? -steps : steps) / 127;
    this.movedMs[at] = this.state.nowMs;
    const bindings = this.bindingsOf(control);
    if (bindings === undefined) return this.state.ignore(REASON['role-does-nothing']);
    for (let i = 0; i < bindings.length; i++) if (bindings[i].isValue) this.values.nudge(control, bindings[i], by);
    if (by > 0) this.hit(at, control);
  }

  private hit(at: number, control: CompiledControl): void {
    const { state } = this;
    const bindings = this.bindingsOf(control);
    if (bindings === undefined) return state.ignore(REASON['role-does-nothing']);
    let presses = 0;
    for (let i = 0; i < bindings.length; i++) if (!bindings[i].isValue) presses++;
    if (presses === 0) return;
    if (state.nowMs - this.acceptedMs[at] < control.guardMs) return state.ignore(REASON.guard);
    this.acceptedMs[at] = state.nowMs;
    for (let i = 0; i < bindings.length; i++) {
      if (!bindings[i].isValue) this.doPress(control.role, bindings[i], 'control');
    }
  }

  /** A program change from an input that is listened to. */
  program(input: CompiledInput, inputChannel: number, program: number): void {
    const { state } = this;
    if (input.programs === 'off' || input.programChannels[inputChannel & 15] === 0)
      return state.ignore(REASON['program-not-listened']);
    if (input.programs === 'counter') return this.count(input, inputChannel, program);
    const msb = input.usesMsb ? state.inputs.bankMsb[inputChannel] : 0;
    const lsb = input.usesLsb ? state.inputs.bankLsb[inputChannel] : 0;
    const bank = (msb << 7) | lsb;
    const own = input.mapByChannel[inputChannel & 15];
    const ownNumber = find(own, bank, program);
    const number = ownNumber !== -1 ? ownNumber : find(input.map, bank, program);
    if (number === -1) return state.ignore(REASON['no-such-program']);
    if (number >= 0) return this.taker.recallAt(number, 'program');
    this.taker.recallAt(this.nearest((ownNumber !== -1 ? own! : input.map!).targets[-2 - number]), 'program');
  }

  /** A song that stands twice in the set: the nearest entry at or after the present one, else the last before it. */
  private nearest(target: ProgramTarget): number {
    const { state } = this;
    const present = Math.max(0, state.entry);
    let i = 0;
    while (i < target.entries.length - 1 && target.entries[i] < present) i++;
    const position = target.positions[i];
    return target.isSong && state.show!.recallsWhereLeft ? this.whereLeft(target.entries[i], position) : position;
  }

  /**
   * Only the direction of change counts; the step between the counter's ends is the wrap; stuck at an end is one more
   * step the same way.
   */
  private count(input: CompiledInput, inputChannel: number, program: number): void {
    const { state } = this;
    const { counterLowest: lowest, counterHighest: highest } = input;
    const reference = state.inputs.counterReference[inputChannel];
    if (program < lowest || program > highest) return state.ignore(REASON['counter-outside']);
    state.inputs.counterReference[inputChannel] = program;
    if (reference < 0) return state.ignore(REASON['counter-reference']);
    const direction = counterDirection(reference, program, lowest, highest);
    if (direction === 0) return state.ignore(REASON['counter-repeat']);
    if (state.nowMs - state.inputs.counterAcceptedMs[inputChannel] < input.counterGuardMs)
      return state.ignore(REASON.guard);
    state.inputs.counterAcceptedMs[inputChannel] = state.nowMs;
    const at = this.controlAt(inputChannel, SourceKind.count, direction > 0 ? 1 : 0);
    if (at >= 0) this.hit(at, state.show!.controls.controls[at]);
    else this.taker.stepBy(direction > 0 ? 1 : -1, 'counter');
  }

  /** Keys and switches of an input that is gone are up. */
  inputGone(port: number): void {
    this.keyTaken.fill(0, port * 16 * 128, (port + 1) * 16 * 128);
    for (const control of this.state.show?.controls.byPort[port] ?? []) if (control >= 0) this.pressed[control] = 0;
  }

  // What pages read.

  /** Where a control stands, shaped, 0–1; null before its first move. */
  stoodAt(at: number): number | null {
    return Number.isNaN(this.stood[at]) ? null : this.stood[at];
  }

  /** How long ago it was last moved, in ms; `Infinity` when it never was. */
  movedAgoMs(at: number): number {
    return this.state.nowMs - this.movedMs[at];
  }

  /** What a role does now, whether or not a control has it. */
  roleDoesNow(roleNumber: number): readonly CompiledBinding[] {
    return this.roleBindings(roleNumber) ?? [];
  }

  /** What a control does now. */
  doesNow(at: number): readonly CompiledBinding[] {
    return this.bindingsOf(this.state.show!.controls.controls[at]) ?? [];
  }
}

/** An action in one word, for records: “nextStep”, “patch 3”. */
export const actionName = (action: Action): string =>
  'number' in action ? `${action.kind} ${action.number}` : action.kind;
