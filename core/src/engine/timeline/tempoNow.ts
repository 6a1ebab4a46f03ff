import type { EngineState } from '../state/engineState';
import type { OutsideClock } from './outsideClock';
import type { OwnClock } from './ownClock';

/** The tempo that holds now, and where the map changes it next. */
export class TempoNow {
  /** In quarter notes a minute; 0: there has been no song. */
  bpm = 0;
  /** Where the tempo changes next by the map. */
  private nextTick = Infinity;

  constructor(
    private readonly state: EngineState,
    private readonly own: OwnClock,
    private readonly outside: OutsideClock,
  ) {}

  /** When the map changes it next. @hotpath */
  nextMs(): number {
    return this.nextTick < this.own.map!.endTick ? this.own.msOf(this.nextTick) : Infinity;
  }

  /**
   * Another tempo from here on: a factor over the whole map.
   * @param runs whether the present moment is a place in the map that time goes on from
   */
  set(bpm: number, runs: boolean): void {
    const { own } = this;
    this.anchor(runs);
    if (own.map !== null) own.trim = bpm / (own.map.bpmAt(own.startTick) * own.factor);
    this.take(bpm);
  }

  /** What follows is counted from the present tick. */
  anchor(runs: boolean): void {
    if (runs) this.own.anchor(this.state.nowMs);
  }

  /** The map times a factor, up to its next own tempo. */
  takeFactor(factor: number, runs: boolean): void {
    this.anchor(runs);
    this.own.factor = factor;
    this.takeMap(this.own.startTick);
  }

  /** The tempo of a place, with the factor that a cue before it has asked for since the map's last own tempo. */
  chase(tick: number, factor: number): void {
    this.own.factor = factor;
    this.takeMap(tick);
  }

  /** The map's tempo at a tick, and where it changes next. */
  takeMap(tick: number): void {
    const bpm = this.own.bpmAt(tick);
    this.nextTick = this.own.map!.nextTempoTick(tick);
    if (bpm !== this.bpm) this.take(bpm);
  }

  /** The map's next tempo has come: what a cue asked for holds no longer. */
  pass(runs: boolean): void {
    const tick = this.nextTick;
    if (this.own.factor !== 1 && this.own.map!.tempoTickAt(tick) === tick) {
      this.anchor(runs);
      this.own.factor = 1;
    }
    this.takeMap(tick);
  }

  take(bpm: number): void {
    this.bpm = bpm;
    this.outside.toldBpm = bpm;
    this.state.lanes.tempo(bpm);
    if (this.state.observer !== null) this.state.record({ type: 'tempo', atMs: this.state.nowMs, bpm });
  }

  /** The song's own tempo counts, whatever was tapped before. */
  takeSong(): void {
    const { own } = this;
    own.trim = 1;
    own.factor = 1;
    if (own.map !== null) this.take(own.map.bpmAt(0));
  }
}
