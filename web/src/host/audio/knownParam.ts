/**
 * A parameter of a node with a memory of where it was sent: ramps begin at the value that holds then, without asking
 * the node. (Its own `value` is stale while nothing is drawn through it.)
 */
export class KnownParam {
  private from: number;
  private to: number;
  private startS = -Infinity;
  private endS = -Infinity;
  private byRatio = false;

  constructor(
    private readonly param: AudioParam,
    value: number,
  ) {
    param.value = value;
    this.from = this.to = value;
  }

  /** Where it stands at a time of the context, in seconds. */
  at(nowS: number): number {
    if (nowS >= this.endS) return this.to;
    if (nowS <= this.startS) return this.from;
    const share = (nowS - this.startS) / (this.endS - this.startS);
    return this.byRatio ? this.from * (this.to / this.from) ** share : this.from + (this.to - this.from) * share;
  }

  get target(): number {
    return this.to;
  }

  /** Goes to a value within a time (0: at once), in a straight line or (frequencies, above 0) by ratio. */
  go(value: number, rampS: number, nowS: number, byRatio = false): void {
    if (value === this.to) return;
    const { param } = this;
    const from = this.at(nowS);
    param.cancelScheduledValues(nowS);
    if (rampS <= 0) param.setValueAtTime(value, nowS);
    else {
      param.setValueAtTime(from, nowS);
      if (byRatio) param.exponentialRampToValueAtTime(value, nowS + rampS);
      else param.linearRampToValueAtTime(value, nowS + rampS);
    }
    this.from = from;
    this.to = value;
    this.byRatio = byRatio;
    this.startS = nowS;
    this.endS = nowS + rampS;
  }
}
