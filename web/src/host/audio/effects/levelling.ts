import { compressedDb } from '@rackle/core/show';

/** The level is looked at once in so many samples; in between the gain goes in a straight line. */
const STEP = 16;
const QUIET = 1e-6;
const toDb = (peak: number): number => 20 * Math.log10(Math.max(QUIET, peak));

/** What a compressor is set to. */
export interface LevellingSettings {
  thresholdDb: number;
  ratio: number;
  /** How long it takes to take hold, 0: at once; and to let go. */
  attackMs: number;
  releaseMs: number;
  makeUpDb: number;
}

/** Evens out loud and soft, both sides alike, without a delay. Nothing in `process` allocates or throws. */
export class Levelling {
  private reductionDb = 0;
  private gain = 1;

  constructor(private readonly sampleRate: number) {}

  /** What of a way is gone after one step. */
  private share(ms: number): number {
    return 1 - Math.exp((-STEP * 1000) / (ms * this.sampleRate));
  }

  /** One block, whose length is a multiple of 16. @param left and right null: silence */
  process(
    left: Float32Array | null,
    right: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
    { thresholdDb, ratio, attackMs, releaseMs, makeUpDb }: LevellingSettings,
  ): void {
    const [attack, release] = [this.share(attackMs), this.share(releaseMs)];
    if (left === null) {
      this.reductionDb -= this.reductionDb * release;
      outLeft.fill(0);
      outRight.fill(0);
      return;
    }
    const other = right ?? left;
    for (let from = 0; from < outLeft.length; from += STEP) {
      let peak = 0;
      for (let i = from; i < from + STEP; i++) peak = Math.max(peak, Math.abs(left[i]), Math.abs(other[i]));
      const inDb = toDb(peak);
      const asked = compressedDb(inDb, thresholdDb, ratio) - inDb;
      this.reductionDb += (asked - this.reductionDb) * (asked < this.reductionDb ? attack : release);
      const next = 10 ** ((this.reductionDb + makeUpDb) / 20);
      const step = (next - this.gain) / STEP;
      for (let i = from; i < from + STEP; i++) {
        this.gain += step;
        outLeft[i] = left[i] * this.gain;
        outRight[i] = other[i] * this.gain;
      }
    }
  }
}
