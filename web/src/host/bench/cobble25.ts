import type { SimulatedInput } from './simulatedInput';

/** Its lowest key, without octave shift. */
export const COBBLE_LOWEST = 48;
/** Its highest key, without octave shift. */
export const COBBLE_HIGHEST = 72;
const KEY_CHANNEL = 0;
const PAD_CHANNEL = 9;
const FIRST_PAD = 36;
const FIRST_KNOB = 20;
const ABSOLUTE_KNOBS = 4;

/** How the last four knobs, which turn without end, say how far: two's complement twice, offset, sign bit. */
const TURNS: readonly ((steps: number) => number)[] = [
  (steps) => (steps > 0 ? steps : 128 + steps),
  (steps) => (steps > 0 ? steps : 128 + steps),
  (steps) => 64 + steps,
  (steps) => (steps > 0 ? steps : 64 - steps),
];

/** A small keyboard: 25 keys on channel 1, eight pads on channel 10, four knobs with ends and four without. */
export class Cobble25 {
  readonly knobs = [64, 64, 64, 64, 0, 0, 0, 0];
  readonly padsDown = new Array<boolean>(8).fill(false);

  constructor(private readonly port: SimulatedInput) {}

  key(key: number, velocity: number): void {
    if (key < COBBLE_LOWEST || key > COBBLE_HIGHEST) return;
    this.port.emit(0x90 | KEY_CHANNEL, key, velocity);
  }

  /** A pad presses on while it is held: channel pressure comes behind the hit. */
  pad(pad: number, velocity: number): void {
    if (pad < 0 || pad > 7) return;
    this.padsDown[pad] = velocity > 0;
    this.port.emit(
      velocity > 0 ? 0x90 | PAD_CHANNEL : 0x80 | PAD_CHANNEL,
      FIRST_PAD + pad,
      velocity > 0 ? velocity : 64,
    );
    if (velocity > 0) this.port.emit(0xd0 | PAD_CHANNEL, Math.min(127, velocity + 10), 0);
    else this.port.emit(0xd0 | PAD_CHANNEL, 0, 0);
  }

  /** A knob with ends goes to a value; one without is turned by the difference. */
  knob(knob: number, value: number): void {
    if (knob < 0 || knob > 7 || value === this.knobs[knob]) return;
    if (knob < ABSOLUTE_KNOBS) {
      this.knobs[knob] = Math.min(127, Math.max(0, value));
      this.port.emit(0xb0, FIRST_KNOB + knob, this.knobs[knob]);
      return;
    }
    const steps = Math.min(15, Math.max(-15, value - this.knobs[knob]));
    this.knobs[knob] = value;
    this.port.emit(0xb0, FIRST_KNOB + knob, TURNS[knob - ABSOLUTE_KNOBS](steps) & 127);
  }
}
