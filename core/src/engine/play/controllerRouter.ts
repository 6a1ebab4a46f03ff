import {
  CC_DATA_DOWN,
  CC_DATA_LSB,
  CC_DATA_MSB,
  CC_DATA_UP,
  CC_EXPRESSION,
  CC_MODULATION,
  CC_NRPN_LSB,
  CC_RPN_MSB,
  WHEEL_CENTRE,
} from '../../midi/status';
import type { CompiledLayer } from '../compile/compiled';
import { PEDAL_CONTROLLERS, SOSTENUTO, pedalOf } from '../state/inputs';
import { PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from '../state/limits';
import { REASON } from '../reasons';
import type { EngineState } from '../state/engineState';

const isParameterNumber = (controller: number): boolean => controller >= CC_NRPN_LSB && controller <= CC_RPN_MSB;
const isParameterData = (controller: number): boolean =>
  controller === CC_DATA_MSB || controller === CC_DATA_LSB || controller === CC_DATA_UP || controller === CC_DATA_DOWN;
const PER_NOTE_BRIGHTNESS = 74;

/** The number under which a layer passes a value on. @hotpath */
const leavesAs = ({ remap }: CompiledLayer, slot: number): number => (remap === null ? slot : remap[slot]);

/** What happens to pedals, wheels and other controllers. */
export class ControllerRouter {
  private readonly recallValue = new Int16Array(VALUE_SLOTS);
  private readonly recallSerial = new Float64Array(VALUE_SLOTS);

  constructor(private readonly state: EngineState) {}

  /** A controller (0–119, no bank select) moves. @hotpath */
  controller(inputChannel: number, controller: number, value: number, perNote: boolean): void {
    const pedal = pedalOf(controller);
    if (pedal >= 0) this.pedal(inputChannel, pedal, value);
    else if (isParameterNumber(controller) || isParameterData(controller))
      this.parameter(inputChannel, controller, value);
    else if (perNote && controller === PER_NOTE_BRIGHTNESS) this.perNoteValue(inputChannel, controller, value);
    else this.value(inputChannel, controller, value);
  }

  /**
   * A controller, pressure (`PRESSURE_SLOT`) or the wheel (`WHEEL_SLOT`, 14 bit) reaches the layers that hear it.
   * @hotpath
   */
  value(inputChannel: number, slot: number, value: number): void {
    this.reach(inputChannel, slot, value, -1);
  }

  /** Bend, pressure and 74 of a per-note input: to its channel's notes in built-in instruments only. @hotpath */
  perNoteValue(inputChannel: number, slot: number, value: number): void {
    this.reach(inputChannel, slot, value, inputChannel & 15);
  }

  /** @param noteChannel of a per-note input, whose notes the value follows; −1: it is for all of them. */
  private reach(inputChannel: number, slot: number, value: number, noteChannel: number): void {
    const { state } = this;
    const { lanes, hears } = state;
    state.inputs.move(inputChannel, slot, value);
    let heard = 0;
    for (let i = 0; i < state.liveCount; i++) {
      const layer = state.live[i]!;
      if (hears[layer.inputFilter][inputChannel] === 0 || layer.deaf[slot] === 1) continue;
      heard++;
      if (noteChannel >= 0 && layer.outboard) {
        state.ignore(REASON['per-note-to-outboard']);
        continue;
      }
      const lane = noteChannel >= 0 && layer.lanes === 16 ? layer.lane + noteChannel : layer.lane;
      if (lanes.stamp[lane] === state.serial) continue;
      lanes.stamp[lane] = state.serial;
      lanes.sendValue(lane, leavesAs(layer, slot), value);
    }
    if (slot >= PRESSURE_SLOT) heard += this.followToRest(inputChannel, slot, value, Math.max(0, noteChannel));
    if (heard === 0) state.ignore(REASON['no-one-listens']);
  }

  /** A layer left behind follows wheel and pressure back to rest, and no further. @hotpath */
  private followToRest(inputChannel: number, slot: number, value: number, channel: number): number {
    const { lanes, layers, lingering, lingeringCount, inputs, hears } = this.state;
    const rest = inputs.restValue(slot);
    let heard = 0;
    for (let i = 0; i < lingeringCount; i++) {
      const layer = layers[lingering[i]];
      if (layer === null || hears[layer.inputFilter][inputChannel] === 0 || this.isLed(layer.lane, inputChannel, slot))
        continue;
      const lane = layer.lane + (layer.lanes === 16 ? channel : 0);
      const last = lanes.lastSent[lane * VALUE_SLOTS + slot];
      if (last < 0 || last === rest || Math.abs(value - rest) >= Math.abs(last - rest)) continue;
      heard++;
      lanes.sendValue(lane, slot, value);
    }
    return heard;
  }

  /** Whether a layer of the present patch leads this value of a lane; one that is deaf to it does not. */
  private isLed(lane: number, inputChannel: number, slot: number): boolean {
    const { state } = this;
    if (state.lanes.users[lane] === 0) return false;
    for (let i = 0; i < state.liveCount; i++) {
      const layer = state.live[i]!;
      if (layer.lane === lane && layer.deaf[slot] === 0 && state.hears[layer.inputFilter][inputChannel] === 1)
        return true;
    }
    return false;
  }

  /** A pedal moves; the raw value is passed on, and "up" waits for the last layer that holds it. @hotpath */
  pedal(inputChannel: number, pedal: number, value: number): void {
    const { state } = this;
    const { hearsPedals } = state;
    state.inputs.movePedal(inputChannel, pedal, value);
    const controller = PEDAL_CONTROLLERS[pedal];
    let heard = 0;
    for (let i = 0; i < state.liveCount; i++) {
      const layer = state.live[i]!;
      if (hearsPedals[layer.inputFilter][inputChannel] === 0 || layer.deaf[controller] === 1) continue;
      heard++;
      if (value >= 64) this.pressPedal(layer, inputChannel, pedal, value, state.liveMute[i] === 1);
      else this.liftPedal(layer, pedal, value);
    }
    for (let i = 0; i < state.lingeringCount; i++) {
      const layer = state.layers[state.lingering[i]];
      if (
        layer === null ||
        hearsPedals[layer.inputFilter][inputChannel] === 0 ||
        state.pedalOf[layer.index * 3 + pedal] === 0
      )
        continue;
      heard++;
      if (value < 64) this.liftPedal(layer, pedal, value);
    }
    if (heard === 0) state.ignore(REASON['no-one-listens']);
  }

  /** @hotpath */
  private pressPedal(layer: CompiledLayer, inputChannel: number, pedal: number, value: number, muted: boolean): void {
    const { lanes, pedalOf: held, inputs, hearsPedals } = this.state;
    const at = layer.index * 3 + pedal;
    const leader = inputs.lastDown(hearsPedals[layer.inputFilter], pedal);
    if (held[at] === 0 && !muted && leader >= 0) {
      held[at] = 1;
      lanes.pedalDown(layer.lane, pedal, value);
    }
    // The one that went down last leads; a muted layer neither gets it nor stands in the way of those behind it.
    if (held[at] === 1 && leader === inputChannel * 3 + pedal)
      lanes.bringTo(layer.lane, PEDAL_CONTROLLERS[pedal], value);
  }

  /** @hotpath */
  private liftPedal(layer: CompiledLayer, pedal: number, value: number): void {
    const { lanes, pedalOf: held, serial, inputs, hearsPedals } = this.state;
    const at = layer.index * 3 + pedal;
    if (held[at] === 1) {
      const other = inputs.pedalValue(hearsPedals[layer.inputFilter], pedal);
      if (other > 0) return lanes.bringTo(layer.lane, PEDAL_CONTROLLERS[pedal], other);
      held[at] = 0;
      lanes.pedalUp(layer.lane, pedal, value);
    } else if (
      pedal !== SOSTENUTO &&
      lanes.pedalOwners[layer.lane * 3 + pedal] === 0 &&
      lanes.stamp[layer.lane] !== serial
    ) {
      // A pedal on its way below half: gear that knows half pedals hears it.
      lanes.bringTo(layer.lane, PEDAL_CONTROLLERS[pedal], value);
    }
    lanes.stamp[layer.lane] = serial;
  }

  /** RPN and NRPN: data reaches only layers that got the parameter number since they were entered. @hotpath */
  private parameter(inputChannel: number, controller: number, value: number): void {
    const { state } = this;
    const { lanes, hears } = state;
    const isNumber = isParameterNumber(controller);
    let heard = 0;
    for (let i = 0; i < state.liveCount; i++) {
      const layer = state.live[i]!;
      if (hears[layer.inputFilter][inputChannel] === 0 || layer.deaf[controller] === 1) continue;
      if (isNumber) state.parameterSeen[layer.index] = 1;
      else if (state.parameterSeen[layer.index] === 0) continue;
      heard++;
      if (lanes.stamp[layer.lane] === state.serial) continue;
      lanes.stamp[layer.lane] = state.serial;
      lanes.sendValue(layer.lane, controller, value);
    }
    if (heard === 0) state.ignore(isNumber ? REASON['no-one-listens'] : REASON['parameter-number-missing']);
  }

  /** Controller 121 from an input: its pedals, wheel, pressure, modulation and expression go to rest as if played. */
  rest(inputChannel: number): void {
    const { state } = this;
    for (let pedal = 0; pedal < 3; pedal++) this.lift(inputChannel, pedal);
    this.restValue(inputChannel, WHEEL_SLOT, WHEEL_CENTRE);
    this.restValue(inputChannel, PRESSURE_SLOT, 0);
    this.restValue(inputChannel, CC_MODULATION, 0);
    this.restValue(inputChannel, CC_EXPRESSION, 127);
    state.serial++;
  }

  private restValue(inputChannel: number, slot: number, rest: number): void {
    const last = this.state.inputs.value[inputChannel * VALUE_SLOTS + slot];
    if (last < 0 || last === rest) return;
    this.state.serial++;
    if (slot >= PRESSURE_SLOT && (this.state.show?.inputs[inputChannel >> 4]?.perNote ?? false))
      this.perNoteValue(inputChannel, slot, rest);
    else this.value(inputChannel, slot, rest);
  }

  /** A pedal that is down comes up as if played. */
  lift(inputChannel: number, pedal: number): void {
    if (this.state.inputs.pedal[inputChannel * 3 + pedal] === 0) return;
    this.state.serial++;
    this.pedal(inputChannel, pedal, 0);
  }

  /** The wheel and pressure of an input that is gone. */
  centre(inputChannel: number): void {
    this.restValue(inputChannel, WHEEL_SLOT, WHEEL_CENTRE);
    this.restValue(inputChannel, PRESSURE_SLOT, 0);
  }

  /**
   * Whether there is anything to give to a layer that is entered: a pedal that is down, a controller that was ever
   * moved.
   */
  get hasGreetings(): boolean {
    return this.state.inputs.downCount > 0 || this.state.inputs.movedCount > 0;
  }

  /** A layer that is entered gets the pedals that are down, and is brought to where the player's hands stand. */
  greet(layer: CompiledLayer, muted: boolean): void {
    if (!muted) this.givePedals(layer);
    this.bringValues(layer);
  }

  /** Sustain and soft that are down go to a layer that is entered or unmuted. Sostenuto caught nothing there. */
  givePedals(layer: CompiledLayer): void {
    const { lanes, pedalOf: held, inputs, hearsPedals } = this.state;
    for (let pedal = 0; pedal < 3; pedal++) {
      const at = layer.index * 3 + pedal;
      if (pedal === SOSTENUTO || held[at] === 1 || layer.deaf[PEDAL_CONTROLLERS[pedal]] === 1) continue;
      const value = inputs.pedalValue(hearsPedals[layer.inputFilter], pedal);
      if (value === 0) continue;
      held[at] = 1;
      lanes.pedalDown(layer.lane, pedal, value);
    }
  }

  /** Of several inputs' values that leave under one number the last moved counts. */
  private bringValues(layer: CompiledLayer): void {
    const { inputs, lanes } = this.state;
    const { recallSerial, recallValue } = this;
    if (inputs.movedCount === 0 || !this.collectValues(layer)) return;
    for (let i = 0; i < inputs.movedCount; i++) {
      const target = leavesAs(layer, inputs.moved[i] % VALUE_SLOTS);
      if (recallSerial[target] === 0) continue;
      recallSerial[target] = 0;
      lanes.bringTo(layer.lane, target, recallValue[target]);
    }
  }

  /** Whether there is any value that the layer hears. */
  private collectValues(layer: CompiledLayer): boolean {
    const { inputs, hears } = this.state;
    const { recallSerial, recallValue } = this;
    let any = false;
    for (let i = 0; i < inputs.movedCount; i++) {
      const at = inputs.moved[i];
      const inputChannel = (at / VALUE_SLOTS) | 0;
      const slot = at - inputChannel * VALUE_SLOTS;
      if (hears[layer.inputFilter][inputChannel] === 0 || layer.deaf[slot] === 1) continue;
      if (this.followsNotes(inputChannel, slot)) continue;
      const target = leavesAs(layer, slot);
      if (inputs.movedSerial[at] <= recallSerial[target]) continue;
      recallSerial[target] = inputs.movedSerial[at];
      recallValue[target] = inputs.value[at];
      any = true;
    }
    return any;
  }

  /** What follows single notes is nothing that a whole channel could be brought to. */
  private followsNotes(inputChannel: number, slot: number): boolean {
    return (
      (slot >= PRESSURE_SLOT || slot === PER_NOTE_BRIGHTNESS) &&
      (this.state.show?.inputs[inputChannel >> 4]?.perNote ?? false)
    );
  }

  /** Lets go of every pedal that a layer holds down, with an "up" of the engine's own. */
  dropPedals(layer: number): void {
    const { state } = this;
    const info = state.layers[layer];
    if (info === null) return;
    for (let pedal = 0; pedal < 3; pedal++) {
      if (state.pedalOf[layer * 3 + pedal] === 0) continue;
      state.pedalOf[layer * 3 + pedal] = 0;
      state.lanes.pedalUp(info.lane, pedal, 0);
    }
  }
}
