import type { SimulatedInput } from './simulatedInput';

/** Pedals in its row. */
export const TREADLE_PEDALS = 6;
/** Pages of program numbers. */
export const TREADLE_PAGES = 22;

/** What a pedal has been programmed to send. */
export interface TreadleButton {
  page: number;
  button: number;
  channel: number;
  msb: number | null;
  lsb: number | null;
  program: number;
}

/**
 * Six pedals and pages of six programs, which can be written into it. It does not send the address again that it sent
 * last.
 */
export class Treadle6 {
  page = 0;
  lit: number | null = null;
  private written = new Map<number, TreadleButton>();
  private lastSent = '';

  constructor(private readonly port: SimulatedInput) {}

  /** Page and pedal from 1; what is not written sends its own number, as it came from the factory. */
  write(buttons: readonly TreadleButton[]): void {
    this.written = new Map(buttons.map((button) => [(button.page - 1) * TREADLE_PEDALS + button.button - 1, button]));
    this.lit = null;
    this.lastSent = '';
  }

  /** What has been written into it. */
  get buttons(): TreadleButton[] {
    return [...this.written.values()];
  }

  get isWritten(): boolean {
    return this.written.size > 0;
  }

  /** What a pedal of the present page sends, from 0; null: nothing. */
  button(pedal: number): TreadleButton | null {
    const place = this.page * TREADLE_PEDALS + pedal;
    if (this.written.size > 0) return this.written.get(place) ?? null;
    return place > 127
      ? null
      : { page: this.page + 1, button: pedal + 1, channel: 1, msb: null, lsb: null, program: place };
  }

  pedal(pedal: number): void {
    const button = this.button(pedal);
    if (!button) return;
    const address = `${button.channel} ${button.msb} ${button.lsb} ${button.program}`;
    if (address === this.lastSent) return;
    this.lastSent = address;
    this.lit = this.page * TREADLE_PEDALS + pedal;
    const channel = button.channel - 1;
    if (button.msb !== null) this.port.emit(0xb0 | channel, 0, button.msb);
    if (button.lsb !== null) this.port.emit(0xb0 | channel, 32, button.lsb);
    this.port.emit(0xc0 | channel, button.program, 0);
  }

  turn(direction: 1 | -1): void {
    this.page = Math.min(TREADLE_PAGES - 1, Math.max(0, this.page + direction));
  }
}
