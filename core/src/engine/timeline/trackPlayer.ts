import { CONTROLLER, PRESSURE, PROGRAM, WHEEL } from '../../midi/status';
import { AddressHow, TrackKind, type Track } from '../../timeline';
import type { Address, CompiledStep } from '../compile/compiled';
import type { NoteRouter } from '../play/noteRouter';
import type { Outboard } from '../recall/outboard';
import { REASON } from '../reasons';
import type { EngineState } from '../state/engineState';
import { HoldState, TIMELINE } from '../state/heldNotes';
import { PRESSURE_SLOT, WHEEL_SLOT } from '../state/limits';
import type { OwnClock } from './ownClock';
import { AddressMemory } from './addressMemory';
import { Ahead } from './ahead';
import { LateEvents } from './lateEvents';
import { TouchMemory } from './touchMemory';

/** What a track acts upon besides lanes. */
export interface TrackParts {
  notes: Pick<NoteRouter, 'startTimeline' | 'ender'>;
  outboard: Pick<Outboard, 'selectForCue' | 'startSwitching'>;
  /** Recalls a place of the present song. */
  recallPlace(place: number): void;
  /** Recalls what was current before, where the present song still has it. */
  recallAgain(before: CompiledStep): void;
  /** The map goes times a factor from here to its next tempo. */
  takeFactor(factor: number): void;
}

const NO_TRACK: Track<Address> = {
  ticks: new Float64Array(0),
  kinds: new Uint8Array(0),
  a: new Int32Array(0),
  b: new Int32Array(0),
  c: new Int32Array(0),
  notes: [],
  touches: [],
  parameters: [],
  messages: [],
  addresses: [],
  addressLanes: new Int32Array(0),
  recalled: [],
  texts: [],
  factors: new Float64Array(0),
};

/**
 * Does what a track says, event by event, and knows what it has begun: notes, pedals and values are the track's own until
 * they end. It keeps no time; the transport says when.
 */
export class TrackPlayer {
  /** For the player to read. */
  text = '';
  /** Recalls and presets are passed over for as long as a role says so. */
  holdsCues = false;
  private track = NO_TRACK;
  /** Number of the next event. */
  private next = 0;
  /** By note: its hold, with the hold's generation; −1: it does not sound. */
  private holds = new Int32Array(0);
  private generations = new Int32Array(0);
  /** What was current before the track first recalled anything; null: it has not. */
  private before: CompiledStep | null = null;
  private readonly memory: TouchMemory;
  private readonly gear: AddressMemory;
  private readonly ahead: Ahead;
  private readonly late = new LateEvents();

  constructor(
    private readonly state: EngineState,
    private readonly parts: TrackParts,
  ) {
    this.memory = new TouchMemory(state);
    this.gear = new AddressMemory(state);
    this.ahead = new Ahead(state, (number) => this.startAhead(number));
    this.ahead.load(NO_TRACK);
  }

  /** Tick of the next event; `Infinity` when there is none. @hotpath */
  get nextTick(): number {
    return this.next < this.track.ticks.length ? this.track.ticks[this.next] : Infinity;
  }

  /** Whether the next event is the end of a note. @hotpath */
  get nextEnds(): boolean {
    return this.next < this.track.kinds.length && this.track.kinds[this.next] === TrackKind.noteEnd;
  }

  /** The factor on the tempo that the last tempo cue before a tick has asked for, unless the map's own came after it. */
  factorAt(tick: number, mapTempoTick: number): number {
    const { ticks, kinds, a, factors } = this.track;
    for (let event = ticks.length - 1; event >= 0; event--)
      if (kinds[event] === TrackKind.tempo && ticks[event] < tick)
        return ticks[event] < mapTempoTick ? 1 : factors[a[event]];
    return 1;
  }

  /** Another song's track: what the old one had begun has been ended. */
  load(track: Track<Address> | null): void {
    this.track = track ?? NO_TRACK;
    this.next = 0;
    this.holds = new Int32Array(this.track.notes.length).fill(-1);
    this.generations = new Int32Array(this.track.notes.length);
    this.memory.load(this.track);
    this.gear.load(this.track);
    this.ahead.load(this.track);
    this.late.clear();
    this.before = null;
    this.say('');
  }

  /** The next event is the first at a tick, or (`behind`) behind it. */
  private placeOf(tick: number, behind: boolean): number {
    const { ticks } = this.track;
    let low = 0;
    let high = ticks.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (ticks[middle] < tick || (behind && ticks[middle] === tick)) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** When the first of those that are put off is due; `Infinity`: none is. @hotpath */
  get lateMs(): number {
    return this.late.nextMs;
  }

  /** Does the next event, or puts it off by what its output is later. @hotpath */
  runNext(): void {
    const event = this.next++;
    const { ahead, late } = this;
    const offsetMs = ahead.offsetOf(event);
    if (late.isFull || !ahead.isPlain(event)) this.settleLate();
    if (offsetMs > 0) late.add(event, this.state.nowMs + offsetMs);
    else this.perform(event);
  }

  /** Does the first of those that were put off. @hotpath */
  runLate(): void {
    this.perform(this.late.take());
  }

  /** Nothing is put off beyond what follows now. @param isOver notes that were to come do not begin any more */
  private settleLate(isOver = false): void {
    const { late, track } = this;
    while (late.nextMs < Infinity) {
      const event = late.take();
      if (!isOver || track.kinds[event] !== TrackKind.note) this.perform(event);
    }
  }

  private perform(event: number): void {
    const { ahead } = this;
    if (ahead.isOver(event)) return ahead.forget(event);
    if (ahead.isSent(event)) this.runHanded(event);
    else this.run(event);
  }

  private runHanded = (event: number): void => {
    const { lanes } = this.state;
    this.ahead.forget(event);
    lanes.isHanded = true;
    this.run(event);
    lanes.isHanded = false;
  };

  /** What has been handed over is done now: it goes out by itself. */
  private settleHanded(): void {
    this.settleLate(true);
    this.ahead.settle(this.next, this.runHanded);
    this.ahead.seek(this.next);
  }

  /** Hands over what is due soon. @returns tick from which on nothing may be handed over yet. @hotpath */
  handAhead(own: OwnClock, untilMs: number, turnTick: number): number {
    return this.ahead.hand(this.next, own, untilMs, turnTick);
  }

  private run(event: number): void {
    const { track, state, parts } = this;
    const a = track.a[event];
    const b = track.b[event];
    const c = track.c[event];
    switch (track.kinds[event]) {
      case TrackKind.noteEnd:
        return this.endNote(a);
      case TrackKind.recall:
        return this.recall(a);
      case TrackKind.address:
        if (c === AddressHow.ifOther && this.holdsCues) return;
        this.gear.note(a);
        return parts.outboard.selectForCue(track.addressLanes[a], track.addresses[b], c);
      case TrackKind.tempo:
        return parts.takeFactor(track.factors[a]);
      case TrackKind.value:
        return this.memory.set(a, b);
      case TrackKind.select:
        return this.memory.select(a, c, b);
      case TrackKind.data:
        return this.memory.setData(a, c, b);
      case TrackKind.message:
        return this.message(a);
      case TrackKind.note:
        return this.startNote(a);
      case TrackKind.text:
        return this.say(track.texts[a]);
      default:
        return state.ignore(REASON.malformed);
    }
  }

  private recall(place: number): void {
    if (this.holdsCues) return;
    this.gear.noteRecalled(this.track.recalled[place]);
    this.before ??= this.state.step;
    this.parts.recallPlace(place);
  }

  /** Shows the player a text; an empty one takes it away. */
  say(text: string): void {
    if (text === this.text) return;
    this.text = text;
    if (this.state.observer !== null) this.state.record({ type: 'text', atMs: this.state.nowMs, text });
  }

  /** A note to its time; where its key sounds already, that may end before. @hotpath */
  private startAhead(number: number): void {
    const { state } = this;
    const { lane, noteKey, follows } = this.track.notes[number];
    const key = noteKey + (follows ? state.keyShift : 0);
    if ((key & ~127) !== 0 || state.lanes.isKeySounding(lane, key)) return;
    this.startNote(number);
    if (this.sounds(number)) state.lanes.inFlight.add((lane << 7) | key, state.nowMs);
  }

  /** @hotpath */
  private startNote(number: number): void {
    const { state } = this;
    // Handed over before its moment, or moved on while it sounds.
    if (this.sounds(number)) return;
    const { lane, layer, noteKey, follows, velocity } = this.track.notes[number];
    if (layer >= 0 && state.isMuted[layer] === 1) return;
    const key = noteKey + (follows ? state.keyShift : 0);
    if ((key & ~127) !== 0) return state.ignore(REASON['out-of-range']);
    const hold = this.parts.notes.startTimeline(lane, key, velocity);
    this.holds[number] = hold;
    if (hold >= 0) this.generations[number] = state.holds.generation(hold);
  }

  /** @hotpath */
  private endNote(number: number): void {
    if (this.sounds(number)) this.finish(this.holds[number], this.track.notes[number].releaseVelocity);
    this.holds[number] = -1;
  }

  /** Ends a note, also where it is still to come. @hotpath */
  private finish(hold: number, velocity: number): void {
    const { holds, lanes, nowMs } = this.state;
    lanes.inFlight.disown((holds.lane(hold) << 7) | holds.key(hold), nowMs);
    this.parts.notes.ender.finish(hold, velocity);
  }

  /** Whether a note that was started still sounds: a panic may have ended it. @hotpath */
  private sounds(number: number): boolean {
    const hold = this.holds[number];
    const { holds } = this.state;
    return (
      hold >= 0 &&
      holds.generation(hold) === this.generations[number] &&
      holds.layer(hold) === TIMELINE &&
      holds.state(hold) !== HoldState.free
    );
  }

  private message(number: number): void {
    const { lanes } = this.state;
    const { destination, lane, status, data1, data2, bytes } = this.track.messages[number];
    if (lane < 0) return lanes.sysex(destination, bytes!);
    if (lanes.isAway(lane)) return;
    if (status === CONTROLLER && data1 < 120) return lanes.sendValue(lane, data1, data2);
    if (status === PROGRAM) {
      lanes.sendAddress(lane, -1, -1, data1);
      return this.parts.outboard.startSwitching(lane);
    }
    if (status === PRESSURE) return lanes.sendValue(lane, PRESSURE_SLOT, data1);
    if (status === WHEEL) return lanes.sendValue(lane, WHEEL_SLOT, data1 | (data2 << 7));
    lanes.emit(lane, status, data1, data2);
  }

  /** Ends every note and lets every pedal go that the track has begun. */
  stop(): void {
    this.settleHanded();
    for (let number = 0; number < this.holds.length; number++) this.endNote(number);
    this.memory.lift();
  }

  /** Ends the track's own notes: those that are jumped away from. */
  endNotes(): void {
    this.settleHanded();
    for (let number = 0; number < this.holds.length; number++) this.endNote(number);
  }

  /**
   * Brings everything to where it would stand before a tick had it been played to there: folds what the track says from
   * its start, in order, and sends only what differs.
   * @param recalls whether the patch that belongs there is recalled; otherwise what a hand has recalled meanwhile stays,
   * with whatever its gear stands at.
   * @param only an output that is back, −1: everything
   */
  chase(tick: number, recalls: boolean, only = -1): void {
    const { track, memory } = this;
    this.next = this.placeOf(tick, false);
    if (only < 0) this.ahead.seek(this.next);
    const end = this.next;
    const last = memory.fold(end);
    this.gear.fold(track, end);
    memory.restoreUntouched();
    this.gear.restoreUntouched((lane, address) => this.select(lane, address, recalls));
    if (last < 0 && recalls) this.recallBefore();
    let text = '';
    for (let event = 0; event < end; event++) {
      if (track.kinds[event] === TrackKind.text) text = track.texts[track.a[event]];
      else if (track.kinds[event] === TrackKind.recall) this.bringRecall(event, event === last, recalls);
      else this.bring(event, recalls, only);
    }
    memory.bringSelections();
    this.say(text);
  }

  /** One event of what is folded: it counts where nothing behind it puts the same thing elsewhere. */
  private bring(event: number, recalls: boolean, only: number): void {
    const { track, memory } = this;
    const a = track.a[event];
    const b = track.b[event];
    switch (track.kinds[event]) {
      case TrackKind.address:
        if (!(this.holdsCues && track.c[event] === AddressHow.ifOther)) this.bringAddress(event, a, b, recalls);
        return;
      case TrackKind.value:
        return memory.bring(event, a, b, !recalls && only < 0);
      case TrackKind.data:
        return memory.bringData(event, a);
      case TrackKind.message: {
        const { isState, destination } = track.messages[a];
        if (isState && (only < 0 || destination === only)) this.message(a);
        return;
      }
      default:
        return;
    }
  }

  private bringRecall(event: number, isLast: boolean, recalls: boolean): void {
    if (this.holdsCues) return;
    const place = this.track.a[event];
    if (isLast && recalls) this.recall(place);
    // What is current already is not recalled again: its gear may stand elsewhere by now.
    this.bringRecalled(event, place, recalls);
  }

  /** What the track recalls only later goes back to what was current before it did. */
  private recallBefore(): void {
    const { before } = this;
    this.before = null;
    if (before !== null && !this.holdsCues) this.parts.recallAgain(before);
  }

  /** The same where it was stopped: what was played there is not played again, what hands have recalled stays. */
  chaseInPlace(tick: number): void {
    const { next } = this;
    this.chase(tick, false);
    this.next = next;
  }

  /** A patch that is passed over leaves its gear where it put it, unless something later puts it elsewhere. */
  private bringRecalled(event: number, place: number, everywhere: boolean): void {
    const pairs = this.track.recalled[place];
    if (pairs === undefined) return;
    for (let i = 0; i < pairs.length; i += 2) this.bringAddress(event, pairs[i], pairs[i + 1], everywhere);
  }

  private bringAddress(event: number, addressLane: number, address: number, everywhere: boolean): void {
    if (!this.gear.isLast(event, addressLane)) return;
    this.gear.note(addressLane);
    this.select(this.track.addressLanes[addressLane], this.track.addresses[address], everywhere);
  }

  private select(lane: number, address: Address, everywhere: boolean): void {
    if (everywhere || this.state.lanes.users[lane] === 0)
      this.parts.outboard.selectForCue(lane, address, AddressHow.ifOther);
  }

  /** An output is back, and has forgotten what it got: it gets what counts now. */
  outputBack(destination: number, tick: number): void {
    const { next } = this;
    this.memory.forget(this.state.registry.destinations[destination].lane);
    this.chase(tick, false, destination);
    this.next = next;
  }

  /** The song's track after an edit: what sounds goes on where it still does; nothing is chased. */
  replace(track: Track<Address>, tick: number): void {
    const old = this.track;
    if (track === old) return;
    this.settleLate();
    this.ahead.settle(this.next, this.runHanded);
    const oldHolds = this.holds;
    const oldGenerations = this.generations;
    this.track = track;
    this.holds = new Int32Array(track.notes.length).fill(-1);
    this.generations = new Int32Array(track.notes.length);
    this.memory.replace(track);
    this.gear.replace(track);
    const { ahead } = this;
    this.next = this.placeOf(tick, true);
    ahead.replace(track, this.next);
    const stillToEnd = new Map<string, number>();
    for (let event = this.next; event < track.ticks.length; event++)
      if (track.kinds[event] === TrackKind.noteEnd) stillToEnd.set(track.notes[track.a[event]].key, track.a[event]);
    for (let number = 0; number < oldHolds.length; number++) {
      const hold = oldHolds[number];
      if (hold < 0 || this.state.holds.generation(hold) !== oldGenerations[number]) continue;
      if (this.state.holds.layer(hold) !== TIMELINE) continue;
      const now = stillToEnd.get(old.notes[number].key);
      if (now === undefined || track.notes[now].lane !== old.notes[number].lane)
        this.finish(hold, old.notes[number].releaseVelocity);
      else {
        this.holds[now] = hold;
        this.generations[now] = oldGenerations[number];
      }
    }
  }
}
