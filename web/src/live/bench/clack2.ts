import type { SimulatedInput } from './simulatedInput';

const FIRST_CONTROLLER = 80;

/** Two momentary pedals: controllers 80 and 81, 127 down and 0 up. */
export class Clack2 {
  readonly down = [false, false];

  constructor(private readonly port: SimulatedInput) {}

  move(pedal: number, down: boolean): void {
    if (this.down[pedal] === down || pedal > 1) return;
    this.down[pedal] = down;
    this.port.emit(0xb0, FIRST_CONTROLLER + pedal, down ? 127 : 0);
  }
}
