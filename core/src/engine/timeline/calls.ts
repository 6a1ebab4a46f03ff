import { SLOWEST_BPM } from '../../show';
import { TICKS_PER_QUARTER } from '../../timeline';
import type { EngineState } from '../state/engineState';

/** More are not told. */
const MOST = 256;

/** A recall of the present song that another player's program has made while the timeline ran. */
export interface Call {
  /** Alias of the input that the program came from. */
  port: string;
  position: number;
  /** Where the playhead was. */
  tick: number;
  /** Where a cue stands that recalls the same within a beat: it fires twice. null: only the other player calls it. */
  cueTick: number | null;
}

interface Clock {
  readonly playing: boolean;
  readonly tempoBpm: number;
  tickAt(atMs: number): number;
}

/**
 * What another player recalls while the timeline runs, and which of it fires twice: a cue of the timeline leads to the
 * same place within a beat. It holds until the timeline is started again.
 */
export class Calls {
  list: readonly Call[] = [];
  private cuedPosition = -1;
  private cuedMs = -Infinity;
  private cuedTick = 0;
  private calledMs = -Infinity;
  private calledPosition = -1;
  private calledPort = -1;

  constructor(
    private readonly state: EngineState,
    private readonly clock: Clock,
  ) {}

  /** The timeline begins; a call that came just ahead of its start, as players send them, belongs to it. */
  begin(tick: number): void {
    this.list = [];
    this.cuedPosition = -1;
    const { nowMs } = this.state;
    if (nowMs - this.calledMs <= this.beatMs) this.add(this.calledPosition, this.calledPort, tick);
  }

  private get beatMs(): number {
    return 60_000 / Math.max(SLOWEST_BPM, this.clock.tempoBpm);
  }

  /** A cue leads to a position, whether it is current already or not. */
  cued(position: number): void {
    const { nowMs } = this.state;
    this.cuedPosition = position;
    this.cuedMs = nowMs;
    this.cuedTick = this.clock.tickAt(nowMs);
    const last = this.list.findLastIndex((call) => call.position === position);
    if (last < 0 || this.list[last].cueTick !== null || nowMs - this.calledMs > this.beatMs) return;
    this.list = this.list.with(last, { ...this.list[last], cueTick: this.cuedTick });
    this.tell(this.list[last]);
  }

  /** A program from the input that is listened to leads to a position. */
  called(position: number): void {
    const { messagePort, nowMs } = this.state;
    this.calledMs = nowMs;
    this.calledPosition = position;
    this.calledPort = messagePort;
    if (this.clock.playing) this.add(position, messagePort, this.clock.tickAt(nowMs));
  }

  private add(position: number, port: number, tick: number): void {
    const { state } = this;
    // In a loop it calls again what it has called.
    const isKnown = this.list.some(
      (call) => call.position === position && Math.abs(call.tick - tick) < TICKS_PER_QUARTER,
    );
    if (isKnown || this.list.length >= MOST) return;
    const isTwice = this.cuedPosition === position && state.nowMs - this.cuedMs <= this.beatMs;
    const call = { port: state.portName(port), position, tick, cueTick: isTwice ? this.cuedTick : null };
    this.list = [...this.list, call];
    this.tell(call);
  }

  private tell({ port, position, cueTick }: Call): void {
    if (cueTick !== null) this.state.record({ type: 'twice', atMs: this.state.nowMs, port, position, tick: cueTick });
  }
}
