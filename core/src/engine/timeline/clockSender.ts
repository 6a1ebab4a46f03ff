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
/** Pulses that are later by this are left out while the timeline stands. */
const SLEPT_MS = 1000;
const PULSES_PER_QUARTER = TICKS_PER_QUARTER / TICKS_PER_PULSE;

/** Whom a message of the clock is for: all, those that get pulses while it stands, those that are told of loops. */
type For = 'all' | 'always' | 'atLoop';

/** Sends the timeline's clock, its own or the one that it follows, to the outputs that get it. */
export class ClockSender {
  private nextPulse = 0;
  /** Pulses from the next on that have been handed over, and when the last of them goes out. */
  private handed = 0;
  private handedMs = -Infinity;
  /** When the last pulse went out. */
  private pulseMs = -Infinity;

  constructor(
    private readonly state: EngineState,
    private readonly own: OwnClock,
  ) {}

  private get isWanted(): boolean {
    return this.state.show !== null && this.state.show.clockOutputs.length > 0;
  }

  /** Tick of the next pulse; `Infinity` where nothing gets any. @hotpath */
  get nextTick(): number {
    return this.isWanted ? this.nextPulse * TICKS_PER_PULSE : Infinity;
  }

  /** Tick of the next pulse that has not been handed over. @hotpath */
  private get nextToHand(): number {
    return this.nextTick + this.handed * TICKS_PER_PULSE;
  }

  /** When the next pulse is due while the timeline stands, at a tempo; `Infinity` where none is. @hotpath */
  standingMs(bpm: number): number {
    if (!this.state.pulsesWhileStanding || !this.isWanted || bpm <= 0) return Infinity;
    const { clockOutputs } = this.state.show!;
    for (let i = 0; i < clockOutputs.length; i++)
      if (clockOutputs[i].always) return this.pulseMs + 60_000 / (bpm * PULSES_PER_QUARTER);
    return Infinity;
  }

  /** A machine that has slept sends no pulses for that time. */
  skipTo(nowMs: number, bpm: number): void {
    const nextMs = this.standingMs(bpm);
    if (nextMs < Infinity && nowMs - nextMs > SLEPT_MS) this.pulseMs = nowMs;
  }

  standingPulse(): void {
    this.pulseMs = this.state.nowMs;
    this.tell('always', CLOCK, 0, 0);
  }

  pulse(): void {
    this.nextPulse++;
    this.pulseMs = this.state.nowMs;
    if (this.handed > 0) this.handed--;
    else this.tell('all', CLOCK, 0, 0);
  }

  /**
   * Hands over the pulses that are due before a time and lie before a tick.
   * @returns when the next one of them is due; `Infinity`: none is. @hotpath
   */
  hand(untilMs: number, beforeTick: number): number {
    const { own } = this;
    for (; this.nextToHand < beforeTick; this.handed++) {
      const atMs = own.msOf(this.nextToHand);
      if (atMs > untilMs) return atMs;
      const nowMs = this.state.clock[0];
      this.handedMs = Math.max(nowMs, atMs);
      this.state.stampFrom(this.handedMs);
      this.tell('all', CLOCK, 0, 0);
      this.state.stampFrom(nowMs);
    }
    return Infinity;
  }

  /**
   * Start at the beginning, else song position and continue, as the standard asks; the first pulse then stands for the
   * position: between two sixteenths it is the next one's. What has been handed over goes out before.
   * @param of `atLoop` where a loop goes back: others get pulses only
   */
  start(tick: number, of: For = 'all'): void {
    const { state, own } = this;
    this.handed = 0;
    const atMs = Math.max(state.nowMs, this.handedMs + BEFORE_PULSE_MS);
    let sixteenths = Math.ceil((tick - SAME_TICK) / TICKS_PER_SIXTEENTH);
    const isHere = atMs === state.nowMs && Math.abs(sixteenths * TICKS_PER_SIXTEENTH - tick) < SAME_TICK;
    if (!isHere) while (own.msOf(sixteenths * TICKS_PER_SIXTEENTH) < atMs + BEFORE_PULSE_MS) sixteenths++;
    this.nextPulse = (sixteenths * TICKS_PER_SIXTEENTH) / TICKS_PER_PULSE;
    const nowMs = state.stampFrom(atMs);
    this.tellPosition(of, sixteenths);
    state.stampFrom(nowMs);
  }

  /** The same with the first pulse of a clock that is followed, which stands for a tick. */
  follow(tick: number): void {
    this.nextPulse = Math.ceil(tick / TICKS_PER_PULSE);
    if (tick % TICKS_PER_SIXTEENTH === 0) this.tellPosition('all', tick / TICKS_PER_SIXTEENTH);
    else this.tell('all', CONTINUE, 0, 0);
  }

  private tellPosition(of: For, sixteenths: number): void {
    if (sixteenths > 0 && sixteenths <= LAST_POSITION) this.tell(of, SONG_POSITION, sixteenths & 127, sixteenths >> 7);
    this.tell(of, sixteenths > 0 ? CONTINUE : START, 0, 0);
  }

  stop(of: For = 'all'): void {
    this.handed = 0;
    this.pulseMs = Math.max(this.pulseMs, this.handedMs);
    this.tell(of, STOP, 0, 0);
  }

  /** @hotpath */
  private tell(of: For, status: number, data1: number, data2: number): void {
    const { state } = this;
    const { show, lanes, offsets } = state;
    if (show === null) return;
    for (let i = 0; i < show.clockOutputs.length; i++) {
      const output = show.clockOutputs[i];
      if (of !== 'all' && !output[of]) continue;
      // All of its clock alike, so that nothing changes places.
      const nowMs = state.stampFrom(state.nowMs + offsets.of(output.destination));
      lanes.clockMessage(output.destination, status, data1, data2);
      state.stampFrom(nowMs);
    }
  }
}
