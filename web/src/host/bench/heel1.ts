import type { SimulatedInput } from './simulatedInput';

const EXPRESSION = 11;

/**
 * An expression pedal wired the other way round: heel down sends 127, toe down 0. Once in a while it has to be told
 * apart from a broken one.
 */
export class Heel1 {
  /** 0 heel down, 1 toe down. */
  stands = 0;
  private sent = 127;

  constructor(private readonly port: SimulatedInput) {}

  move(stands: number): void {
    this.stands = Math.min(1, Math.max(0, stands));
    const value = Math.round(127 * (1 - this.stands));
    if (value === this.sent) return;
    this.sent = value;
    this.port.emit(0xb0, EXPRESSION, value);
  }
}
