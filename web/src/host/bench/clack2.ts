import type { SimulatedInput } from './simulatedInput';

const FIRST_CONTROLLER = 80;

/**
 * Two pedals, controllers 80 and 81. Momentary: 127 down and 0 up; latching (a switch at its back): the other value at
 * each press.
 */
export class Clack2 {
  readonly down = [false, false];
  readonly lit = [false, false];
  latching = false;

  constructor(private readonly port: SimulatedInput) {}

  move(pedal: number, down: boolean): void {
    if (this.down[pedal] === down || pedal > 1) return;
    this.down[pedal] = down;
    if (!this.latching) return this.port.emit(0xb0, FIRST_CONTROLLER + pedal, down ? 127 : 0);
    if (!down) return;
    this.lit[pedal] = !this.lit[pedal];
    this.port.emit(0xb0, FIRST_CONTROLLER + pedal, this.lit[pedal] ? 127 : 0);
  }

  setLatching(latching: boolean): void {
    this.latching = latching;
    this.lit.fill(false);
  }
}
