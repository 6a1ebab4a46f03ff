import type { TempoMap } from '../../timeline';

/** Rackle's own time: where the playhead is follows from when and where it was started, never from adding steps up. */
export class OwnClock {
  /** The song's own map when it was last taken up. */
  map: TempoMap | null = null;
  /** What was tapped, as a factor over the whole map. */
  trim = 1;
  /** What a cue asked for, as a factor up to the next tempo of the map. */
  factor = 1;
  startMs = 0;
  startTick = 0;

  /** How many times as fast as the map. @hotpath */
  get speed(): number {
    return this.trim * this.factor;
  }

  /** @hotpath */
  msOf(tick: number): number {
    const map = this.map!;
    return this.startMs + (map.msAt(tick) - map.msAt(this.startTick)) / this.speed;
  }

  /** A whole tick where its time is this one to a microsecond. @hotpath */
  exactTickAt(atMs: number): number {
    // Before a count-in has ended it stands where it will start.
    if (atMs <= this.startMs) return this.startTick;
    const map = this.map!;
    return map.tickAt(map.msAt(this.startTick) + (atMs - this.startMs) * this.speed);
  }

  /** What follows is counted from the present tick. */
  anchor(nowMs: number): void {
    this.startTick = this.exactTickAt(nowMs);
    this.startMs = nowMs;
  }

  /** Tempo at a tick, in quarter notes a minute. */
  bpmAt(tick: number): number {
    return this.map!.bpmAt(tick) * this.speed;
  }

  barFrom(tick: number): number {
    return this.map === null ? 0 : this.map.barFrom(tick);
  }

  barTo(tick: number): number {
    return this.map === null ? Infinity : this.map.barTo(tick);
  }
}
