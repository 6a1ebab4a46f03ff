const LONGEST_MS = 2000;
const SHORTEST_MS = 150;
const KEPT = 4;

/** Tempo from taps: the mean of the last few gaps. */
export class Taps {
  private readonly gapsMs = new Float64Array(KEPT);
  private count = 0;
  private lastMs = -Infinity;

  /** @returns quarter notes a minute, 20 to 400; 0 after a first tap. */
  tap(atMs: number): number {
    const gapMs = atMs - this.lastMs;
    this.lastMs = atMs;
    if (gapMs > LONGEST_MS || gapMs < SHORTEST_MS) {
      this.count = 0;
      return 0;
    }
    this.gapsMs[this.count++ % KEPT] = gapMs;
    const kept = Math.min(this.count, KEPT);
    let sum = 0;
    for (let i = 0; i < kept; i++) sum += this.gapsMs[i];
    return Math.min(400, Math.max(20, (60_000 * kept) / sum));
  }
}
