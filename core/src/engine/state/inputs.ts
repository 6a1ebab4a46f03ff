import { WHEEL_CENTRE } from '../../midi/status';
import { MAX_INPUT_CHANNELS, PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from './limits';

/** Sustain, sostenuto, soft: pedals by number 0–2. */
export const PEDAL_CONTROLLERS = [64, 66, 67] as const;
/** Its place among the pedals. */
export const SOSTENUTO = 1;

/** Pedal number of a controller, −1 when it is none. @hotpath */
export const pedalOf = (controller: number): number =>
  controller === 64 ? 0 : controller === 66 ? 1 : controller === 67 ? 2 : -1;

/** What the player's hands and feet last did, by input port and channel (`port * 16 + channel`). */
export class Inputs {
  /** Last value of each controller, pressure and wheel; −1 when it was never moved. */
  readonly value = new Int16Array(MAX_INPUT_CHANNELS * VALUE_SLOTS).fill(-1);
  /** Which of them moved later: the last moved wins. */
  readonly movedSerial = new Float64Array(MAX_INPUT_CHANNELS * VALUE_SLOTS);
  /** Places in `value` that were ever moved, so that a recall looks at no others. */
  readonly moved = new Int32Array(4096);
  movedCount = 0;
  readonly pedal = new Uint8Array(MAX_INPUT_CHANNELS * 3);
  /** Down, but counted as up since a panic until it is released. */
  readonly pedalSwallowed = new Uint8Array(MAX_INPUT_CHANNELS * 3);
  /** Pedals that are down now, as `inputChannel * 3 + pedal`. */
  readonly down = new Int32Array(MAX_INPUT_CHANNELS * 3);
  downCount = 0;
  /** Which of them went down later. */
  private readonly downSerial = new Float64Array(MAX_INPUT_CHANNELS * 3);
  readonly bankMsb = new Uint8Array(MAX_INPUT_CHANNELS);
  readonly bankLsb = new Uint8Array(MAX_INPUT_CHANNELS);
  /** Last program of a counting controller, −1 before the first. Survives replugging. */
  readonly counterReference = new Int16Array(MAX_INPUT_CHANNELS).fill(-1);
  readonly counterAcceptedMs = new Float64Array(MAX_INPUT_CHANNELS).fill(-Infinity);
  private serial = 1;

  /** @hotpath */
  move(inputChannel: number, slot: number, value: number): void {
    const at = inputChannel * VALUE_SLOTS + slot;
    if (this.movedSerial[at] === 0 && this.movedCount < this.moved.length) this.moved[this.movedCount++] = at;
    this.movedSerial[at] = this.serial++;
    this.value[at] = value;
  }

  /** Notes a pedal's value (0–127); from 64 it is down. @hotpath */
  movePedal(inputChannel: number, pedal: number, value: number): void {
    const at = inputChannel * 3 + pedal;
    const wasDown = this.pedal[at] >= 64;
    this.pedal[at] = value;
    if (value >= 64 && !wasDown) {
      this.down[this.downCount++] = at;
      this.downSerial[at] = this.serial++;
    }
    if (value < 64 && wasDown) {
      let i = 0;
      while (this.down[i] !== at) i++;
      this.down[i] = this.down[--this.downCount];
      this.pedalSwallowed[at] = 0;
    }
  }

  /** Value (64–127) of the pedal that went down last in the places heard, 0 when none is down. @hotpath */
  pedalValue(hears: Uint8Array, pedal: number): number {
    const at = this.lastDown(hears, pedal);
    return at < 0 ? 0 : this.pedal[at];
  }

  /** The pedal (as `inputChannel * 3 + pedal`) that went down last in the places heard, −1 when none is. @hotpath */
  lastDown(hears: Uint8Array, pedal: number): number {
    let last = -1;
    for (let i = 0; i < this.downCount; i++) {
      const at = this.down[i];
      if (at % 3 !== pedal || this.pedalSwallowed[at] !== 0 || hears[(at / 3) | 0] !== 1) continue;
      if (last < 0 || this.downSerial[at] > this.downSerial[last]) last = at;
    }
    return last;
  }

  /** Whether a wheel or pressure was left away from rest. @hotpath */
  isOffRest(inputChannel: number, slot: number): boolean {
    const value = this.value[inputChannel * VALUE_SLOTS + slot];
    return value >= 0 && value !== this.restValue(slot);
  }

  restValue(slot: number): number {
    return slot === WHEEL_SLOT ? WHEEL_CENTRE : slot === PRESSURE_SLOT ? 0 : -1;
  }
}
