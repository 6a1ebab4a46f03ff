import {
  ACTIVE_SENSING,
  CC_ALL_SOUND_OFF,
  CC_BANK_LSB,
  CC_BANK_MSB,
  CC_LOCAL,
  CC_RESET_CONTROLLERS,
  CLOCK,
  CONTINUE,
  CONTROLLER,
  KEY_PRESSURE,
  NOTE_OFF,
  NOTE_ON,
  PRESSURE,
  PROGRAM,
  SONG_POSITION,
  START,
  STOP,
  WHEEL,
} from '../midi/status';
import type { CompiledInput } from './compile/compiled';
import type { ControlDesk } from './controlDesk';
import type { ControllerDesk } from './controllerDesk';
import type { Devices } from './devices';
import { MAX_INPUTS, PRESSURE_SLOT, WHEEL_SLOT } from './limits';
import type { NoteDesk } from './noteDesk';
import type { Playhead } from './playhead';
import { REASON } from './reasons';
import type { Rig } from './rig';

/** Where each message that comes in goes: to a role, a program, the keys, the controllers, the clock; or nowhere, and why. */
export class MessageRouter {
  constructor(
    private readonly rig: Rig,
    private readonly devices: Devices,
    private readonly notes: NoteDesk,
    private readonly controllers: ControllerDesk,
    private readonly controls: ControlDesk,
    private readonly playhead: Playhead,
  ) {}

  /**
   * A MIDI message has come in. Channel messages and single-byte system messages; system exclusive goes to
   * `receiveSysex`.
   * @param port number of the input in the book; @param status 0x80–0xff; @param data1 and data2 0–127, 0 where the
   * message has none.
   * @hotpath
   */
  receive(port: number, status: number, data1: number, data2: number): void {
    const { rig } = this;
    rig.serial++;
    if (rig.observer !== null) this.tellIn(port, status, data1, data2);
    if (status < 0x80 || status > 0xff || (data1 & ~127) !== 0 || (data2 & ~127) !== 0)
      return rig.ignore(REASON.malformed);
    if (port >= 0 && port < MAX_INPUTS && (status === ACTIVE_SENSING || this.devices.isSensed(port)))
      this.devices.sense(port);
    if (status >= 0xf0) return this.system(port, status, data1, data2);
    const { show } = rig;
    const input = show === null || port < 0 || port >= show.inputs.length ? null : show.inputs[port];
    const kind = status & 0xf0;
    const inputChannel = (port << 4) | (status & 15);
    if (kind === NOTE_OFF || (kind === NOTE_ON && data2 === 0))
      return this.keyUp(port, inputChannel, data1, kind === NOTE_OFF ? data2 : 64);
    if (input === null) return rig.ignore(REASON['unknown-port']);
    if (!input.on) return rig.ignore(REASON['port-off']);
    if (input.doubleOf >= 0 && !this.devices.isInputAway(input.doubleOf)) return rig.ignore(REASON['doubled-port']);
    if (input.listens[status & 15] === 0) return rig.ignore(REASON['channel-not-listened']);
    switch (kind) {
      case NOTE_ON:
        if (!this.controls.takesKey(inputChannel, data1, data2))
          this.notes.press(inputChannel, data1, data2, input.keyShift, input.perNote ? status & 15 : -1);
        return;
      case CONTROLLER:
        return this.controller(input, inputChannel, data1, data2);
      case PROGRAM:
        if (!this.controls.takesProgram(inputChannel, data1)) this.controls.program(input, inputChannel, data1);
        return;
      case WHEEL:
        return this.swing(input, inputChannel, WHEEL_SLOT, (data2 << 7) | data1);
      case PRESSURE:
        return this.swing(input, inputChannel, PRESSURE_SLOT, data1);
      case KEY_PRESSURE:
        if (this.controls.hasTakenKey((inputChannel << 7) | data1)) return rig.ignore(REASON['switch-pressure']);
        return this.notes.keyPressure((inputChannel << 7) | data1, KEY_PRESSURE, data2);
    }
  }

  /** Notes the message, for what the observer will be told of it. */
  private tellIn(port: number, status: number, data1: number, data2: number): void {
    const { rig } = this;
    rig.messagePort = port;
    rig.messageStatus = status;
    rig.messageData1 = data1;
    rig.messageData2 = data2;
    rig.record({ type: 'in', atMs: rig.nowMs, port: rig.portName(port), status, data1, data2 });
  }

  /** Clock and song position of the port that is followed; all else of the system is counted. */
  private system(port: number, status: number, data1: number, data2: number): void {
    const { rig, playhead } = this;
    const isClock = status === SONG_POSITION || (status >= CLOCK && status <= STOP);
    if (!isClock) return rig.ignore(REASON.system);
    if (rig.show === null || rig.show.clockInput !== port)
      return rig.ignore(rig.show !== null && rig.show.clockInput >= 0 ? REASON['other-clock'] : REASON.clock);
    if (status === CLOCK) playhead.outsideClock();
    else if (status === SONG_POSITION) playhead.outsidePosition((data2 << 7) | data1);
    else if (status === START || status === CONTINUE) playhead.outsideStart(status === START);
    else if (status === STOP) playhead.outsideStop();
  }

  private swing(input: CompiledInput, inputChannel: number, slot: number, value: number): void {
    if (
      slot === WHEEL_SLOT
        ? this.controls.takesWheel(inputChannel, value)
        : this.controls.takesPressure(inputChannel, value)
    )
      return;
    // A pad that is a switch sends its pressure too, and that of zero after it has come up.
    if (
      slot === PRESSURE_SLOT &&
      ((value === 0 && !this.rig.inputs.isOffRest(inputChannel, slot)) || this.controls.hasTakenAll(inputChannel))
    )
      return this.rig.ignore(REASON['switch-pressure']);
    if (input.perNote) this.controllers.perNoteValue(inputChannel, slot, value);
    else this.controllers.value(inputChannel, slot, value);
  }

  /** A release goes where its press went, also from a port that is switched off by now. */
  private keyUp(port: number, inputChannel: number, key: number, velocity: number): void {
    if (port < 0 || port >= MAX_INPUTS) return this.rig.ignore(REASON['unknown-port']);
    if (this.rig.show !== null && this.controls.takesKey(inputChannel, key, 0)) return;
    const slot = (inputChannel << 7) | key;
    if (this.rig.holds.head[slot] < 0) return this.rig.ignore(REASON['stray-note-off']);
    this.notes.release(slot, velocity);
  }

  private controller(input: CompiledInput, inputChannel: number, controller: number, value: number): void {
    const { rig } = this;
    if (controller === CC_BANK_MSB || controller === CC_BANK_LSB) {
      (controller === CC_BANK_MSB ? rig.inputs.bankMsb : rig.inputs.bankLsb)[inputChannel] = value;
      return rig.ignore(REASON['bank-remembered']);
    }
    if (controller >= CC_ALL_SOUND_OFF) return this.mode(inputChannel, controller);
    const steered = input.reversed[controller] === 1 ? 127 - value : value;
    if (input.ignoredPedal[controller] === 1) return rig.ignore(REASON['pedal-ignored']);
    if (this.controls.takesController(inputChannel, controller, steered)) return;
    this.controllers.controller(inputChannel, controller, steered, input.perNote);
  }

  /** Channel mode messages are never passed on. */
  private mode(inputChannel: number, controller: number): void {
    if (controller === CC_RESET_CONTROLLERS) this.controllers.rest(inputChannel);
    else if (controller !== CC_LOCAL) {
      this.notes.endKeys(inputChannel);
      if (controller === CC_ALL_SOUND_OFF)
        for (let pedal = 0; pedal < 3; pedal++) this.controllers.lift(inputChannel, pedal);
    }
    this.rig.ignore(REASON['mode-message']);
  }
}
