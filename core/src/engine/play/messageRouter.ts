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
} from '../../midi/status';
import type { CompiledInput } from '../compile/compiled';
import type { ControlMap } from '../controls/controlMap';
import type { ControllerRouter } from './controllerRouter';
import type { Devices } from './devices';
import { MAX_INPUTS, PRESSURE_SLOT, WHEEL_SLOT } from '../state/limits';
import type { NoteRouter } from './noteRouter';
import type { Transport } from '../timeline/transport';
import { REASON } from '../reasons';
import type { EngineState } from '../state/engineState';

/** Where each message that comes in goes: to a role, a program, the keys, the controllers, the clock; or nowhere, and why. */
export class MessageRouter {
  constructor(
    private readonly state: EngineState,
    private readonly devices: Devices,
    private readonly notes: NoteRouter,
    private readonly controllers: ControllerRouter,
    private readonly controls: ControlMap,
    private readonly transport: Transport,
  ) {}

  /**
   * A MIDI message has come in. Channel messages and single-byte system messages; system exclusive goes to
   * `receiveSysex`.
   * @param port number of the input in the registry; @param status 0x80–0xff; @param data1 and data2 0–127, 0 where the
   * message has none.
   * @hotpath
   */
  receive(port: number, status: number, data1: number, data2: number): void {
    const { state } = this;
    state.serial++;
    state.messagePort = port;
    if (state.observer !== null) this.tellIn(port, status, data1, data2);
    if (status < 0x80 || status > 0xff || (data1 & ~127) !== 0 || (data2 & ~127) !== 0)
      return state.ignore(REASON.malformed);
    if (port >= 0 && port < MAX_INPUTS && (status === ACTIVE_SENSING || this.devices.isSensed(port)))
      this.devices.sense(port);
    if (status >= 0xf0) return this.system(port, status, data1, data2);
    const { show } = state;
    const input = show === null || port < 0 || port >= show.inputs.length ? null : show.inputs[port];
    const kind = status & 0xf0;
    const inputChannel = (port << 4) | (status & 15);
    if (kind === NOTE_OFF || (kind === NOTE_ON && data2 === 0))
      return this.keyUp(port, inputChannel, data1, kind === NOTE_OFF ? data2 : 64);
    if (input === null) return state.ignore(REASON['unknown-port']);
    if (!input.on) return state.ignore(REASON['port-off']);
    if (input.doubleOf >= 0 && !this.devices.isInputAway(input.doubleOf)) return state.ignore(REASON['doubled-port']);
    if (input.listens[status & 15] === 0) return state.ignore(REASON['channel-not-listened']);
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
        if (this.controls.hasTakenKey((inputChannel << 7) | data1)) return state.ignore(REASON['switch-pressure']);
        return this.notes.keyPressure((inputChannel << 7) | data1, KEY_PRESSURE, data2);
    }
  }

  /** Notes the message, for what the observer will be told of it. */
  private tellIn(port: number, status: number, data1: number, data2: number): void {
    const { state } = this;
    state.messageStatus = status;
    state.messageData1 = data1;
    state.messageData2 = data2;
    state.record({ type: 'in', atMs: state.nowMs, port: state.portName(port), status, data1, data2 });
  }

  /** Clock and song position of the port that is followed; all else of the system is counted. */
  private system(port: number, status: number, data1: number, data2: number): void {
    const { state, transport } = this;
    const isClock = status === SONG_POSITION || (status >= CLOCK && status <= STOP);
    if (!isClock) return state.ignore(REASON.system);
    if (state.show === null || state.show.clockInput !== port)
      return state.ignore(state.show !== null && state.show.clockInput >= 0 ? REASON['other-clock'] : REASON.clock);
    if (status === CLOCK) transport.outsideClock();
    else if (status === SONG_POSITION) transport.outsidePosition((data2 << 7) | data1);
    else if (status === START || status === CONTINUE) transport.outsideStart(status === START);
    else if (status === STOP) transport.stop();
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
      ((value === 0 && !this.state.inputs.isOffRest(inputChannel, slot)) || this.controls.hasTakenAll(inputChannel))
    )
      return this.state.ignore(REASON['switch-pressure']);
    if (input.perNote) this.controllers.perNoteValue(inputChannel, slot, value);
    else this.controllers.value(inputChannel, slot, value);
  }

  /** A release goes where its press went, also from a port that is switched off by now. */
  private keyUp(port: number, inputChannel: number, key: number, velocity: number): void {
    if (port < 0 || port >= MAX_INPUTS) return this.state.ignore(REASON['unknown-port']);
    if (this.state.show !== null && this.controls.takesKey(inputChannel, key, 0)) return;
    const slot = (inputChannel << 7) | key;
    if (this.state.holds.head[slot] < 0) return this.state.ignore(REASON['stray-note-off']);
    this.notes.ender.release(slot, velocity);
  }

  private controller(input: CompiledInput, inputChannel: number, controller: number, value: number): void {
    const { state } = this;
    if (controller === CC_BANK_MSB || controller === CC_BANK_LSB) {
      (controller === CC_BANK_MSB ? state.inputs.bankMsb : state.inputs.bankLsb)[inputChannel] = value;
      return state.ignore(REASON['bank-remembered']);
    }
    if (controller >= CC_ALL_SOUND_OFF) return this.mode(inputChannel, controller);
    const steered = input.reversed[controller] === 1 ? 127 - value : value;
    if (input.ignoredPedal[controller] === 1) return state.ignore(REASON['pedal-ignored']);
    if (this.controls.takesController(inputChannel, controller, steered)) return;
    this.controllers.controller(inputChannel, controller, steered, input.perNote);
  }

  /** Channel mode messages are never passed on. */
  private mode(inputChannel: number, controller: number): void {
    if (controller === CC_RESET_CONTROLLERS) this.controllers.rest(inputChannel);
    else if (controller !== CC_LOCAL) {
      this.notes.ender.endKeys(inputChannel);
      if (controller === CC_ALL_SOUND_OFF)
        for (let pedal = 0; pedal < 3; pedal++) this.controllers.lift(inputChannel, pedal);
    }
    this.state.ignore(REASON['mode-message']);
  }
}
