import type { SimulatedInput } from './simulatedInput';

const FOOT = 4;
const EVERY_MS = 70;

/** An old pedal whose wiper trembles: at rest it goes on sending, one or two steps to and fro. */
export class Creaker {
  stands = 52;
  trembles = false;
  private turn = 0;
  private cancel: (() => void) | null = null;

  constructor(
    private readonly port: SimulatedInput,
    private readonly after: (delayMs: number, act: () => void) => () => void,
  ) {}

  move(value: number): void {
    const next = Math.min(127, Math.max(0, Math.round(value)));
    if (next === this.stands) return;
    this.stands = next;
    this.port.emit(0xb0, FOOT, next);
  }

  wake(trembles: boolean): void {
    this.trembles = trembles;
    this.cancel?.();
    this.cancel = null;
    if (trembles) this.tremble();
  }

  private tremble(): void {
    this.turn++;
    this.port.emit(
      0xb0,
      FOOT,
      Math.min(127, Math.max(0, this.stands + (this.turn % 2 === 0 ? 0 : 1 + (this.turn % 3 === 0 ? 1 : 0)))),
    );
    this.cancel = this.after(EVERY_MS, () => this.tremble());
  }
}
