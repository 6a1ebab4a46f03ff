import type { CompiledOffset } from '../compile/compiled';

/** More is no delay of a sound device that anybody plays through. */
const MOST_MS = 100;

/** By how much later than their time the timeline's messages leave, by output. */
export class PortOffsets {
  private offsets: readonly CompiledOffset[] = [];
  private soundMs = 0;
  private ms = new Float64Array(0);
  /** Whether any output has one. */
  areAny = false;

  take(offsets: readonly CompiledOffset[]): void {
    if (offsets === this.offsets) return;
    this.offsets = offsets;
    this.settle();
  }

  /** What sounds here is heard so much later than its message. */
  soundIsLater(ms: number): void {
    this.soundMs = Number.isFinite(ms) ? Math.min(MOST_MS, Math.max(0, ms)) : 0;
    this.settle();
  }

  private settle(): void {
    this.ms = new Float64Array(Math.max(0, ...this.offsets.map(({ destination }) => destination + 1)));
    for (const { destination, offsetMs } of this.offsets)
      if (destination >= 0) this.ms[destination] = offsetMs ?? this.soundMs;
    this.areAny = this.ms.some((ms) => ms > 0);
  }

  /** In ms. @hotpath */
  of(destination: number): number {
    return destination < this.ms.length ? this.ms[destination] : 0;
  }
}
