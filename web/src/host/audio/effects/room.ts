/** Lengths of the lines in samples at 44.1 kHz: primes from 23 to 73 ms, so that no echoes fall together. */
const LINES = [1031, 1163, 1307, 1453, 1601, 1741, 1889, 2029, 2179, 2333, 2477, 2621, 2767, 2909, 3061, 3203];
const COUNT = LINES.length;
/** The same for the diffusers of each side, which make one echo many. */
const DIFFUSERS = [
  [113, 239, 389, 557],
  [131, 257, 401, 577],
];
const DIFFUSION = 0.62;
/** How much sooner high tones die away than low ones. */
const DULL_HZ = 5200;
/** Lines whose length sways a little, so that no single tone rings out of the tail. */
const SWAYING = 6;
const SWAY_SAMPLES = 7;
const SWAY_HZ = 0.43;
/** How much of a line goes through its dulling. */
const DULL_SHARE = 0.5;
/** Loudness: a longer ring is as much louder as a room rendered from noise of equal energy would be. Measured. */
const LEVEL = 0.086;
const LOUDER_BY_RING = 0.0715;
const GLIDE_S = 0.05;
/** −140 dB: below this it is still. */
const STILL = 1e-7;

/**
 * How long a room of a length rings, in seconds: until it has died away by 60 dB (RT60). Long rooms are not rung out to
 * their end.
 */
export const ringSeconds = (seconds: number): number => (Math.log(1000) * Math.log(seconds + 1)) / Math.log(200);

/** Longest pause before a room answers, in seconds. */
export const LONGEST_PRE_DELAY_S = 0.1;

/**
 * A room: sixteen delay lines that feed each other through a matrix that keeps all energy (Householder), behind
 * diffusers; each line loses as much as its length of the ring. One that is still costs nothing. Everything is allocated
 * at the start: nothing in `process` allocates or throws.
 */
export class Room {
  private readonly lines: Float32Array[];
  private readonly at = new Int32Array(COUNT);
  private readonly damped = new Float64Array(COUNT);
  private readonly read = new Float64Array(COUNT);
  /** Gain of each line, and what it glides to. */
  private readonly gain = new Float64Array(COUNT);
  private readonly gainTo = new Float64Array(COUNT);
  private readonly diffusers: Float32Array[][];
  private readonly diffuserAt: Int32Array[];
  private readonly before: Float32Array[];
  private beforeAt = 0;
  private readonly sway = new Float64Array(SWAYING);
  private swayPhase = 0;
  private readonly damping: number;
  private readonly glide: number;
  private level = 0;
  private levelTo = 0;
  /** Samples in a row that were still. */
  private stillFor = Infinity;
  private readonly longest: number;

  constructor(
    private readonly sampleRate: number,
    seconds: number,
    preDelayS: number,
  ) {
    const scale = sampleRate / 44_100;
    this.lines = LINES.map((length) => new Float32Array(Math.round(length * scale) + 2 * SWAY_SAMPLES));
    this.diffusers = DIFFUSERS.map((side) => side.map((length) => new Float32Array(Math.round(length * scale))));
    this.diffuserAt = DIFFUSERS.map((side) => new Int32Array(side.length));
    const pause = Math.max(1, Math.round(Math.min(LONGEST_PRE_DELAY_S, preDelayS) * sampleRate));
    this.before = [new Float32Array(pause), new Float32Array(pause)];
    this.longest = pause + 2 * Math.max(...this.lines.map(({ length }) => length));
    this.damping = DULL_SHARE * Math.exp((-2 * Math.PI * DULL_HZ) / sampleRate);
    this.glide = 1 - Math.exp(-1 / (GLIDE_S * sampleRate));
    this.setSeconds(seconds);
    this.gain.set(this.gainTo);
    this.level = this.levelTo;
  }

  /** Another length; what rings glides there. */
  setSeconds(seconds: number): void {
    const ringS = ringSeconds(seconds);
    for (let i = 0; i < COUNT; i++) {
      const lengthS = (this.lines[i].length - SWAY_SAMPLES) / this.sampleRate;
      this.gainTo[i] = 10 ** ((-3 * lengthS) / ringS);
    }
    this.levelTo = LEVEL * (1 + LOUDER_BY_RING * ringS ** 2);
  }

  /** Whether nothing rings in it. */
  get isStill(): boolean {
    return this.stillFor > this.longest;
  }

  /**
   * The room's answer to what comes in, all wet. @param inLeft and inRight null: nothing comes in; outputs hold zeros at
   * first. @hotpath
   */
  process(
    inLeft: Float32Array | null,
    inRight: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
  ): void {
    const count = outLeft.length;
    if (inLeft === null && this.isStill) return;
    this.swayLines(count);
    const { gain, gainTo, glide } = this;
    let loudest = 0;
    for (let n = 0; n < count; n++) {
      const left = inLeft === null ? 0 : inLeft[n];
      const right = inRight === null ? left : inRight[n];
      this.level += (this.levelTo - this.level) * glide;
      const diffuseLeft = this.diffuse(0, this.paused(0, left));
      const diffuseRight = this.diffuse(1, this.paused(1, right));
      if (++this.beforeAt >= this.before[0].length) this.beforeAt = 0;
      let sum = 0;
      for (let i = 0; i < COUNT; i++) {
        gain[i] += (gainTo[i] - gain[i]) * glide;
        sum += this.readLine(i);
      }
      const share = (sum * 2) / COUNT;
      let answerLeft = 0;
      let answerRight = 0;
      for (let i = 0; i < COUNT; i++) {
        const value = this.read[i];
        const fed = this.read[(i + 1) % COUNT] - share + ((i & 1) === 0 ? diffuseLeft : diffuseRight);
        this.writeLine(i, fed);
        const signed = (i & 2) === 0 ? value : -value;
        if ((i & 1) === 0) answerLeft += signed;
        else answerRight += signed;
      }
      outLeft[n] = (answerLeft + diffuseLeft) * this.level;
      outRight[n] = (answerRight + diffuseRight) * this.level;
      const peak = Math.abs(sum) + Math.abs(left) + Math.abs(right) + Math.abs(answerLeft);
      if (peak > loudest) loudest = peak;
    }
    this.settle(count, loudest);
  }

  private settle(count: number, loudest: number): void {
    const wasStill = this.isStill;
    this.stillFor = loudest > STILL ? 0 : this.stillFor + count;
    if (this.isStill && !wasStill) this.clear();
  }

  /** What came in a pause ago; what comes in now takes its place. */
  private paused(side: number, value: number): number {
    const line = this.before[side];
    const { beforeAt } = this;
    const then = line[beforeAt];
    line[beforeAt] = value;
    return then;
  }

  /** What is left below hearing goes: numbers near nothing are slow to reckon with. */
  private clear(): void {
    for (const line of this.lines) line.fill(0);
    for (const side of this.diffusers) for (const line of side) line.fill(0);
    for (const line of this.before) line.fill(0);
    this.damped.fill(0);
  }

  private swayLines(count: number): void {
    this.swayPhase += (2 * Math.PI * SWAY_HZ * count) / this.sampleRate;
    if (this.swayPhase > 2 * Math.PI) this.swayPhase -= 2 * Math.PI;
    for (let k = 0; k < SWAYING; k++)
      this.sway[k] = SWAY_SAMPLES * (1 + Math.sin(this.swayPhase + (k * 2 * Math.PI) / SWAYING)) * 0.5;
  }

  /** The oldest sample of a line, dulled and weakened. */
  private readLine(i: number): number {
    const line = this.lines[i];
    const { length } = line;
    let value: number;
    if (i < SWAYING) {
      const back = this.at[i] + this.sway[i];
      const whole = Math.floor(back);
      const first = whole % length;
      const second = (whole + 1) % length;
      value = line[first] + (line[second] - line[first]) * (back - whole);
    } else value = line[(this.at[i] + SWAY_SAMPLES) % length];
    const damped = value + (this.damped[i] - value) * this.damping;
    this.damped[i] = damped;
    return (this.read[i] = damped * this.gain[i]);
  }

  private writeLine(i: number, value: number): void {
    const line = this.lines[i];
    line[this.at[i]] = value;
    if (++this.at[i] >= line.length) this.at[i] = 0;
  }

  private diffuse(side: number, input: number): number {
    const lines = this.diffusers[side];
    const at = this.diffuserAt[side];
    let value = input;
    for (let d = 0; d < lines.length; d++) {
      const line = lines[d];
      const delayed = line[at[d]];
      const fed = value + delayed * DIFFUSION;
      line[at[d]] = fed;
      if (++at[d] >= line.length) at[d] = 0;
      value = delayed - fed * DIFFUSION;
    }
    return value;
  }
}
