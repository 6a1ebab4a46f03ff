import type { SimulatedInput } from './simulatedInput';

const HIGHEST = 9;
const FIRST_REPEAT_MS = 500;
const REPEAT_MS = 150;

/** Two switches that step a counter of its own (0–9, wrapping) and send it as a program; held down they repeat. */
export class Updown2 {
  counter = 0;
  private held: 1 | -1 | 0 = 0;
  private cancel: (() => void) | null = null;

  constructor(
    private readonly port: SimulatedInput,
    private readonly after: (delayMs: number, act: () => void) => () => void,
  ) {}

  press(direction: 1 | -1): void {
    this.release();
    this.held = direction;
    this.step();
    this.cancel = this.after(FIRST_REPEAT_MS, () => this.repeat());
  }

  release(): void {
    this.held = 0;
    this.cancel?.();
    this.cancel = null;
  }

  private repeat(): void {
    if (this.held === 0) return;
    this.step();
    this.cancel = this.after(REPEAT_MS, () => this.repeat());
  }

  private step(): void {
    this.counter = (this.counter + this.held + HIGHEST + 1) % (HIGHEST + 1);
    this.port.emit(0xc0, this.counter, 0);
  }
}
