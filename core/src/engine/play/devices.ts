import type { GearList } from '../../show';
import type { ControlMap } from '../controls/controlMap';
import type { ControllerRouter } from './controllerRouter';
import { MAX_INPUTS, SENSING_LOST_MS } from '../state/limits';
import type { NoteRouter } from './noteRouter';
import type { Recaller } from '../recall/recaller';
import type { Transport } from '../timeline/transport';
import { Due, type EngineState } from '../state/engineState';

/** Which devices are here: what goes with one that leaves, and what one is owed that comes back. */
export class Devices {
  private readonly inputAway = new Uint8Array(MAX_INPUTS);
  /** When an input was last heard that sends active sensing; −1 where none does. */
  private readonly sensedMs = new Float64Array(MAX_INPUTS).fill(-1);
  /** Input devices that are known to be away. */
  private readonly inputsAway = new Set<string>();
  /** Output devices that are here; null: nobody has said, and all are taken to be. */
  private outputsHere: Set<string> | null = null;

  constructor(
    private readonly state: EngineState,
    private readonly notes: NoteRouter,
    private readonly controllers: ControllerRouter,
    private readonly controls: ControlMap,
    private readonly recaller: Recaller,
    private readonly transport: Pick<Transport, 'outputBack'>,
    private readonly gear: () => GearList | null,
  ) {}

  /** @hotpath */
  isInputAway(port: number): boolean {
    return this.inputAway[port] === 1;
  }

  /** Whether an input's silence is watched, since it has sent active sensing. @hotpath */
  isSensed(port: number): boolean {
    return this.sensedMs[port] >= 0;
  }

  inputDevice(device: string, here: boolean): void {
    if (here) this.inputsAway.delete(device);
    else this.inputsAway.add(device);
    const port = this.state.registry.findInput(device);
    if (here) this.inputBack(port);
    else this.inputGone(port);
  }

  outputDevice(device: string, here: boolean): void {
    this.outputsHere ??= new Set();
    if (here) this.outputsHere.add(device);
    else this.outputsHere.delete(device);
    this.settlePorts(true);
  }

  /**
   * Ports of the gear list are here when their devices are; what was said before the gear list came counts too.
   * @param back also those that have come back: only once the show that they belong to is in place.
   */
  settlePorts(back: boolean): void {
    const { registry } = this.state;
    for (const device of this.inputsAway) this.inputGone(registry.findInput(device));
    const { outputsHere } = this;
    if (outputsHere === null) return;
    const devices = new Map(
      (this.gear()?.ports ?? []).flatMap((port) =>
        port.direction === 'out' && port.on ? [[port.alias as string, port.device as string] as const] : [],
      ),
    );
    for (const destination of registry.ports) {
      if (!outputsHere.has(devices.get(registry.nameOf(destination)) ?? '')) this.outputGone(destination);
      else if (back) this.outputBack(destination);
    }
  }

  /** Once an input has sent active sensing, its silence is worth a warning; it never ends a note. */
  sense(port: number): void {
    const { state } = this;
    const armed = this.sensedMs[port] >= 0;
    this.sensedMs[port] = state.nowMs;
    if (!armed) state.schedule.add(state.nowMs + SENSING_LOST_MS, Due.sensing, port, 0);
  }

  sensingDue(port: number): void {
    const { state } = this;
    const lostMs = this.sensedMs[port] + SENSING_LOST_MS;
    if (lostMs > state.nowMs) return void state.schedule.add(lostMs, Due.sensing, port, 0);
    this.sensedMs[port] = -1;
    if (this.inputAway[port] === 0) state.warn('active-sensing-lost', state.portName(port));
  }

  /** An input is gone: its keys end, its pedals go up, its wheel is centred, its banks are forgotten. */
  inputGone(port: number): void {
    const { state } = this;
    if (port < 0 || port >= MAX_INPUTS || this.inputAway[port] === 1) return;
    this.inputAway[port] = 1;
    state.messagePort = -1;
    this.controls.inputGone(port);
    for (let inputChannel = port * 16; inputChannel < port * 16 + 16; inputChannel++) {
      this.notes.ender.endKeys(inputChannel);
      for (let pedal = 0; pedal < 3; pedal++) this.controllers.lift(inputChannel, pedal);
      this.controllers.centre(inputChannel);
      state.inputs.bankMsb[inputChannel] = 0;
      state.inputs.bankLsb[inputChannel] = 0;
    }
    state.warn('input-gone', state.portName(port));
  }

  /** An input is back: nothing resumes until it is played. */
  inputBack(port: number): void {
    if (port < 0 || port >= MAX_INPUTS || this.inputAway[port] === 0) return;
    this.inputAway[port] = 0;
    this.state.warn('input-back', this.state.portName(port));
  }

  /** An output (a port destination of the registry) is gone. */
  outputGone(destination: number): void {
    const entry = this.state.registry.destinations[destination];
    if (entry?.kind !== 'port' || this.state.lanes.away[destination] === 1) return;
    this.state.lanes.leave(destination);
    this.state.warn('output-gone', entry.alias);
  }

  /** It is back: owed note-offs and pedals up, then addresses, then controllers. */
  outputBack(destination: number): void {
    const entry = this.state.registry.destinations[destination];
    if (entry?.kind !== 'port' || this.state.lanes.away[destination] === 0) return;
    this.state.serial++;
    this.recaller.outputBack(destination);
    this.transport.outputBack(destination);
    this.state.warn('output-back', entry.alias);
  }
}
