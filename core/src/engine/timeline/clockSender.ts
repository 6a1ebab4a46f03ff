import { CLOCK, CONTINUE, SONG_POSITION, START, STOP } from '../../midi/status';
import { TICKS_PER_QUARTER } from '../../timeline';
import type { EngineState } from '../state/engineState';
import { TICKS_PER_PULSE } from './outsideClock';
import type { OwnClock } from './ownClock';

export const TICKS_PER_SIXTEENTH = TICKS_PER_QUARTER / 4;

/** What follows a start or continue gets so much time to make itself ready, as the standard asks. */
const BEFORE_PULSE_MS = 1;
/** Places nearer than this are one: a thousandth of a tick. */
const SAME_TICK = 0.001;
/** Fourteen bits: farther no song position leads. */
const LAST_POSITION = 0x3fff;

/** Sends the timeline's own clock to the outputs that get it. */
export class ClockSender {
  private nextPulse = 0;
  /** Pulses from the next on that have been handed over, and when the last of them goes out. */
  private handed = 0;
  private handedMs = -Infinity;

  constructor(
    private readonly state: EngineState,
    private readonly own: OwnClock,
  ) {}

  /** Tick of the next pulse; `Infinity` where nothing gets any. @hotpath */
  get nextTick(): number {
    return this.state.show!.clockOutputs.length === 0 ? Infinity : this.nextPulse * TICKS_PER_PULSE;
  }

  /** Tick of the next pulse that has not been handed over. @hotpath */
  private get nextToHand(): number {
    return this.nextTick + this.handed * TICKS_PER_PULSE;
  }

  pulse(): void {
    this.nextPulse++;
    if (this.handed > 0) this.handed--;
    else this.tell(CLOCK, 0, 0);
  }

  /**
   * Hands over the pulses that are due before a time and lie before a tick.
   * @returns when the next one of them is due; `Infinity`: none is. @hotpath
   */
  hand(own: OwnClock, untilMs: number, beforeTick: number): number {
    for (; this.nextToHand < beforeTick; this.handed++) {
      const atMs = own.msOf(this.nextToHand);
      if (atMs > untilMs) return atMs;
      const nowMs = this.state.clock[0];
      this.handedMs = Math.max(nowMs, atMs);
      this.state.stampFrom(this.handedMs);
      this.tell(CLOCK, 0, 0);
      this.state.stampFrom(nowMs);
    }
    return Infinity;
  }

  /**
   * Start at the beginning, else song position and continue, as the standard asks; the first pulse then stands for the
   * position: between two sixteenths it is the next one's. What has been handed over goes out before.
   */
  start(tick: number): void {
    const { state, own } = this;
    this.handed = 0;
    const atMs = Math.max(state.nowMs, this.handedMs + BEFORE_PULSE_MS);
    let sixteenths = Math.ceil((tick - SAME_TICK) / TICKS_PER_SIXTEENTH);
    const isHere = atMs === state.nowMs && Math.abs(sixteenths * TICKS_PER_SIXTEENTH - tick) < SAME_TICK;
    if (!isHere) while (own.msOf(sixteenths * TICKS_PER_SIXTEENTH) < atMs + BEFORE_PULSE_MS) sixteenths++;
    this.nextPulse = (sixteenths * TICKS_PER_SIXTEENTH) / TICKS_PER_PULSE;
    if (state.show!.clockOutputs.length === 0) return;
    const nowMs = state.stampFrom(atMs);
    if (sixteenths > 0 && sixteenths <= LAST_POSITION) this.tell(SONG_POSITION, sixteenths & 127, sixteenths >> 7);
    this.tell(sixteenths > 0 ? CONTINUE : START, 0, 0);
    state.stampFrom(nowMs);
  }

  stop(): void {
    this.handed = 0;
    this.tell(STOP, 0, 0);
  }

  private tell(status: number, data1: number, data2: number): void {
    const { show, lanes } = this.state;
    for (let i = 0; i < show!.clockOutputs.length; i++) lanes.clockMessage(show!.clockOutputs[i], status, data1, data2);
  }
}
