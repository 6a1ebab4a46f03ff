import type { SimulatedInput } from './simulatedInput';

/** Six pedals and pages of six programs. It does not send the program again that it sent last. */
export class Treadle6 {
  page = 0;
  lit: number | null = null;

  constructor(private readonly port: SimulatedInput) {}

  pedal(pedal: number): void {
    const program = this.page * 6 + pedal;
    if (program === this.lit || program > 127) return;
    this.lit = program;
    this.port.emit(0xc0, program, 0);
  }

  turn(direction: 1 | -1): void {
    this.page = Math.min(21, Math.max(0, this.page + direction));
  }
}
