import { TICKS_PER_QUARTER } from '../../timeline';

/** What is struck this little after a beat, as a share of the step, still starts on it. */
const LATE_SHARE = 0.15;

/** What counts in beats keeps time by this. */
export interface BeatClock {
  readonly tempoBpm: number;
  readonly playing: boolean;
  tickAt(atMs: number): number;
  /** Ticks at which the bar of a tick begins and ends. */
  barFrom(tick: number): number;
  barTo(tick: number): number;
  /** How long until a tick that is still to come, in ms. */
  untilTickMs(tick: number, nowMs: number): number;
}

/**
 * The beats that are waited for: those of the timeline when it plays; else those that the first thing to start with the
 * beat has set;
 * before it there are none, and it starts at once.
 */
export class BeatGrid {
  private anchorMs = -1;

  constructor(private readonly clock: BeatClock) {}

  /** Length of a quarter note in ms. */
  get quarterMs(): number {
    return 60_000 / Math.max(20, this.clock.tempoBpm);
  }

  /** How long until the next multiple of so many quarters, in ms; 0 when it is now, or has only just been. @hotpath */
  untilMs(quarters: number, nowMs: number): number {
    if (quarters <= 0) return 0;
    const step = quarters * TICKS_PER_QUARTER;
    if (this.clock.playing) {
      // Counted within the bar, and no further than the next one.
      const tick = this.clock.tickAt(nowMs);
      const rest = this.rest((tick - this.clock.barFrom(tick)) % step, step);
      return rest === 0 ? 0 : this.clock.untilTickMs(Math.min(tick + rest, this.clock.barTo(tick)), nowMs);
    }
    if (this.anchorMs < 0) {
      this.anchorMs = nowMs;
      return 0;
    }
    const stepMs = quarters * this.quarterMs;
    return this.rest((nowMs - this.anchorMs) % stepMs, stepMs);
  }

  private rest(behind: number, step: number): number {
    return behind <= step * LATE_SHARE ? 0 : step - behind;
  }

  /** Another song: its first beat is yet to be set. */
  forget(): void {
    this.anchorMs = -1;
  }
}
