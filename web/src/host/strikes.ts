import type { CompiledStep } from '@rackle/core/engine';
import type { Strike } from '../protocol';

const KEPT = 100;

/** The last keys that were struck, in memory made beforehand. */
export class Strikes {
  private readonly keys = new Uint8Array(KEPT);
  private readonly velocities = new Uint8Array(KEPT);
  private readonly devices = new Array<string>(KEPT).fill('');
  /** Where nothing sounded for it; null: something did. */
  private readonly silentIn = new Array<CompiledStep | null>(KEPT).fill(null);
  private count = 0;
  private told = 0;

  /** @hotpath */
  add(device: string, key: number, velocity: number, silentIn: CompiledStep | null): void {
    const at = this.count++ % KEPT;
    this.keys[at] = key;
    this.velocities[at] = velocity;
    this.devices[at] = device;
    this.silentIn[at] = silentIn;
  }

  /** The last hundred, oldest first; null when nothing was struck since the last time. */
  news(): Strike[] | null {
    if (this.told === this.count) return null;
    this.told = this.count;
    const kept = Math.min(KEPT, this.count);
    return Array.from({ length: kept }, (_, i) => {
      const serial = this.count - kept + i;
      const at = serial % KEPT;
      const step = this.silentIn[at];
      return {
        serial,
        key: this.keys[at],
        velocity: this.velocities[at],
        silent: step && { device: this.devices[at], songId: step.patch.songId, patchId: step.patch.patchId },
      };
    });
  }
}
