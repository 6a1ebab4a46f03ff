import { TICKS_PER_QUARTER } from '../../timeline';

/** MIDI clock: 24 pulses a quarter note. */
export const TICKS_PER_PULSE = TICKS_PER_QUARTER / 24;
/** A straight line through so many pulses says where it is; through so many, how fast it goes for people to read. */
const LINE_PULSES = 48;
const SHOWN_PULSES = 96;
/** With fewer there is no tempo yet. */
const FIRST_PULSES = 6;
/** So many pulses in a row, each so far off on the same side, are another tempo: a new line begins. */
const STEP_PULSES = 4;
const STEP_MS = 8;
/** Of a gap of nearly k pulses each counts; nearly is a quarter of one. */
const NEARLY = 0.25;
/** No pulse for so many expected ones, and at least so long: it is lost. */
const LOST_PULSES = 4;
const LOST_MS = 500;
const SLOWEST = 10;
const FASTEST = 400;
const TOLD_BPM = 0.5;

/**
 * The clock of another player. Cues run on a straight line through the times of its last pulses, so that a pulse which
 * comes early or late moves nothing; the line is left when the tempo steps.
 */
export class OutsideClock {
  /** Start or continue has come: the next pulse begins. */
  armed = false;
  /** Tick of the last pulse. */
  pulseTick = 0;
  toldBpm = 0;
  /** By pulse, in a ring: when it came. */
  private readonly times = new Float64Array(SHOWN_PULSES);
  /** Numbers of the pulses: the next one, and the first that the line knows. */
  private next = 0;
  private first = 0;
  /** Pulses in a row that were off on the same side; which. */
  private offCount = 0;
  private offSide = 0;
  /** The line: time of the last pulse by it, and ms from pulse to pulse; 0: there is none yet. */
  private lineMs = 0;
  private everyMs = 0;
  private lastMs = -Infinity;
  /** Mean of how far pulses come from their place, in ms. */
  jitterMs = 0;
  /** The farthest tick that has been told: it never goes backwards between two starts. */
  private farthest = 0;

  /**
   * A pulse has come. @returns the tempo where it is another one than was told, else 0. @hotpath
   * @param moves whether the timeline is led by it now
   * @param bridgeTicks where it was lost, the timeline has gone on so far and no further
   */
  pulse(nowMs: number, moves: boolean, bridgeTicks: number): number {
    const pulses = Math.min(this.pulsesSince(nowMs), Math.max(1, Math.floor(bridgeTicks / TICKS_PER_PULSE)));
    if (moves) this.pulseTick += pulses * TICKS_PER_PULSE;
    this.lastMs = nowMs;
    this.take(nowMs, pulses);
    return this.news();
  }

  /** How many pulses this one stands for: some may have been lost on the way, or all for a while. */
  private pulsesSince(nowMs: number): number {
    if (this.everyMs === 0) {
      // Slower than the slowest tempo: what comes now is another run of pulses.
      if (nowMs - this.lastMs > 60_000 / (SLOWEST * 24) / (1 - NEARLY)) this.forget();
      return 1;
    }
    const expected = (nowMs - this.lineMs) / this.everyMs;
    if (this.isLost(nowMs)) {
      this.forget();
      return Math.max(1, Math.round(expected));
    }
    const gap = (nowMs - this.lastMs) / this.everyMs;
    const whole = Math.round(gap);
    return whole >= 2 && Math.abs(gap - whole) < NEARLY ? whole : 1;
  }

  private take(nowMs: number, pulses: number): void {
    const expectedMs = this.lineMs + pulses * this.everyMs;
    const offMs = this.everyMs === 0 ? 0 : nowMs - expectedMs;
    // A pulse that got lost stands where it would have come.
    for (let missing = pulses - 1; missing > 0 && this.everyMs > 0; missing--)
      this.note(nowMs - missing * this.everyMs);
    this.note(nowMs);
    this.jitterMs += (Math.abs(offMs) - this.jitterMs) / 24;
    const side = Math.abs(offMs) > STEP_MS ? Math.sign(offMs) : 0;
    this.offCount = side !== 0 && side === this.offSide ? this.offCount + 1 : side === 0 ? 0 : 1;
    this.offSide = side;
    if (this.offCount >= STEP_PULSES) {
      this.first = this.next - STEP_PULSES;
      this.offCount = 0;
    }
    this.fit();
  }

  private note(atMs: number): void {
    this.times[this.next % SHOWN_PULSES] = atMs;
    this.next++;
    this.first = Math.max(this.first, this.next - SHOWN_PULSES);
  }

  private forget(): void {
    this.first = this.next;
    this.everyMs = 0;
    this.offCount = 0;
  }

  private get count(): number {
    return this.next - this.first;
  }

  /** Least squares through the last pulses. @hotpath */
  private fit(): void {
    if (this.count < STEP_PULSES || (this.everyMs === 0 && this.count < FIRST_PULSES)) return;
    const count = Math.min(LINE_PULSES, this.count);
    const every = this.slope(count);
    if (!(every > 0)) return;
    this.everyMs = every;
    let sum = 0;
    for (let i = 1; i <= count; i++) sum += this.times[(this.next - i) % SHOWN_PULSES];
    // The line goes through the middle of them; its last pulse is half a stretch behind that.
    this.lineMs = sum / count + (every * (count - 1)) / 2;
  }

  private slope(count: number): number {
    let sum = 0;
    const middle = (count - 1) / 2;
    for (let i = 0; i < count; i++) sum += (middle - i) * this.times[(this.next - 1 - i) % SHOWN_PULSES];
    return (sum * 12) / (count * (count * count - 1));
  }

  /** Its tempo, for people to read; 0: it has none yet. */
  get bpm(): number {
    return this.everyMs === 0 ? 0 : 60_000 / (24 * this.slope(Math.min(SHOWN_PULSES, this.count)));
  }

  private news(): number {
    const { bpm } = this;
    return bpm >= SLOWEST && bpm <= FASTEST && Math.abs(bpm - this.toldBpm) >= TOLD_BPM ? bpm : 0;
  }

  /** The pulse that comes now begins: where none came for a while, those before it say nothing of its time. */
  startRun(nowMs: number): void {
    if (nowMs - this.lastMs > this.everyMs * (1 + 2 * NEARLY)) this.forget();
  }

  /** The timeline begins here, at the pulse that has just come. */
  begin(tick: number): void {
    this.pulseTick = tick;
    this.farthest = tick;
  }

  /** Whether its pulses have stopped without a word. */
  isLost(nowMs: number): boolean {
    return this.everyMs > 0 && nowMs - this.lastMs >= Math.max(LOST_MS, LOST_PULSES * this.everyMs);
  }

  /** Whether it comes, and has a tempo. */
  isHeard(nowMs: number): boolean {
    return this.everyMs > 0 && !this.isLost(nowMs);
  }

  /**
   * When a tick comes by the line. Without one it comes with its pulse: `Infinity`. @hotpath
   * @param bridgeTicks so far behind the last pulse the line still counts
   */
  msOf(tick: number, bridgeTicks: number): number {
    const ahead = tick - this.pulseTick;
    return this.everyMs === 0 || ahead > bridgeTicks
      ? Infinity
      : this.lineMs + (ahead / TICKS_PER_PULSE) * this.everyMs;
  }

  /** Whether cues run on a line, and not with each pulse. @hotpath */
  get hasLine(): boolean {
    return this.everyMs > 0;
  }

  tickAt(atMs: number, bridgeTicks: number): number {
    const passed = this.everyMs === 0 ? 0 : Math.floor(((atMs - this.lineMs) / this.everyMs) * TICKS_PER_PULSE + 0.001);
    const tick = this.pulseTick + Math.min(bridgeTicks, passed);
    return (this.farthest = Math.max(this.farthest, tick));
  }
}
