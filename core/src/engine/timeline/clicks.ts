import type { TempoMap } from '../../timeline';
import { TICKS_PER_QUARTER } from '../../timeline';
import type { EngineState } from '../state/engineState';
import type { OwnClock } from './ownClock';

/** Places nearer than this are one: a thousandth of a tick. */
const SAME_TICK = 0.001;

/** The beats that are clicked: those of the map while it plays, and those of a count-in before it starts. */
export class Clicks {
  /** Tick of the next beat. */
  private nextBeat = Infinity;
  /** Tick of the next beat that has not been handed over. */
  private toHand = Infinity;
  /** Bars are counted: the start is still to come. */
  waits = false;
  private map: TempoMap | null = null;
  /** Beats of the count-in that have been clicked, and how many there are. */
  private counted = 0;
  private count = 0;
  private countFromMs = 0;
  private beatMs = 0;
  /** Number of the first counted beat in its bar, and how many beats that has. */
  private firstBeat = 0;
  private barBeats = 1;

  constructor(private readonly state: EngineState) {}

  /** The next beat is the first from a tick on. */
  seek(map: TempoMap | null, tick: number): void {
    this.map = map;
    if (map === null) return;
    this.nextBeat = this.toHand = beatFrom(map, tick);
  }

  /** After an edit: another map's next beat, or what was next. */
  replace(map: TempoMap, tick: number): void {
    if (map === this.map) return;
    this.map = map;
    this.nextBeat = beatFrom(map, tick);
    // What has been handed over is clicked.
    this.toHand = beatFrom(map, Math.max(tick, this.toHand));
  }

  /** Counts so many bars before the start of a timeline, by the meter and tempo there. @returns how long they last, in ms */
  countIn(bars: number, own: OwnClock, nowMs: number): number {
    const map = own.map!;
    const tick = own.startTick;
    const beatTicks = map.ticksPerBeatAt(tick);
    this.barBeats = map.meterAt(tick).beats;
    this.beatMs = (beatTicks * 60_000) / (own.bpmAt(tick) * TICKS_PER_QUARTER);
    // A start between two beats has the rest of its beat before it.
    const into = (tick - map.barFrom(tick)) / beatTicks;
    const whole = Math.floor(into + SAME_TICK / beatTicks);
    const rest = Math.max(0, into - whole);
    this.count = bars * this.barBeats + (rest > SAME_TICK / beatTicks ? 1 : 0);
    this.waits = true;
    this.counted = 0;
    this.countFromMs = nowMs;
    this.firstBeat = whole - bars * this.barBeats;
    return (bars * this.barBeats + rest) * this.beatMs;
  }

  endCount(): void {
    this.waits = false;
    this.count = 0;
  }

  private get isCounting(): boolean {
    return this.waits && this.counted < this.count;
  }

  /** When the next click is due: before `turnTick`, by a clock that says when a tick is. @hotpath */
  nextMs(clock: { msOf(tick: number, bridgeTicks: number): number }, bridgeTicks: number, turnTick: number): number {
    const { click } = this.state.show!;
    if (this.isCounting) return this.countFromMs + this.counted * this.beatMs + Math.max(0, click.offsetMs);
    return click.on && this.nextBeat < turnTick ? clock.msOf(this.nextBeat, bridgeTicks) + click.offsetMs : Infinity;
  }

  /** Does the next click. */
  run(): void {
    const { map } = this;
    if (this.isCounting) {
      const beat = this.firstBeat + this.counted++;
      return this.click(beat % this.barBeats === 0);
    }
    if (map === null) return;
    const isHanded = this.nextBeat < this.toHand;
    if (!isHanded) this.click(isFirst(map, this.nextBeat));
    this.nextBeat = beatFrom(map, this.nextBeat + 1);
    if (!isHanded) this.toHand = this.nextBeat;
  }

  /**
   * Hands over the beats that are due before a time and lie before a tick.
   * @returns when the next one of them is due; `Infinity`: none is. @hotpath
   */
  hand(own: OwnClock, untilMs: number, beforeTick: number): number {
    const { state, map } = this;
    const { click } = state.show!;
    if (!click.on || map === null) return Infinity;
    for (; this.toHand < beforeTick; this.toHand = beatFrom(map, this.toHand + 1)) {
      const atMs = own.msOf(this.toHand) + click.offsetMs;
      if (atMs > untilMs) return atMs;
      const nowMs = state.clock[0];
      state.stampFrom(Math.max(nowMs, atMs));
      this.click(isFirst(map, this.toHand));
      state.stampFrom(nowMs);
    }
    return Infinity;
  }

  /** @hotpath */
  private click(isAccent: boolean): void {
    const { state } = this;
    const { click } = state.show!;
    const { lanes, offsets } = state;
    const offsetMs = click.lane < 0 ? 0 : offsets.of(lanes.destinationOf(click.lane));
    const nowMs = state.stampFrom(state.nowMs + offsetMs);
    lanes.click(click, isAccent);
    state.stampFrom(nowMs);
  }
}

/** Tick of the first beat from a tick on. @hotpath */
function beatFrom(map: TempoMap, tick: number): number {
  const from = map.barFrom(tick);
  const beat = map.ticksPerBeatAt(tick);
  return Math.min(map.barTo(tick), from + Math.ceil((tick - from - SAME_TICK) / beat) * beat);
}

const isFirst = (map: TempoMap, beat: number): boolean => Math.abs(beat - map.barFrom(beat)) < SAME_TICK;
