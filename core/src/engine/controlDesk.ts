import type { Action } from '../show';
import { CONTROL_KINDS, type CompiledControl, type CompiledInput, type ProgramTable, type ProgramTarget } from './compiled';
import { MAX_INPUT_CHANNELS } from './limits';
import { REASON } from './reasons';
import type { RecallCause } from './records';
import type { Rig } from './rig';

/** The number that a table has for a program; −1 when it has none. */
function find(table: ProgramTable | null, bank: number, program: number): number {
  const programs = table?.banks.get(bank);
  return programs === undefined ? -1 : programs[program];
}

/** What the control desk needs done. */
export interface ActionTaker {
  act(action: Action, cause: RecallCause): void;
  recallAt(position: number, cause: RecallCause): void;
}

/** What happens to switches: roles, program changes, counters. */
export class ControlDesk {
  private keys: string[] = [];
  private acceptedMs = new Float64Array(0);
  private pressed = new Uint8Array(0);
  /** Keys whose press was taken by a role, so that their release is too. */
  private readonly keyTaken = new Uint8Array(MAX_INPUT_CHANNELS * 128);

  constructor(private readonly rig: Rig, private readonly taker: ActionTaker) {}

  /** Takes up the controls of a new compiled show; those that were there before stay as they stand. */
  load(next: readonly CompiledControl[]): void {
    const acceptedMs = new Float64Array(next.length).fill(-Infinity);
    const pressed = new Uint8Array(next.length);
    next.forEach(({ key }, i) => {
      const old = this.keys.indexOf(key);
      if (old < 0) return;
      acceptedMs[i] = this.acceptedMs[old];
      pressed[i] = this.pressed[old];
    });
    this.keys = next.map(({ key }) => key);
    this.acceptedMs = acceptedMs;
    this.pressed = pressed;
  }

  /** A controller or program that may be a role's; true when it is used up. @hotpath */
  takes(inputChannel: number, kind: number, number: number, value: number): boolean {
    const table = this.rig.show!.controlTable;
    if (table === null) return false;
    const control = table[(inputChannel * CONTROL_KINDS + kind) * 128 + number];
    if (control < 0) return false;
    this.move(control, value);
    return !this.rig.show!.controls[control].passOn;
  }

  /** A key that may be a role's; true when it makes no sound. @hotpath */
  takesKey(inputChannel: number, key: number, velocity: number): boolean {
    const slot = (inputChannel << 7) | key;
    const table = this.rig.show!.controlTable;
    const control = table === null ? -1 : table[inputChannel * CONTROL_KINDS * 128 + key];
    if (velocity === 0) {
      const taken = this.keyTaken[slot] === 1;
      this.keyTaken[slot] = 0;
      if (taken && control >= 0) this.move(control, 0);
      return taken;
    }
    if (control < 0) return false;
    this.move(control, 127);
    if (this.rig.show!.controls[control].passOn) return false;
    this.keyTaken[slot] = 1;
    return true;
  }

  /** A program change plays a role at each message: it has no release. */
  takesProgram(inputChannel: number, program: number): boolean {
    const table = this.rig.show!.controlTable;
    const control = table === null ? -1 : table[(inputChannel * CONTROL_KINDS + 2) * 128 + program];
    if (control < 0) return false;
    this.hit(control);
    return !this.rig.show!.controls[control].passOn;
  }

  private move(control: number, value: number): void {
    const { latching } = this.rig.show!.controls[control];
    const down = value >= 64 ? 1 : 0;
    if (this.pressed[control] === down) return;
    this.pressed[control] = down;
    if (down === 1 || latching) this.hit(control);
  }

  private hit(control: number): void {
    const { rig } = this;
    const { guardMs, action, role } = rig.show!.controls[control];
    if (rig.nowMs - this.acceptedMs[control] < guardMs) return rig.ignore(REASON.guard);
    this.acceptedMs[control] = rig.nowMs;
    if (rig.observer !== null) rig.record({ type: 'action', atMs: rig.nowMs, role, action });
    this.taker.act(action, 'control');
  }

  /** A program change from an input that is listened to. */
  program(input: CompiledInput, inputChannel: number, program: number): void {
    const { rig } = this;
    if (input.programs === 'off' || input.programChannels[inputChannel & 15] === 0) return rig.ignore(REASON['program-not-listened']);
    if (input.programs === 'counter') return this.count(input, inputChannel, program);
    const msb = input.usesMsb ? rig.inputs.bankMsb[inputChannel] : 0;
    const lsb = input.usesLsb ? rig.inputs.bankLsb[inputChannel] : 0;
    const bank = (msb << 7) | lsb;
    const own = input.mapByChannel[inputChannel & 15];
    const ownNumber = find(own, bank, program);
    const number = ownNumber !== -1 ? ownNumber : find(input.map, bank, program);
    if (number === -1) return rig.ignore(REASON['no-such-program']);
    if (number >= 0) return this.taker.recallAt(number, 'program');
    this.taker.recallAt(this.nearest((ownNumber !== -1 ? own! : input.map!).targets[-2 - number]), 'program');
  }

  /** A song that stands twice in the set: the nearest entry at or after the present one, else the last before it. */
  private nearest(target: ProgramTarget): number {
    const { rig } = this;
    const present = Math.max(0, rig.entry);
    let i = 0;
    while (i < target.entries.length - 1 && target.entries[i] < present) i++;
    const position = target.positions[i];
    return target.isSong && rig.show!.recallsWhereLeft ? this.whereLeft(target.entries[i], position) : position;
  }

  /** Set by the engine: where an entry was left, or its first position. */
  whereLeft: (entry: number, first: number) => number = (_entry, first) => first;

  /** Only the direction of change counts; the step between the counter's ends is the wrap; stuck at an end is one more step the same way. */
  private count(input: CompiledInput, inputChannel: number, program: number): void {
    const { rig } = this;
    const { counterLowest: lowest, counterHighest: highest } = input;
    const reference = rig.inputs.counterReference[inputChannel];
    if (program < lowest || program > highest) return rig.ignore(REASON['counter-outside']);
    rig.inputs.counterReference[inputChannel] = program;
    if (reference < 0) return rig.ignore(REASON['counter-reference']);
    const wraps = highest - lowest > 1;
    let direction = Math.sign(program - reference);
    if (program === reference) direction = program === highest ? 1 : program === lowest ? -1 : 0;
    else if (wraps && reference === highest && program === lowest) direction = 1;
    else if (wraps && reference === lowest && program === highest) direction = -1;
    if (direction === 0) return rig.ignore(REASON['counter-repeat']);
    if (rig.nowMs - rig.inputs.counterAcceptedMs[inputChannel] < input.counterGuardMs) return rig.ignore(REASON.guard);
    rig.inputs.counterAcceptedMs[inputChannel] = rig.nowMs;
    this.taker.act(direction > 0 ? 'nextStep' : 'previousStep', 'counter');
  }

  /** Keys and switches of an input that is gone are up. */
  inputGone(port: number): void {
    this.keyTaken.fill(0, port * 16 * 128, (port + 1) * 16 * 128);
    const table = this.rig.show?.controlTable;
    if (!table) return;
    for (let at = port * 16 * CONTROL_KINDS * 128; at < (port + 1) * 16 * CONTROL_KINDS * 128; at++) if (table[at] >= 0) this.pressed[table[at]] = 0;
  }
}
