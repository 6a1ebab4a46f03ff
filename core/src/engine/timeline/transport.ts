import { SLOWEST_BPM } from '../../show';
import { TICKS_PER_QUARTER, type TempoMap } from '../../timeline';
import type { CompiledEntry } from '../compile/compiled';
import type { JumpAt } from '../input';
import type { EngineState } from '../state/engineState';
import { HORIZON_MS } from './ahead';
import { Clicks } from './clicks';
import { ClockSender, TICKS_PER_SIXTEENTH } from './clockSender';
import { OutsideClock, TICKS_PER_PULSE } from './outsideClock';
import { CueRecalls } from './cueRecalls';
import { OwnClock } from './ownClock';
import { TempoNow } from './tempoNow';
import { TrackPlayer } from './trackPlayer';
import type { TransportParts } from './transportParts';
import { Turns, boundaryAfter } from './turns';

const BRIDGED_BARS = 2;
/** A microsecond: what is due so soon is due with the pulse. */
const SAME_MS = 0.001;

/**
 * Runs through the track of the present song, by its own time or by an outside clock. By its own, where the transport is
 * follows from when and where it was started, never from adding steps up.
 */
export class Transport {
  playing = false;
  readonly recalls: CueRecalls;
  readonly player: TrackPlayer;
  private entry: CompiledEntry | null = null;
  private readonly own = new OwnClock();
  private readonly tempo: TempoNow;
  /** It stands where it was stopped: played again, it goes on, and leaves what hands have recalled meanwhile. */
  private goesOn = false;
  readonly turns = new Turns();
  private readonly sender: ClockSender;
  private outside = false;
  /** A song position that came while it ran; −1: none. */
  private heldPosition = -1;
  readonly clock = new OutsideClock();
  private readonly clicks: Clicks;

  constructor(
    private readonly state: EngineState,
    private readonly parts: TransportParts,
  ) {
    this.tempo = new TempoNow(state, this.own, this.clock);
    this.sender = new ClockSender(state, this.own);
    this.clicks = new Clicks(state);
    this.recalls = new CueRecalls(state, this, (position, cause) => parts.recallAt(position, cause));
    this.player = new TrackPlayer(state, {
      get notes() {
        return parts.notes;
      },
      get outboard() {
        return parts.outboard;
      },
      recallPlace: (place) => this.recalls.recall(this.entry!, place),
      recallAgain: (before) => this.recalls.again(this.entry!, before),
      takeFactor: (factor) => {
        if (!this.outside) this.tempo.takeFactor(factor, this.runsByItself);
      },
    });
  }

  /** When the next tempo, event, pulse, jump or the end of the song falls due; `Infinity` when it stands. @hotpath */
  get nextMs(): number {
    if (!this.playing || this.entry === null) return this.sender.standingMs(this.tempo.bpm);
    const next = this.outside
      ? this.clock.msOf(this.nextOutsideTick, this.bridgeTicks)
      : Math.min(this.own.msOf(Math.min(this.player.nextTick, this.turnTick)), this.nextPulseMs(), this.tempo.nextMs());
    return Math.min(next, this.nextClickMs(), this.countedPulseMs(), this.player.lateMs);
  }

  /** It plays, or has pulses to send all the same. @hotpath */
  get isRunning(): boolean {
    return this.playing || this.sender.standingMs(this.tempo.bpm) < Infinity;
  }

  /** Time goes on to a moment: what should have been sent long ago while it stood is left out. @hotpath */
  skipTo(nowMs: number): void {
    if (!this.playing) this.sender.skipTo(nowMs, this.tempo.bpm);
  }

  /** While bars are counted the pulses go on as before, up to the start. */
  private countedPulseMs(): number {
    const atMs = this.clicks.waits ? this.sender.standingMs(this.tempo.bpm) : Infinity;
    return atMs < this.own.startMs ? atMs : Infinity;
  }

  /** Of a clock that is followed: the next event, turn or pulse that is sent on. */
  private get nextOutsideTick(): number {
    return Math.min(this.player.nextTick, this.turnTick, this.sender.nextTick);
  }

  private nextClickMs(): number {
    return this.clicks.nextMs(this.outside ? this.clock : this.own, this.bridgeTicks, this.turnTick);
  }

  /** Where its way ends next: at a jump, at the loop's end, at the song's. What stands there is not done. @hotpath */
  private get turnTick(): number {
    const { endTick } = this.entry!.map;
    return this.outside ? endTick : Math.min(this.turns.nextTick, endTick);
  }

  /** In quarter notes a minute; 0: there has been no song. */
  get tempoBpm(): number {
    return this.tempo.bpm;
  }

  private nextPulseMs(): number {
    if (this.clicks.waits) return this.own.startMs;
    const { nextTick } = this.sender;
    return nextTick === Infinity ? Infinity : this.own.msOf(nextTick);
  }

  /**
   * Hands over what is due within the horizon and may go before its moment.
   * @returns when it is to be asked again, `Infinity`: when something has been done. @hotpath
   */
  handAhead(nowMs: number): number {
    if (!this.runsByItself || this.entry === null) return Infinity;
    const { own, player } = this;
    const untilMs = nowMs + HORIZON_MS;
    const turn = this.turnTick;
    const before = player.handAhead(own, untilMs, turn);
    const next = Math.min(this.sender.hand(untilMs, before), this.clicks.hand(own, untilMs, before));
    // What stands at `before` within the horizon is waited for: it is done at its moment.
    const looked = before < turn ? own.msOf(before) : Infinity;
    return Math.min(next, looked > untilMs ? looked : Infinity) - HORIZON_MS / 2;
  }

  tickAt(atMs: number): number {
    if (!this.playing || this.entry === null) return Math.floor(this.own.startTick + 0.001);
    if (this.outside) return this.clock.tickAt(atMs, this.bridgeTicks);
    // Rounded up by a thousandth of a tick, so that the very moment of a cue reads as its tick.
    return Math.floor(this.own.exactTickAt(atMs) + 0.001);
  }

  /** So far a clock that is lost is bridged: two bars. */
  private get bridgeTicks(): number {
    const tick = this.clock.pulseTick;
    return BRIDGED_BARS * (this.barTo(tick) - this.barFrom(tick));
  }

  /** Whether the clock that leads has stopped without a word. */
  isLeaderLost(atMs: number): boolean {
    return this.playing && this.outside && this.clock.isLost(atMs);
  }

  barFrom = (tick: number): number => this.own.barFrom(tick);
  barTo = (tick: number): number => this.own.barTo(tick);

  /** How long until a tick ahead, in ms: by the map, or by the tempo of the clock that is followed. @hotpath */
  untilTickMs(tick: number, nowMs: number): number {
    return this.outside
      ? (tick - this.tickAt(nowMs)) * (60_000 / (Math.max(SLOWEST_BPM, this.tempoBpm) * TICKS_PER_QUARTER))
      : Math.max(0, this.own.msOf(tick) - nowMs);
  }

  play(): void {
    const { state } = this;
    if (this.playing || state.step === null || state.show === null) return;
    if (state.show.clockInput >= 0) return state.warn('clock-from-outside', state.portName(state.show.clockInput));
    if (!this.begin(false)) return;
    const { countInBars } = this.entry!;
    this.own.startMs = state.nowMs;
    if (countInBars === 0) this.sender.start(this.own.startTick);
    this.startTrack();
    if (countInBars > 0) this.own.startMs += this.clicks.countIn(countInBars, this.own, state.nowMs);
    state.record({ type: 'timeline', atMs: state.nowMs, state: 'play', tick: this.tickAt(state.nowMs) });
  }

  private begin(outside: boolean): boolean {
    this.takeEntry();
    if (this.entry === null) return false;
    if (this.own.startTick >= this.entry.map.endTick) this.own.startTick = 0;
    this.playing = true;
    this.recalls.calls.begin(this.own.startTick);
    this.outside = outside;
    return true;
  }

  /** The present entry of the set, with its map and track. */
  private takeEntry(): void {
    const entry = this.state.show!.entries[this.state.entry] ?? null;
    if (entry === this.entry) return;
    this.entry = entry;
    this.own.map = entry?.map ?? null;
    this.player.load(entry?.track ?? null);
    this.goesOn = false;
  }

  /** What belongs at the start, and the events from there on; at a place where it was stopped it just goes on. */
  private startTrack(): void {
    const tick = this.own.startTick;
    this.own.factor = 1;
    if (this.goesOn) this.player.chaseInPlace(tick);
    else this.player.chase(tick, true);
    this.goesOn = false;
    if (!this.outside) this.tempo.chase(tick, this.player.factorAt(tick, this.own.map!.tempoTickAt(tick)));
    this.clicks.seek(this.own.map, tick);
  }

  stop(): void {
    this.clock.armed = false;
    if (!this.playing) return;
    // Another clock goes on with its next pulse, never between two.
    this.own.startTick = this.outside ? this.clock.pulseTick + TICKS_PER_PULSE : this.own.exactTickAt(this.state.nowMs);
    this.playing = false;
    this.goesOn = true;
    this.turns.cancelJump();
    this.player.stop();
    if (!this.clicks.waits) this.sender.stop();
    this.clicks.endCount();
    this.state.record({
      type: 'timeline',
      atMs: this.state.nowMs,
      state: 'stop',
      tick: this.tickAt(this.state.nowMs),
    });
  }

  /** Goes to a tick; while playing, what belongs there is recalled. An outside clock says by itself where it is. */
  locate(tick: number): void {
    const { state } = this;
    if (this.playing && this.outside) return state.warn('clock-from-outside', state.portName(state.show!.clockInput));
    this.jumpNow(tick);
  }

  /** It is at a tick from now on. */
  private goTo(tick: number, isLoop = false): void {
    this.own.startTick = tick;
    this.own.startMs = this.state.nowMs;
    this.goesOn = false;
    this.turns.placedAt(tick);
    this.own.factor = 1;
    if (!this.playing) {
      if (this.own.map !== null) this.tempo.takeMap(tick);
      return;
    }
    if (!this.clicks.waits) this.sender.stop(isLoop ? 'atLoop' : 'all');
    this.clicks.endCount();
    this.sender.start(tick, isLoop ? 'atLoop' : 'all');
    this.player.endNotes();
    this.startTrack();
  }

  /** Plays a stretch over and over; null: on to the end. Its end is not in it. */
  setLoop(range: { fromTick: number; toTick: number } | null): void {
    const { state, turns } = this;
    turns.setLoop(range, this.tickAt(state.nowMs));
    state.record({ type: 'timeline', atMs: state.nowMs, state: 'loop', tick: turns.loop?.fromTick ?? -1 });
  }

  /**
   * Goes on at another tick as soon as the beat, bar or section has ended; another jump takes its place, null takes it
   * back. While it stands it goes there at once.
   */
  jump(toTick: number | null, at: JumpAt): void {
    const { state, turns } = this;
    if (toTick === null) return turns.cancelJump();
    if (!this.playing || this.own.map === null) return this.locate(toTick);
    if (this.outside) return state.warn('clock-from-outside', state.portName(state.show!.clockInput));
    if (at === 'now') return this.jumpNow(toTick);
    const { map, sections } = this.entry!;
    const fromTick = boundaryAfter(this.own.exactTickAt(state.nowMs), at, map, sections);
    turns.setJump(Math.min(fromTick, map.endTick), Math.max(0, toTick));
    state.record({ type: 'timeline', atMs: state.nowMs, state: 'jump', tick: turns.jumpsTo });
  }

  private jumpNow(toTick: number): void {
    this.goTo(Math.max(0, toTick));
    this.state.record({ type: 'timeline', atMs: this.state.nowMs, state: 'locate', tick: this.own.startTick });
  }

  /** How many times the map's tempo it goes at: what was tapped, or what the clock that is followed makes of it. */
  get trim(): number {
    return this.outside && this.playing && this.own.map !== null
      ? this.tempoBpm / this.own.map.bpmAt(this.clock.pulseTick)
      : this.own.trim;
  }

  /** Goes on from here at another tempo: a factor over the whole map, until the song changes. */
  setTempo(bpm: number): void {
    this.tempo.set(bpm, this.runsByItself);
  }

  /** It runs by its own time, and is past a count-in. */
  private get runsByItself(): boolean {
    return this.playing && !this.outside && !this.clicks.waits;
  }

  /** The present song's own tempo counts, whatever was tapped before. */
  takeSongTempo(): void {
    this.takeEntry();
    this.tempo.takeSong();
  }

  /** Does the one thing that is due next. */
  run(): void {
    const { nowMs } = this.state;
    if (!this.playing || this.countedPulseMs() <= nowMs) return this.sender.standingPulse();
    if (this.player.lateMs <= nowMs) return this.player.runLate();
    if (this.nextClickMs() <= nowMs) return this.clicks.run();
    const turn = this.turnTick;
    const eventTick = Math.min(this.player.nextTick, turn);
    if (this.outside) {
      if (this.sender.nextTick <= eventTick) return this.sender.pulse();
    } else if (this.runOwnTime(this.own.msOf(eventTick))) return;
    if (this.player.nextTick < turn || (this.player.nextTick === turn && this.player.nextEnds))
      return this.player.runNext();
    this.turn(turn);
  }

  /** A tempo or a pulse that comes before the next event. @returns false: the event is next */
  private runOwnTime(eventMs: number): boolean {
    const pulseMs = this.nextPulseMs();
    const tempoMs = this.tempo.nextMs();
    // What ends at a tick ends before its tempo, its tempo counts before its cues.
    if (tempoMs <= Math.min(pulseMs, eventMs) && !(tempoMs === eventMs && this.player.nextEnds))
      this.tempo.pass(this.runsByItself);
    else if (pulseMs < eventMs || (this.clicks.waits && pulseMs === eventMs)) this.pulse();
    else return false;
    return true;
  }

  /** A pulse of its own clock, or the start that has been counted to. */
  private pulse(): void {
    if (!this.clicks.waits) return this.sender.pulse();
    this.clicks.endCount();
    this.sender.start(this.own.startTick);
  }

  /** The end of its way: on elsewhere, or it stops. */
  private turn(tick: number): void {
    const { turns } = this;
    if (!this.outside && tick === turns.nextTick)
      return turns.isJump(tick) ? this.jumpNow(turns.leadsTo(tick)) : this.goTo(turns.leadsTo(tick), true);
    const { atEnd } = this.entry!;
    const { outside } = this;
    this.stop();
    this.player.say('');
    this.goTo(0);
    this.parts.ended(atEnd, outside);
  }

  /** A pulse of the clock that is followed. @hotpath */
  outsideClock(): void {
    const { state, clock } = this;
    const leads = this.playing && this.outside;
    if (clock.armed) clock.startRun(state.nowMs);
    const bpm = clock.pulse(state.nowMs, leads, leads ? this.bridgeTicks : Infinity);
    if (bpm > 0) this.tempo.take(bpm);
    if (clock.armed) return this.beginOutside();
    if (this.playing && this.outside) this.runPassed();
  }

  /** The pulse that begins: what belongs here, then what stands here. */
  private beginOutside(): void {
    const { state, clock } = this;
    clock.armed = false;
    if (!this.begin(true)) return;
    clock.begin(this.own.startTick);
    this.sender.follow(this.own.startTick);
    this.startTrack();
    state.record({ type: 'timeline', atMs: state.nowMs, state: 'play', tick: this.own.startTick });
    // What stands on the first pulse comes with it.
    while (this.playing && this.nextOutsideTick <= clock.pulseTick) this.run();
  }

  /** What the last pulse has reached, in its order; at the end of the song it stops. */
  private runPassed(): void {
    const { entry } = this;
    while (this.playing && this.outside && this.entry === entry && this.isReached(this.nextOutsideTick)) this.run();
  }

  /** By the line where there is one, else by the pulse itself. */
  private isReached(tick: number): boolean {
    const { clock, state } = this;
    return clock.hasLine ? clock.msOf(tick, this.bridgeTicks) <= state.nowMs + SAME_MS : tick <= clock.pulseTick;
  }

  /** Start (from the beginning) or continue: the next pulse begins; what belongs there goes out now. */
  outsideStart(fromBeginning: boolean): void {
    if (this.playing) this.stop();
    if (fromBeginning) this.goTo(0);
    else if (this.heldPosition >= 0) this.goTo(this.heldPosition);
    this.heldPosition = -1;
    this.clock.armed = true;
    this.takeEntry();
    if (this.entry !== null && !this.goesOn) this.player.chase(this.own.startTick, true);
  }

  /** Song position, in sixteenths; while it runs it is kept for the next continue. */
  outsidePosition(sixteenths: number): void {
    const tick = sixteenths * TICKS_PER_SIXTEENTH;
    if (this.playing) this.heldPosition = tick;
    else this.locate(tick);
  }

  /** Another song has been recalled, by whatever hand: this one's timeline ends and stands at the start. */
  songChanged(): void {
    const { armed } = this.clock;
    this.stop();
    // A start that came just before the call for the song is for the song.
    this.clock.armed = armed;
    this.own.startTick = 0;
    this.goesOn = false;
    this.turns.setLoop(null, 0);
    this.entry = null;
    this.player.load(null);
  }

  /** An output is back: it gets what the timeline has set there. */
  outputBack(destination: number): void {
    if (this.playing) this.player.outputBack(destination, this.tickAt(this.state.nowMs));
  }

  /** The map of the song as it is now: the present tick stays; an edited tempo counts, whatever was tapped. */
  private takeMap(map: TempoMap): void {
    if (map === this.own.map) return;
    const isSame = this.own.map !== null && map.hasTemposOf(this.own.map);
    if (this.own.map !== null && !isSame) this.tempo.anchor(this.runsByItself);
    this.own.map = map;
    if (isSame || (this.outside && this.playing)) return;
    this.own.trim = 1;
    this.tempo.takeMap(this.own.startTick);
  }

  /** After a recompile: the same place in the song's new track; a tempo that was edited counts at once. */
  replace(): void {
    const { state } = this;
    if (state.step === null || state.show === null) return;
    const entry = state.show.entries.find((candidate) => candidate.entryId === state.step!.entryId);
    if (!entry) return this.playing ? this.songChanged() : undefined;
    this.takeMap(entry.map);
    if (this.entry === null) return;
    this.entry = entry;
    const tick = this.playing ? this.presentTick() : this.own.startTick;
    this.clicks.replace(entry.map, tick);
    this.player.replace(entry.track, tick);
  }

  /** What is due up to here has been done; within a count-in nothing of the start has. */
  private presentTick(): number {
    if (this.clicks.waits) return this.own.startTick - 1;
    if (this.outside) return this.clock.tickAt(this.state.nowMs, this.bridgeTicks);
    return this.own.exactTickAt(this.state.nowMs) + 1e-6;
  }
}
