import type { PortListener } from '../ports/port';

/** An input of simulated gear: plugged in or not, it sends like any other port. */
export class SimulatedInput {
  private plugged = false;

  constructor(
    readonly name: string,
    private readonly listener: PortListener,
    private readonly nowMs: () => number,
  ) {}

  plug(plugged: boolean): void {
    if (this.plugged === plugged) return;
    this.plugged = plugged;
    this.listener.onInput({ name: this.name, origin: 'bench' }, plugged);
  }

  /** @hotpath */
  emit(status: number, data1: number, data2: number): void {
    if (this.plugged) this.listener.onMessage(this.name, status, data1, data2, this.nowMs());
  }
}
