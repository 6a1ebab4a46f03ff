import { compressedDb } from '@rackle/core/show';

const ATTACK_S = 0.006;
const RELEASE_S = 0.18;
/** The level is looked at once in so many samples; in between the gain goes in a straight line. */
const STEP = 16;
const QUIET = 1e-6;
const toDb = (peak: number): number => 20 * Math.log10(Math.max(QUIET, peak));

/** Evens out loud and soft, both sides alike, without a delay. Nothing in `process` allocates or throws. */
export class Levelling {
  private readonly attack: number;
  private readonly release: number;
  private reductionDb = 0;
  private gain = 1;

  constructor(sampleRate: number) {
    this.attack = 1 - Math.exp(-STEP / (ATTACK_S * sampleRate));
    this.release = 1 - Math.exp(-STEP / (RELEASE_S * sampleRate));
  }

  /** One block, whose length is a multiple of 16. @param left and right null: silence */
  process(
    left: Float32Array | null,
    right: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
    { thresholdDb, ratio, makeUpDb }: { thresholdDb: number; ratio: number; makeUpDb: number },
  ): void {
    if (left === null) {
      this.reductionDb -= this.reductionDb * this.release;
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
      this.reductionDb += (asked - this.reductionDb) * (asked < this.reductionDb ? this.attack : this.release);
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
