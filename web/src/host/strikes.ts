import type { Strike } from '../protocol';

const KEPT = 100;

/** The last keys that were struck, in memory made beforehand. */
export class Strikes {
  private readonly keys = new Uint8Array(KEPT);
  private readonly velocities = new Uint8Array(KEPT);
  private count = 0;
  private told = 0;

  /** @hotpath */
  add(key: number, velocity: number): void {
    const at = this.count++ % KEPT;
    this.keys[at] = key;
    this.velocities[at] = velocity;
  }

  /** The last hundred, oldest first; null when nothing was struck since the last time. */
  news(): Strike[] | null {
    if (this.told === this.count) return null;
    this.told = this.count;
    const kept = Math.min(KEPT, this.count);
    return Array.from({ length: kept }, (_, i) => {
      const serial = this.count - kept + i;
      return { serial, key: this.keys[serial % KEPT], velocity: this.velocities[serial % KEPT] };
    });
  }
}
