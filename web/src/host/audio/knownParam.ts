/** Points of a curve for each second that it takes; and never fewer or more than these. */
const POINTS_PER_S = 3000;
const [FEWEST_POINTS, MOST_POINTS] = [16, 512];

/**
 * A parameter of a node with a memory of where it was sent: it goes on from the value and the slope that hold then,
 * without asking the node (whose own `value` is stale while nothing is drawn through it), and comes to rest without a
 * corner: a corner in a level is heard as a click.
 */
export class KnownParam {
  private from: number;
  private to: number;
  /** At `from`, over the whole way. */
  private slope = 0;
  private startS = -Infinity;
  private lengthS = 0;
  /** It stays where it was for so long before it goes. */
  private holdS = 0;
  /** From and to are logarithms. */
  private byRatio = false;
  private goal: number;

  constructor(
    private readonly param: AudioParam,
    value: number,
  ) {
    param.value = value;
    this.from = this.to = this.goal = value;
  }

  /** Where it stands at a time of the context, in seconds. */
  at(nowS: number): number {
    return this.outOf(this.place(nowS));
  }

  /** Where it is sent. */
  get target(): number {
    return this.goal;
  }

  private outOf(value: number): number {
    return this.byRatio ? Math.exp(value) : value;
  }

  private share(nowS: number): number {
    return this.lengthS > 0 ? Math.min(1, Math.max(0, (nowS - this.startS - this.holdS) / this.lengthS)) : 1;
  }

  private place(nowS: number): number {
    return placeOn(this.share(nowS), this.from, this.slope, this.to);
  }

  /** By how much it moves in a second. */
  private speed(nowS: number): number {
    const t = this.share(nowS);
    if (t <= 0 || t >= 1) return 0;
    const { from, to, slope } = this;
    return (6 * t * (1 - t) * (to - from) + (3 * t * t - 4 * t + 1) * slope) / this.lengthS;
  }

  /**
   * Goes to a value within a time (0: at once); by ratio: frequencies, above 0.
   * @param holdS how long it waits before; on its way it does not
   */
  go(value: number, rampS: number, nowS: number, byRatio = false, holdS = 0): void {
    if (value === this.goal) return;
    const { param } = this;
    const isSameWay = byRatio === this.byRatio;
    const now = this.at(nowS);
    const from = byRatio ? Math.log(now) : now;
    const to = byRatio ? Math.log(value) : value;
    const speed = isSameWay ? this.speed(nowS) : 0;
    const [waitS, lengthS] = speed === 0 ? [holdS, rampS] : [0, rampS + holdS];
    const moving = speed * lengthS;
    const way = to - from;
    // Never past where it goes.
    const slope = moving * way > 0 ? Math.sign(way) * Math.min(Math.abs(moving), 3 * Math.abs(way)) : 0;
    Object.assign(this, { from, to, slope, startS: nowS, holdS: waitS, lengthS, byRatio, goal: value });
    param.cancelScheduledValues(nowS);
    if (rampS <= 0) param.setValueAtTime(value, nowS);
    else param.setValueCurveAtTime(this.curve(), nowS, waitS + lengthS);
  }

  private curve(): Float32Array {
    const { startS, holdS, lengthS } = this;
    const wholeS = holdS + lengthS;
    const points = Math.min(MOST_POINTS, Math.max(FEWEST_POINTS, Math.ceil(wholeS * POINTS_PER_S)));
    return Float32Array.from({ length: points }, (_, i) => this.at(startS + (wholeS * i) / (points - 1)));
  }
}

/** A cubic from a value with a slope to another, at which it is level. */
const placeOn = (t: number, from: number, slope: number, to: number): number =>
  from + t * t * (3 - 2 * t) * (to - from) + t * (1 - t) * (1 - t) * slope;
