/** How long a gain takes to come down before a peak, in seconds; the rest of what it sees ahead is the interpolation. */
const DOWN_S = 0.00085;
/** How fast it goes up again: by e in so many seconds. */
const UP_S = 0.09;
/** Between two samples the signal is looked at so many times: a peak there is one too (ITU-R BS.1770, annex 2). */
const BETWEEN = [0.25, 0.5, 0.75];
const TAPS = 24;
const KAISER_BETA = 6;
const MOST_BLOCK = 4096;
/** Nearer to 1 than this a gain is 1: what passes is left as it is. */
const SAME = 1e-6;

/** Modified Bessel function of the first kind, order 0. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 30; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Weights of the samples around a place between the two in the middle. */
function weightsAt(share: number): Float64Array {
  return Float64Array.from({ length: TAPS }, (_, i) => {
    const x = i - (TAPS / 2 - 1) - share;
    const edge = x / (TAPS / 2);
    return (
      (Math.sin(Math.PI * x) / (Math.PI * x)) * (bessel(KAISER_BETA * Math.sqrt(1 - edge * edge)) / bessel(KAISER_BETA))
    );
  });
}

const WEIGHTS = BETWEEN.map(weightsAt);
/** By at most so much anything between samples is above the highest of them. */
const MOST_ABOVE = Math.max(...WEIGHTS.map((weights) => weights.reduce((sum, weight) => sum + Math.abs(weight), 0)));

const downsOf = (sampleRate: number): number => Math.max(4, Math.round(sampleRate * DOWN_S));
/** By so many samples what comes out is later. */
export const limitingDelay = (sampleRate: number): number => downsOf(sampleRate) + TAPS / 2;

/**
 * Keeps two sides below a ceiling, between the samples too, by a gain that is down before the peak comes. What stays
 * below passes as it is, a little later. Nothing in `process` allocates or throws.
 */
export class Limiting {
  private readonly delay: number;
  private readonly downs: number;
  private readonly up: number;
  /** What came in, both sides; the newest at `at`. */
  private readonly lines: readonly Float64Array[];
  private readonly mask: number;
  private at = 0;
  /** Gains asked for by the last samples that are still to count, the least of those behind each: a queue. */
  private readonly askedGain: Float64Array;
  private readonly askedAt: Float64Array;
  private first = 0;
  private count = 0;
  private clock = 0;
  private least = 1;
  /** The last gains of which the mean is taken, and their sum. */
  private readonly gains: Float64Array;
  private gainAt = 0;
  private sum: number;
  /** Samples since when every gain has been 1. */
  private openFor = 0;
  /** Samples since the last that was loud enough for its neighbourhood to be looked at. */
  private lowFor = TAPS;
  private lastPeak = 0;

  constructor(sampleRate: number) {
    this.downs = downsOf(sampleRate);
    this.up = 1 - Math.exp(-1 / (UP_S * sampleRate));
    this.delay = limitingDelay(sampleRate);
    const length = 2 ** Math.ceil(Math.log2(this.delay + TAPS + MOST_BLOCK));
    this.lines = [new Float64Array(length), new Float64Array(length)];
    this.mask = length - 1;
    this.askedGain = new Float64Array(this.downs + 2);
    this.askedAt = new Float64Array(this.downs + 2);
    this.gains = new Float64Array(this.downs).fill(1);
    this.sum = this.downs;
    this.openFor = this.downs;
  }

  /**
   * One block.
   * @param left and right null: silence
   * @param ceiling as a peak, above 0
   */
  process(
    left: Float32Array | null,
    right: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
    ceiling: number,
  ): void {
    const [lineLeft, lineRight] = this.lines;
    const { mask } = this;
    for (let i = 0; i < outLeft.length; i++) {
      const at = (this.at = (this.at + 1) & mask);
      lineLeft[at] = left === null ? 0 : left[i];
      lineRight[at] = right === null ? lineLeft[at] : right[i];
      const gain = this.gainFor(this.asked(ceiling));
      const from = (at - this.delay) & mask;
      outLeft[i] = lineLeft[from] * gain;
      outRight[i] = lineRight[from] * gain;
    }
  }

  /** The gain that the newest sample whose neighbours have come asks for. */
  private asked(ceiling: number): number {
    const { lines, at, mask } = this;
    const newest = Math.max(Math.abs(lines[0][at]), Math.abs(lines[1][at]));
    this.lowFor = newest * MOST_ABOVE > ceiling ? 0 : this.lowFor + 1;
    if (this.lowFor >= TAPS) {
      this.lastPeak = 0;
      return 1;
    }
    const middle = (at - TAPS / 2) & mask;
    let peak = Math.max(Math.abs(lines[0][middle]), Math.abs(lines[1][middle]));
    for (let side = 0; side < 2; side++)
      for (let place = 0; place < WEIGHTS.length; place++)
        peak = Math.max(peak, this.between(lines[side], WEIGHTS[place]));
    // What lies between two samples counts for both.
    const counts = Math.max(peak, this.lastPeak);
    this.lastPeak = peak;
    return counts > ceiling ? ceiling / counts : 1;
  }

  private between(line: Float64Array, weights: Float64Array): number {
    const { at, mask } = this;
    let sum = 0;
    for (let i = 0; i < TAPS; i++) sum += weights[i] * line[(at - TAPS + 1 + i) & mask];
    return Math.abs(sum);
  }

  /** The least gain asked for within the time ahead, going up slowly, as the mean over that time. */
  private gainFor(asked: number): number {
    const { downs, gains } = this;
    if (asked === 1 && this.count === 0 && this.openFor >= downs) return 1;
    const least = this.leastOf(asked);
    this.least = least < this.least ? least : this.least + (least - this.least) * this.up;
    if (this.least > 1 - SAME) this.least = 1;
    this.sum += this.least - gains[this.gainAt];
    gains[this.gainAt] = this.least;
    this.gainAt = (this.gainAt + 1) % downs;
    this.openFor = this.least === 1 ? this.openFor + 1 : 0;
    if (this.openFor >= downs) this.sum = downs;
    return Math.min(1, this.sum / downs);
  }

  private leastOf(asked: number): number {
    const { askedGain, askedAt } = this;
    const size = askedGain.length;
    this.clock++;
    if (this.count > 0 && askedAt[this.first] <= this.clock - size + 1) {
      this.first = (this.first + 1) % size;
      this.count--;
    }
    while (this.count > 0 && askedGain[(this.first + this.count - 1) % size] >= asked) this.count--;
    if (asked < 1) {
      const place = (this.first + this.count++) % size;
      askedGain[place] = asked;
      askedAt[place] = this.clock;
    }
    return this.count > 0 ? askedGain[this.first] : 1;
  }
}
