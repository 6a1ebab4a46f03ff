/** Of one rotor: how fast it turns, how heavy it is, how far it swings to and fro. */
interface RotorKind {
  slowHz: number;
  fastHz: number;
  /** Times the ramp. */
  inertia: number;
  /** Half of what its mouth comes nearer and goes away in a turn, as sound takes it, in seconds. */
  swingS: number;
  /** By so much it is louder in front, at full depth; its highs by more. */
  louder: number;
  highsLouder: number;
}

const HORN: RotorKind = { slowHz: 0.83, fastHz: 6.7, inertia: 1, swingS: 0.0004, louder: 0.4, highsLouder: 0.75 };
/** The drum turns the other way round. */
const DRUM: RotorKind = { slowHz: -0.67, fastHz: -5.8, inertia: 4, swingS: 0.00025, louder: 0.35, highsLouder: 0.35 };
/** How late both are on average: no less than the farthest of them swings. */
const MIDDLE_S = Math.max(HORN.swingS, DRUM.swingS);
const CROSSOVER_HZ = 800;
const HIGHS_HZ = 2500;
/** A rotor that comes to a stop is led to the front from here on, where both sides are alike. */
const LED_HZ = 0.25;
const LINE = 128;
/** After so many samples of silence nothing rings in it any more. */
const RINGS = 4096;
/** An exponential is there to 95 % after three times its constant. */
const CONSTANTS = 3;

/** A second-order section (Butterworth), in transposed direct form 2. */
class Section {
  private s1 = 0;
  private s2 = 0;
  private readonly b0: number;
  private readonly b1: number;
  private readonly a1: number;
  private readonly a2: number;

  constructor(sampleRate: number, type: 'low' | 'high') {
    const w = (2 * Math.PI * CROSSOVER_HZ) / sampleRate;
    const [cos, alpha] = [Math.cos(w), Math.sin(w) / Math.SQRT2];
    const side = type === 'low' ? 1 : -1;
    this.b0 = (1 - side * cos) / 2 / (1 + alpha);
    this.b1 = (side * (1 - side * cos)) / (1 + alpha);
    this.a1 = (-2 * cos) / (1 + alpha);
    this.a2 = (1 - alpha) / (1 + alpha);
  }

  run(x: number): number {
    const y = this.b0 * x + this.s1;
    this.s1 = this.b1 * x - this.a1 * y + this.s2;
    this.s2 = this.b0 * x - this.a2 * y;
    return y;
  }

  empty(): void {
    this.s1 = 0;
    this.s2 = 0;
  }
}

/** What one ear hears of one rotor: its share of the sound, late and loud as the mouth turns. */
class Ear {
  private readonly first: Section;
  private readonly second: Section;
  private readonly line = new Float64Array(LINE);
  private at = 0;
  private lows = 0;

  constructor(
    sampleRate: number,
    type: 'low' | 'high',
    private readonly smoothing: number,
  ) {
    this.first = new Section(sampleRate, type);
    this.second = new Section(sampleRate, type);
  }

  /** @param late in samples, at least 2 @param louder of all, as a factor @param highsLouder of the highs */
  run(x: number, late: number, louder: number, highsLouder: number): number {
    const { line } = this;
    this.at = (this.at + 1) % LINE;
    line[this.at] = this.second.run(this.first.run(x));
    const whole = Math.floor(late);
    const share = late - whole;
    const from = this.at - whole + LINE;
    // Hermite's cubic through four samples.
    const a = line[(from + 1) % LINE];
    const b = line[from % LINE];
    const c = line[(from - 1) % LINE];
    const d = line[(from - 2) % LINE];
    const slope = (c - a) / 2;
    const bend = a - 2.5 * b + 2 * c - d / 2;
    const turn = (d - a) / 2 + 1.5 * (b - c);
    const heard = ((turn * share + bend) * share + slope) * share + b;
    this.lows += (heard - this.lows) * this.smoothing;
    return this.lows * louder + (heard - this.lows) * highsLouder;
  }

  empty(): void {
    this.first.empty();
    this.second.empty();
    this.line.fill(0);
    this.lows = 0;
  }
}

/** Where a rotor is and how fast; its mouth as a point on a circle, 1 and 0 in front. */
class Rotor {
  cos = 1;
  sin = 0;
  private hz = 0;
  private turnCos = 1;
  private turnSin = 0;

  constructor(
    private readonly sampleRate: number,
    readonly kind: RotorKind,
  ) {}

  /** At its speed at once, as where it begins. */
  stand(speed: number): void {
    this.hz = this.meantHz(speed);
  }

  /** For the next samples: goes towards what is asked, as quickly as its weight lets it. */
  drive(speed: number, rampS: number, samples: number): void {
    const constantS = (rampS * this.kind.inertia) / CONSTANTS;
    this.hz += (this.meantHz(speed) - this.hz) * (1 - Math.exp(-samples / (constantS * this.sampleRate)));
    const w = (2 * Math.PI * this.hz) / this.sampleRate;
    this.turnCos = Math.cos(w);
    this.turnSin = Math.sin(w);
    // What rounding does to its length is taken back.
    const length = Math.hypot(this.cos, this.sin);
    this.cos /= length;
    this.sin /= length;
  }

  turn(): void {
    const cos = this.cos * this.turnCos - this.sin * this.turnSin;
    this.sin = this.sin * this.turnCos + this.cos * this.turnSin;
    this.cos = cos;
  }

  /** All at once, where nothing is heard of it. */
  turnBy(samples: number): void {
    const angle = Math.atan2(this.sin, this.cos) + (2 * Math.PI * this.hz * samples) / this.sampleRate;
    this.cos = Math.cos(angle);
    this.sin = Math.sin(angle);
  }

  private meantHz(speed: number): number {
    const { slowHz, fastHz } = this.kind;
    if (speed >= 50) return slowHz + ((speed - 50) / 50) * (fastHz - slowHz);
    if (speed > 0) return (speed / 50) * slowHz;
    if (Math.abs(this.hz) > LED_HZ) return 0;
    const away = Math.atan2(this.sin, this.cos) / (2 * Math.PI);
    return Math.min(LED_HZ, Math.max(-LED_HZ, -away));
  }
}

/** What a rotary speaker is set to: speed and depth in per cent, the ramp in seconds from slow to fast. */
export interface RotarySettings {
  speed: number;
  rampS: number;
  depth: number;
}

/**
 * A rotary speaker: what is above 800 Hz leaves by a horn, what is below by a drum that is slower to change and turns
 * the other way; two ears to either side of it hear each nearer and farther, louder and softer, brighter and darker.
 * The two ways add up to an allpass (Linkwitz–Riley of the fourth order). Each side of a stereo sound has its own ear.
 * Nothing in `process` allocates or throws.
 */
export class Rotating {
  private readonly rotors: readonly [horn: Rotor, drum: Rotor];
  private readonly left: readonly [horn: Ear, drum: Ear];
  private readonly right: readonly [horn: Ear, drum: Ear];
  private silent = RINGS;
  private hasBegun = false;
  /** As of the last block, 0–1: from there it goes in a straight line. */
  private depth = 0;

  constructor(private readonly sampleRate: number) {
    const smoothing = 1 - Math.exp((-2 * Math.PI * HIGHS_HZ) / sampleRate);
    const ears = (): [Ear, Ear] => [new Ear(sampleRate, 'high', smoothing), new Ear(sampleRate, 'low', smoothing)];
    this.rotors = [new Rotor(sampleRate, HORN), new Rotor(sampleRate, DRUM)];
    this.left = ears();
    this.right = ears();
  }

  /** One block. @param left and right null: silence */
  process(
    left: Float32Array | null,
    right: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
    { speed, rampS, depth }: RotarySettings,
  ): void {
    const length = outLeft.length;
    outLeft.fill(0);
    outRight.fill(0);
    for (let i = 0; i < 2; i++) {
      if (!this.hasBegun) this.rotors[i].stand(speed);
      this.rotors[i].drive(speed, rampS, length);
    }
    if (!this.hasBegun) this.depth = depth / 100;
    this.hasBegun = true;
    this.silent = left === null ? this.silent + length : 0;
    if (this.silent > RINGS) {
      this.depth = depth / 100;
      return this.turnUnheard(length);
    }
    for (let way = 0; way < 2; way++)
      this.hear(this.rotors[way], way, depth / 100, left, right ?? left, outLeft, outRight);
    this.depth = depth / 100;
  }

  private turnUnheard(length: number): void {
    if (this.silent <= RINGS + length)
      for (let way = 0; way < 2; way++) {
        this.left[way].empty();
        this.right[way].empty();
      }
    for (let way = 0; way < 2; way++) this.rotors[way].turnBy(length);
  }

  private hear(
    rotor: Rotor,
    way: number,
    depth: number,
    left: Float32Array | null,
    right: Float32Array | null,
    outLeft: Float32Array,
    outRight: Float32Array,
  ): void {
    const { swingS, louder, highsLouder } = rotor.kind;
    // A whole number: between two samples the highest would be softer.
    const middle = Math.ceil(MIDDLE_S * this.sampleRate) + 2;
    const farthest = swingS * this.sampleRate;
    const step = (depth - this.depth) / outLeft.length;
    let now = this.depth;
    const leftEar = this.left[way];
    const rightEar = this.right[way];
    for (let i = 0; i < outLeft.length; i++) {
      rotor.turn();
      now += step;
      const near = rotor.sin * now;
      const swing = farthest * near;
      // As loud as what comes in, over a turn.
      const level = 1 / Math.sqrt(1 + (now * louder) ** 2 / 2);
      outRight[i] +=
        level * rightEar.run(right === null ? 0 : right[i], middle - swing, 1 + louder * near, 1 + highsLouder * near);
      outLeft[i] +=
        level * leftEar.run(left === null ? 0 : left[i], middle + swing, 1 - louder * near, 1 - highsLouder * near);
    }
  }
}
