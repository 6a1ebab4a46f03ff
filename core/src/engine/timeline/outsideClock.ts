import { TICKS_PER_QUARTER } from '../../timeline';

/** MIDI clock: 24 pulses a quarter note; song position counts sixteenths. */
export const TICKS_PER_PULSE = TICKS_PER_QUARTER / 24;
/** A gap longer than this is a pause of the clock, no tempo. */
const LONGEST_PULSE_MS = 250;
/** Pulses over which an outside tempo is smoothed. */
const SMOOTHED_PULSES = 24;
const TOLD_BPM = 0.5;

/** The clock of another player: where its last pulse stands, and how fast they come. */
export class OutsideClock {
  /** The next pulse begins. */
  armed = false;
  pulseTick = 0;
  toldBpm = 0;
  private pulseMs = -Infinity;
  private everyMs = 0;
  private pulses = 0;

  /** A pulse has come. @returns the tempo where it has changed, else 0. @hotpath */
  pulse(nowMs: number): number {
    const gapMs = nowMs - this.pulseMs;
    this.pulseMs = nowMs;
    if (gapMs > LONGEST_PULSE_MS) {
      this.pulses = 0;
      return 0;
    }
    this.pulses++;
    this.everyMs += (gapMs - this.everyMs) / Math.min(this.pulses, SMOOTHED_PULSES);
    const bpm = 60_000 / (24 * this.everyMs);
    const isNews =
      this.pulses >= SMOOTHED_PULSES && Math.abs(bpm - this.toldBpm) >= TOLD_BPM && bpm >= 20 && bpm <= 400;
    return isNews ? bpm : 0;
  }

  /**
   * When a tick between two pulses comes, where the smoothed tempo puts it; one that stands on a pulse waits for the
   * pulse itself: `Infinity`. @hotpath
   */
  msOf(tick: number): number {
    const ahead = tick - this.pulseTick;
    return this.everyMs === 0 || ahead >= TICKS_PER_PULSE
      ? Infinity
      : this.pulseMs + (ahead / TICKS_PER_PULSE) * this.everyMs;
  }

  tickAt(atMs: number): number {
    const share = this.everyMs === 0 ? 0 : Math.min(0.999, Math.max(0, (atMs - this.pulseMs) / this.everyMs));
    return this.pulseTick + Math.floor(share * TICKS_PER_PULSE);
  }
}
