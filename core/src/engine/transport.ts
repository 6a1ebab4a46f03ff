import { CLOCK, CONTINUE, SONG_POSITION, START, STOP } from '../midi/status';
import { TICKS_PER_QUARTER, type TempoMap } from '../timeline';
import { SLOWEST_BPM } from '../show';
import type { CompiledEntry } from './compile/compiled';
import type { EngineState } from './state/engineState';

/** MIDI clock: 24 pulses a quarter note; song position counts sixteenths. */
const TICKS_PER_PULSE = TICKS_PER_QUARTER / 24;
const TICKS_PER_SIXTEENTH = TICKS_PER_QUARTER / 4;
/** A gap longer than this is a pause of the clock, no tempo. */
const LONGEST_PULSE_MS = 250;
/** Pulses over which an outside tempo is smoothed. */
const SMOOTHED_PULSES = 24;
const TOLD_BPM = 0.5;

/**
 * Runs through the cues of the present song, by its own time or by an outside clock. By its own, where the transport is
 * follows
 * from when and where it was started, never from adding steps up.
 */
export class Transport {
  playing = false;
  tempoBpm = 0;
  /** The song's own map when it was last taken up. */
  private map: TempoMap | null = null;
  /** What was tapped, as a factor over the whole map. */
  private ownTrim = 1;
  /** Where the tempo changes next by the map. */
  private nextTempo = Infinity;
  private entry: CompiledEntry | null = null;
  private startMs = 0;
  private startTick = 0;
  private nextCue = 0;
  private nextPulse = 0;
  // By an outside clock:
  private outside = false;
  private armed = false;
  private pulseTick = 0;
  private pulseMs = -Infinity;
  private pulseEveryMs = 0;
  private pulses = 0;
  private toldBpm = 0;

  constructor(
    private readonly state: EngineState,
    private readonly recallAt: (position: number, cause: 'cue') => void,
  ) {}

  /** When the next tempo, cue, pulse or the end of the song falls due; `Infinity` when it stands. @hotpath */
  get nextMs(): number {
    if (!this.playing || this.entry === null) return Infinity;
    return this.outside ? this.nextOutsideMs() : Math.min(this.nextCueMs(), this.nextPulseMs(), this.nextTempoMs());
  }

  private nextCueMs(): number {
    const entry = this.entry!;
    return this.msOf(
      this.nextCue < entry.cueTicks.length
        ? Math.min(entry.cueTicks[this.nextCue], entry.map.endTick)
        : entry.map.endTick,
    );
  }

  private nextTempoMs(): number {
    return this.nextTempo < this.entry!.map.endTick ? this.msOf(this.nextTempo) : Infinity;
  }

  private nextPulseMs(): number {
    return this.state.show!.clockOutputs.length === 0 ? Infinity : this.msOf(this.nextPulse * TICKS_PER_PULSE);
  }

  /**
   * A cue between two pulses runs where the smoothed tempo puts it; one that stands on a pulse waits for the pulse
   * itself.
   */
  private nextOutsideMs(): number {
    const { cueTicks } = this.entry!;
    if (this.nextCue >= cueTicks.length || this.pulseEveryMs === 0) return Infinity;
    const ahead = cueTicks[this.nextCue] - this.pulseTick;
    return ahead >= TICKS_PER_PULSE ? Infinity : this.pulseMs + (ahead / TICKS_PER_PULSE) * this.pulseEveryMs;
  }

  private msOf(tick: number): number {
    const map = this.map!;
    return this.startMs + (map.msAt(tick) - map.msAt(this.startTick)) / this.ownTrim;
  }

  private exactTickAt(atMs: number): number {
    const map = this.map!;
    return map.tickAt(map.msAt(this.startTick) + (atMs - this.startMs) * this.ownTrim);
  }

  tickAt(atMs: number): number {
    if (!this.playing || this.entry === null) return Math.floor(this.startTick);
    if (this.outside)
      return (
        this.pulseTick +
        (this.pulseEveryMs === 0
          ? 0
          : Math.floor(Math.min(0.999, Math.max(0, (atMs - this.pulseMs) / this.pulseEveryMs)) * TICKS_PER_PULSE))
      );
    // Rounded up by a thousandth of a tick, so that the very moment of a cue reads as its tick.
    return Math.floor(this.exactTickAt(atMs) + 0.001);
  }

  barFrom(tick: number): number {
    return this.map === null ? 0 : this.map.barFrom(tick);
  }

  barTo(tick: number): number {
    return this.map === null ? Infinity : this.map.barTo(tick);
  }

  /** How long until a tick ahead, in ms: by the map, or by the tempo of the clock that is followed. @hotpath */
  untilTickMs(tick: number, nowMs: number): number {
    return this.outside
      ? (tick - this.tickAt(nowMs)) * (60_000 / (Math.max(SLOWEST_BPM, this.tempoBpm) * TICKS_PER_QUARTER))
      : Math.max(0, this.msOf(tick) - nowMs);
  }

  play(): void {
    const { state } = this;
    if (this.playing || state.step === null || state.show === null) return;
    if (state.show.clockInput >= 0) return state.warn('clock-from-outside', state.portName(state.show.clockInput));
    if (!this.begin(false)) return;
    this.startMs = state.nowMs;
    this.takeMapTempo(this.startTick);
    this.tellStart();
    this.chase();
    state.record({ type: 'timeline', atMs: state.nowMs, state: 'play', tick: this.startTick });
  }

  private begin(outside: boolean): boolean {
    this.entry = this.state.show!.entries[this.state.entry] ?? null;
    if (this.entry === null) return false;
    this.map = this.entry.map;
    if (this.startTick >= this.entry.map.endTick) this.startTick = 0;
    this.playing = true;
    this.outside = outside;
    return true;
  }

  stop(): void {
    this.armed = false;
    if (!this.playing) return;
    this.startTick = this.tickAt(this.state.nowMs);
    this.playing = false;
    if (!this.outside) this.tell(STOP, 0, 0);
    this.state.record({ type: 'timeline', atMs: this.state.nowMs, state: 'stop', tick: this.startTick });
  }

  /** Goes to a tick; while playing, what belongs there is recalled. An outside clock says by itself where it is. */
  locate(tick: number): void {
    if (this.playing && this.outside)
      return this.state.warn('clock-from-outside', this.state.portName(this.state.show!.clockInput));
    this.startTick = Math.max(0, tick);
    this.startMs = this.state.nowMs;
    if (this.map !== null) this.takeMapTempo(this.startTick);
    if (this.playing) {
      this.tell(STOP, 0, 0);
      this.tellStart();
      this.chase();
    }
    this.state.record({ type: 'timeline', atMs: this.state.nowMs, state: 'locate', tick: this.startTick });
  }

  /** How many times the map's tempo it goes at: what was tapped, or what the clock that is followed makes of it. */
  get trim(): number {
    return this.outside && this.playing && this.map !== null
      ? this.tempoBpm / this.map.bpmAt(this.pulseTick)
      : this.ownTrim;
  }

  /** Goes on from here at another tempo: a factor over the whole map, until the song changes. */
  setTempo(bpm: number): void {
    this.anchorHere();
    if (this.map !== null) this.ownTrim = bpm / this.map.bpmAt(this.startTick);
    this.takeTempo(bpm);
  }

  /** What follows of its course is counted from the present tick. */
  private anchorHere(): void {
    if (!this.playing || this.outside) return;
    this.startTick = this.exactTickAt(this.state.nowMs);
    this.startMs = this.state.nowMs;
  }

  /** The map's tempo at a tick, and where it changes next. */
  private takeMapTempo(tick: number): void {
    const map = this.map!;
    const bpm = map.bpmAt(tick) * this.ownTrim;
    this.nextTempo = map.nextTempoTick(tick);
    if (bpm !== this.tempoBpm) this.takeTempo(bpm);
  }

  private takeTempo(bpm: number): void {
    this.tempoBpm = bpm;
    this.toldBpm = bpm;
    this.state.lanes.tempo(bpm);
    if (this.state.observer !== null) this.state.record({ type: 'tempo', atMs: this.state.nowMs, bpm });
  }

  /** The present song's own tempo counts, whatever was tapped before. */
  takeSongTempo(): void {
    this.map = this.state.show?.entries[this.state.entry]?.map ?? null;
    this.ownTrim = 1;
    if (this.map !== null) this.takeTempo(this.map.bpmAt(0));
  }

  /** The last recall at or before the start applies; cues after it are still to come. */
  private chase(): void {
    const { cueTicks, cuePositions } = this.entry!;
    this.nextCue = 0;
    while (this.nextCue < cueTicks.length && cueTicks[this.nextCue] <= this.startTick) this.nextCue++;
    if (this.nextCue > 0) this.recall(cuePositions[this.nextCue - 1]);
  }

  private recall(position: number): void {
    if (this.state.step?.position !== position) this.recallAt(position, 'cue');
  }

  /** Does the one thing that is due next. */
  run(): void {
    const entry = this.entry!;
    if (!this.outside) {
      const pulseMs = this.nextPulseMs();
      const cueMs = this.nextCueMs();
      if (this.nextTempoMs() <= Math.min(pulseMs, cueMs)) return this.takeMapTempo(this.nextTempo);
      if (pulseMs < cueMs) {
        this.nextPulse++;
        return this.tell(CLOCK, 0, 0);
      }
    }
    if (this.nextCue < entry.cueTicks.length && entry.cueTicks[this.nextCue] <= entry.map.endTick)
      return this.recall(entry.cuePositions[this.nextCue++]);
    this.stop();
    this.startTick = 0;
    this.takeMapTempo(0);
  }

  /**
   * Start at the beginning, else song position and continue, as the standard asks; pulses follow from the next whole
   * one.
   */
  private tellStart(): void {
    this.nextPulse = Math.ceil(this.startTick / TICKS_PER_PULSE);
    if (this.state.show!.clockOutputs.length === 0) return;
    const sixteenths = Math.floor(this.startTick / TICKS_PER_SIXTEENTH);
    if (sixteenths > 0) this.tell(SONG_POSITION, sixteenths & 127, sixteenths >> 7);
    this.tell(sixteenths > 0 ? CONTINUE : START, 0, 0);
  }

  private tell(status: number, data1: number, data2: number): void {
    const { show, lanes } = this.state;
    for (let i = 0; i < show!.clockOutputs.length; i++) lanes.clockMessage(show!.clockOutputs[i], status, data1, data2);
  }

  /** A pulse of the clock that is followed. @hotpath */
  outsideClock(): void {
    const { state } = this;
    const gapMs = state.nowMs - this.pulseMs;
    this.pulseMs = state.nowMs;
    if (gapMs > LONGEST_PULSE_MS) this.pulses = 0;
    else this.smooth(gapMs);
    if (this.armed) {
      this.armed = false;
      if (!this.begin(true)) return;
      this.pulseTick = this.startTick;
      this.chase();
      return state.record({ type: 'timeline', atMs: state.nowMs, state: 'play', tick: this.startTick });
    }
    if (!this.playing || !this.outside) return;
    this.pulseTick += TICKS_PER_PULSE;
    this.runPassed();
  }

  /** Cues that the pulse has reached, in their order; at the end of the song it stops. */
  private runPassed(): void {
    const { cueTicks, cuePositions, map } = this.entry!;
    const { entry } = this;
    while (
      this.playing &&
      this.entry === entry &&
      this.nextCue < cueTicks.length &&
      cueTicks[this.nextCue] <= this.pulseTick
    )
      this.recall(cuePositions[this.nextCue++]);
    if (this.playing && this.pulseTick >= map.endTick) {
      this.stop();
      this.startTick = 0;
    }
  }

  private smooth(gapMs: number): void {
    this.pulses++;
    this.pulseEveryMs += (gapMs - this.pulseEveryMs) / Math.min(this.pulses, SMOOTHED_PULSES);
    const bpm = 60_000 / (24 * this.pulseEveryMs);
    if (this.pulses >= SMOOTHED_PULSES && Math.abs(bpm - this.toldBpm) >= TOLD_BPM && bpm >= 20 && bpm <= 400)
      this.takeTempo(bpm);
  }

  /** Start (from the beginning) or continue: the next pulse begins. */
  outsideStart(fromBeginning: boolean): void {
    if (this.playing) this.stop();
    if (fromBeginning) this.startTick = 0;
    this.armed = true;
  }

  outsideStop(): void {
    this.stop();
  }

  /** Song position, in sixteenths; counts while it stands. */
  outsidePosition(sixteenths: number): void {
    if (!this.playing) this.locate(sixteenths * TICKS_PER_SIXTEENTH);
  }

  /** Another song has been recalled, by whatever hand: this one's timeline ends and stands at the start. */
  songChanged(): void {
    const { armed } = this;
    this.stop();
    // A start that came just before the call for the song is for the song.
    this.armed = armed;
    this.startTick = 0;
    this.entry = null;
  }

  /** The map of the song as it is now: the present tick stays; an edited tempo counts, whatever was tapped. */
  private takeMap(map: TempoMap): void {
    if (map === this.map) return;
    const isSame = this.map !== null && map.hasTemposOf(this.map);
    if (this.map !== null) this.anchorHere();
    this.map = map;
    if (isSame || (this.outside && this.playing)) return;
    this.ownTrim = 1;
    this.takeMapTempo(this.startTick);
  }

  /** After a recompile: the same place in the song's new cues; a tempo that was edited counts at once. */
  replace(): void {
    const { state } = this;
    if (state.step === null || state.show === null) return;
    const entry = state.show.entries.find((candidate) => candidate.entryId === state.step!.entryId);
    if (this.playing && !entry) return this.songChanged();
    if (entry) this.takeMap(entry.map);
    if (!this.playing || !entry) return;
    this.entry = entry;
    this.nextCue = 0;
    // What is due by now has been done.
    while (
      this.nextCue < entry.cueTicks.length &&
      (this.outside
        ? entry.cueTicks[this.nextCue] <= this.pulseTick
        : this.msOf(entry.cueTicks[this.nextCue]) <= state.nowMs)
    )
      this.nextCue++;
  }
}
