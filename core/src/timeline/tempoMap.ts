import { TICKS_PER_QUARTER, ticksPerBar, ticksPerBeat, type Meter, type MeterEntry, type SongMap } from '../show';
import type { Position } from './position';

/** Milliseconds of one tick at one quarter note a minute. */
const MS = 60_000 / TICKS_PER_QUARTER;
/** Times that differ by less are one: 1 µs. */
const SAME_MS = 0.001;

/** log(1 + x) ÷ x and its inverse’s (e^x − 1) ÷ x, which are 1 where nothing changes. */
const logShare = (x: number): number => (x === 0 ? 1 : Math.log1p(x) / x);
const powerShare = (x: number): number => (x === 0 ? 1 : Math.expm1(x) / x);

/** Number of the last of the rising values that is not above the value; 0 where all are. @hotpath */
function lastUpTo(values: Float64Array, value: number): number {
  let at = 0;
  for (let above = values.length; above - at > 1;) {
    const middle = (at + above) >> 1;
    if (values[middle] <= value) at = middle;
    else above = middle;
  }
  return at;
}

/**
 * Ticks (960 to the quarter note), time and places of a song, each from each. A tempo ramp is linear in tempo over ticks;
 * its time is the closed logarithm. Every answer follows from the segment that it lies in and never from adding steps
 * up, so that an hour is exact to well under a microsecond.
 */
export class TempoMap {
  /** Of each tempo entry: where it begins, in ticks and ms, its tempo, and how much that rises with each tick. */
  readonly tempoTicks: Float64Array;
  private readonly tempoMs: Float64Array;
  private readonly tempoBpm: Float64Array;
  private readonly rise: Float64Array;
  /** Of each meter entry: tick of its first bar, and the length of its bars. */
  private readonly meterTicks: Float64Array;
  private readonly barTicks: Float64Array;
  private readonly meters: readonly MeterEntry[];
  private readonly upbeatTicks: number;
  /** Where the last bar ends. */
  readonly endTick: number;

  constructor({ tempos, meters, upbeatTicks, bars }: SongMap) {
    const count = tempos.length;
    this.tempoTicks = Float64Array.from(tempos, ({ atTick }) => atTick);
    this.tempoBpm = Float64Array.from(tempos, ({ bpm }) => bpm);
    this.rise = new Float64Array(count);
    this.tempoMs = new Float64Array(count);
    for (let i = 0; i + 1 < count; i++) {
      const ticks = this.tempoTicks[i + 1] - this.tempoTicks[i];
      this.rise[i] = tempos[i].ramp ? (tempos[i + 1].bpm - tempos[i].bpm) / ticks : 0;
      this.tempoMs[i + 1] = this.tempoMs[i] + this.msInto(i, ticks);
    }
    this.meters = meters;
    this.upbeatTicks = upbeatTicks;
    this.meterTicks = new Float64Array(meters.length);
    this.barTicks = Float64Array.from(meters, ticksPerBar);
    this.meterTicks[0] = upbeatTicks;
    for (let i = 1; i < meters.length; i++)
      this.meterTicks[i] =
        this.meterTicks[i - 1] + (meters[i].bar - meters[i - 1].bar) * ticksPerBar(meters[i - 1]) - meters[i].early;
    this.endTick = this.barTick(bars + 1);
  }

  /** Milliseconds that so many ticks of a tempo segment take. @hotpath */
  private msInto(segment: number, ticks: number): number {
    const bpm = this.tempoBpm[segment];
    return ((MS * ticks) / bpm) * logShare((this.rise[segment] * ticks) / bpm);
  }

  /** Time of a tick in ms from tick 0. @hotpath */
  msAt(tick: number): number {
    const segment = lastUpTo(this.tempoTicks, tick);
    return this.tempoMs[segment] + this.msInto(segment, tick - this.tempoTicks[segment]);
  }

  /** Tick of a time in ms from tick 0; a whole one where its time is this one to a microsecond. @hotpath */
  tickAt(ms: number): number {
    const segment = lastUpTo(this.tempoMs, ms);
    const sinceMs = ms - this.tempoMs[segment];
    const share = powerShare((this.rise[segment] * sinceMs) / MS);
    const tick = this.tempoTicks[segment] + ((this.tempoBpm[segment] * sinceMs) / MS) * share;
    const whole = Math.round(tick);
    return Math.abs(this.msAt(whole) - ms) < SAME_MS ? whole : tick;
  }

  /** Tempo at a tick in quarter notes a minute; at an entry its own. @hotpath */
  bpmAt(tick: number): number {
    const segment = lastUpTo(this.tempoTicks, tick);
    return this.tempoBpm[segment] + this.rise[segment] * Math.max(0, tick - this.tempoTicks[segment]);
  }

  /** Where the tempo changes next after a tick: at an entry, and within a ramp at every quarter; else `Infinity`. @hotpath */
  nextTempoTick(tick: number): number {
    const segment = tick < 0 ? -1 : lastUpTo(this.tempoTicks, tick);
    const next = segment + 1 < this.tempoTicks.length ? this.tempoTicks[segment + 1] : Infinity;
    if (segment < 0 || this.rise[segment] === 0) return next;
    return Math.min(next, tick + TICKS_PER_QUARTER);
  }

  /** Tick of the tempo entry that holds at a tick. */
  tempoTickAt(tick: number): number {
    return this.tempoTicks[lastUpTo(this.tempoTicks, tick)];
  }

  /** Whether every tick has the tempo that it has in another map. */
  hasTemposOf({ tempoTicks, tempoBpm, rise }: TempoMap): boolean {
    if (tempoTicks.length !== this.tempoTicks.length) return false;
    for (let i = 0; i < tempoTicks.length; i++)
      if (tempoTicks[i] !== this.tempoTicks[i] || tempoBpm[i] !== this.tempoBpm[i] || rise[i] !== this.rise[i])
        return false;
    return true;
  }

  private segmentOfBar(bar: number): number {
    let segment = 0;
    while (segment + 1 < this.meters.length && this.meters[segment + 1].bar <= bar) segment++;
    return segment;
  }

  /** Meter of a bar; bar 0 has that of bar 1. */
  meterOf(bar: number): Meter {
    return this.meters[this.segmentOfBar(bar)];
  }

  /** Tick at which a bar begins; bar 0 is the upbeat, at tick 0. */
  barTick(bar: number): number {
    if (bar <= 0) return 0;
    const segment = this.segmentOfBar(bar);
    return this.meterTicks[segment] + (bar - this.meters[segment].bar) * ticksPerBar(this.meters[segment]);
  }

  /** Meter at a tick. */
  meterAt(tick: number): Meter {
    return this.meters[lastUpTo(this.meterTicks, tick)];
  }

  /** Length of a beat at a tick, in ticks. @hotpath */
  ticksPerBeatAt(tick: number): number {
    return ticksPerBeat(this.meters[lastUpTo(this.meterTicks, tick)]);
  }

  /** Tick at which the bar of a tick begins; an upbeat’s bar begins before tick 0. @hotpath */
  barFrom(tick: number): number {
    const segment = lastUpTo(this.meterTicks, tick);
    const since = tick - this.meterTicks[segment];
    return this.meterTicks[segment] + Math.floor(since / this.barTicks[segment]) * this.barTicks[segment];
  }

  /** Tick at which the bar of a tick ends. @hotpath */
  barTo(tick: number): number {
    const segment = lastUpTo(this.meterTicks, tick);
    const end = this.barFrom(tick) + this.barTicks[segment];
    return segment + 1 < this.meterTicks.length ? Math.min(end, this.meterTicks[segment + 1]) : end;
  }

  /** Place of a tick (0 and up); an upbeat’s beats are the last ones of bar 0. */
  positionAt(tick: number): Position {
    const isUpbeat = tick < this.upbeatTicks;
    const segment = lastUpTo(this.meterTicks, tick);
    const meter = this.meters[segment];
    const perBar = ticksPerBar(meter);
    const perBeat = ticksPerBeat(meter);
    const since = isUpbeat ? tick + perBar - this.upbeatTicks : tick - this.meterTicks[segment];
    const inBar = since % perBar;
    return {
      bar: isUpbeat ? 0 : meter.bar + Math.floor(since / perBar),
      beat: Math.floor(inBar / perBeat) + 1,
      tick: Math.floor(inBar % perBeat),
    };
  }

  /** Tick of a place; null where the song has no such place: before its start, or in a bar that has ended by then. */
  tickOf({ bar, beat, tick }: Position): number | null {
    if (bar < 0 || beat < 1 || tick < 0 || (bar === 0 && this.upbeatTicks === 0)) return null;
    const meter = this.meterOf(bar);
    if (beat > meter.beats || tick >= ticksPerBeat(meter)) return null;
    const inBar = (beat - 1) * ticksPerBeat(meter) + tick;
    const at = bar === 0 ? inBar - ticksPerBar(meter) + this.upbeatTicks : this.barTick(bar) + inBar;
    return at < 0 || at >= this.barTick(bar + 1) ? null : at;
  }
}

const maps = new WeakMap<SongMap, TempoMap>();

/** The map of a song, made once for each state of it. */
export function tempoMapOf(map: SongMap): TempoMap {
  const made = maps.get(map) ?? new TempoMap(map);
  maps.set(map, made);
  return made;
}
