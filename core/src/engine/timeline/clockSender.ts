import { CLOCK, CONTINUE, SONG_POSITION, START, STOP } from '../../midi/status';
import { TICKS_PER_QUARTER } from '../../timeline';
import type { EngineState } from '../state/engineState';
import { TICKS_PER_PULSE } from './outsideClock';

export const TICKS_PER_SIXTEENTH = TICKS_PER_QUARTER / 4;

/** Sends the timeline's own clock to the outputs that get it. */
export class ClockSender {
  private nextPulse = 0;

  constructor(private readonly state: EngineState) {}

  /** Tick of the next pulse; `Infinity` where nothing gets any. @hotpath */
  get nextTick(): number {
    return this.state.show!.clockOutputs.length === 0 ? Infinity : this.nextPulse * TICKS_PER_PULSE;
  }

  pulse(): void {
    this.nextPulse++;
    this.tell(CLOCK, 0, 0);
  }

  /**
   * Start at the beginning, else song position and continue, as the standard asks; pulses follow from the next whole
   * one.
   */
  start(tick: number): void {
    this.nextPulse = Math.ceil(tick / TICKS_PER_PULSE);
    if (this.state.show!.clockOutputs.length === 0) return;
    const sixteenths = Math.floor(tick / TICKS_PER_SIXTEENTH);
    if (sixteenths > 0) this.tell(SONG_POSITION, sixteenths & 127, sixteenths >> 7);
    this.tell(sixteenths > 0 ? CONTINUE : START, 0, 0);
  }

  stop(): void {
    this.tell(STOP, 0, 0);
  }

  private tell(status: number, data1: number, data2: number): void {
    const { show, lanes } = this.state;
    for (let i = 0; i < show!.clockOutputs.length; i++) lanes.clockMessage(show!.clockOutputs[i], status, data1, data2);
  }
}
