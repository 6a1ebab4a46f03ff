/** How late something was, so many times; 0: in time. */
export interface Lateness {
  count: number;
  medianMs: number;
  p999Ms: number;
  longestMs: number;
}

/** How many ms something took, over the last so many times. */
export class Times {
  private readonly times: Float64Array;
  private count = 0;

  constructor(most: number) {
    this.times = new Float64Array(most);
  }

  /** @hotpath */
  add(ms: number): void {
    this.times[this.count++ % this.times.length] = ms;
  }

  /** How often it was, and what so many of all (0 to 1) did not exceed. */
  summary(): { count: number; within: (share: number) => number } {
    const kept = Math.min(this.count, this.times.length);
    const sorted = this.times.slice(0, kept).sort();
    return {
      count: this.count,
      within: (share) => (kept === 0 ? 0 : sorted[Math.min(kept - 1, Math.floor(kept * share))]),
    };
  }

  /** How late something was. */
  lateness(): Lateness {
    const { count, within } = this.summary();
    return { count, medianMs: within(0.5), p999Ms: within(0.999), longestMs: within(1) };
  }
}
