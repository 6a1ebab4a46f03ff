import type { TempoMap } from '../../timeline';
import type { JumpAt } from '../input';

/** A shorter stretch is no loop. */
const SHORTEST_LOOP_TICKS = 120;

/** Where the way of the playhead does not simply go on: a loop, a jump that is to come. */
export class Turns {
  private loopFrom = 0;
  private loopTo = Infinity;
  /** The playhead has not passed the end of the loop: it will come there. */
  private loopIsAhead = false;
  private jumpFrom = Infinity;
  private jumpTo = 0;

  /** The next tick at which the way goes on elsewhere; what stands there is not done. @hotpath */
  get nextTick(): number {
    return Math.min(this.jumpFrom, this.loopIsAhead ? this.loopTo : Infinity);
  }

  /** Where it goes on from such a tick. */
  leadsTo(tick: number): number {
    return tick === this.jumpFrom ? this.jumpTo : this.loopFrom;
  }

  isJump(tick: number): boolean {
    return tick === this.jumpFrom;
  }

  /** The playhead has been put somewhere: a jump that was to come is off. */
  placedAt(tick: number): void {
    this.jumpFrom = Infinity;
    this.loopIsAhead = tick < this.loopTo;
  }

  /** The stretch that is played over and over, or null. */
  get loop(): { fromTick: number; toTick: number } | null {
    return this.loopTo === Infinity ? null : { fromTick: this.loopFrom, toTick: this.loopTo };
  }

  /** @param tick where the playhead stands */
  setLoop(range: { fromTick: number; toTick: number } | null, tick: number): void {
    const isLoop = range !== null && range.fromTick >= 0 && range.toTick - range.fromTick >= SHORTEST_LOOP_TICKS;
    this.loopFrom = isLoop ? range.fromTick : 0;
    this.loopTo = isLoop ? range.toTick : Infinity;
    this.loopIsAhead = tick < this.loopTo;
  }

  /** Where the jump that is to come leads, −1: none is. */
  get jumpsTo(): number {
    return this.jumpFrom === Infinity ? -1 : this.jumpTo;
  }

  setJump(fromTick: number, toTick: number): void {
    this.jumpFrom = fromTick;
    this.jumpTo = toTick;
  }

  cancelJump(): void {
    this.jumpFrom = Infinity;
  }
}

/** The end of the beat, bar or section that is under way; outside of sections that of the bar. */
export function boundaryAfter(tick: number, at: JumpAt, map: TempoMap, sections: Float64Array): number {
  if (at === 'section')
    for (let i = 0; i < sections.length; i += 2)
      if (tick >= sections[i] && tick < sections[i + 1]) return sections[i + 1];
  if (at !== 'beat') return map.barTo(tick);
  const bar = map.barFrom(tick);
  const beat = map.ticksPerBeatAt(tick);
  return Math.min(map.barTo(tick), bar + (Math.floor((tick - bar) / beat) + 1) * beat);
}
