import type { HandOver } from '../protocol';

/** How long messages took from their arrival to hand-over, over the last four thousand. */
export class HandOverTimes {
  private readonly times = new Float64Array(4096);
  private count = 0;

  /** @hotpath */
  add(ms: number): void {
    this.times[this.count++ % this.times.length] = ms;
  }

  summary(): Omit<HandOver, 'longestSliceMs'> {
    const kept = Math.min(this.count, this.times.length);
    const sorted = this.times.slice(0, kept).sort();
    const at = (share: number): number => (kept === 0 ? 0 : sorted[Math.min(kept - 1, Math.floor(kept * share))]);
    return { messages: this.count, medianMs: at(0.5), p99Ms: at(0.99) };
  }
}
