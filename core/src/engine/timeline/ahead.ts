import { CONTROLLER, PRESSURE, PROGRAM, WHEEL } from '../../midi/status';
import { TrackKind, type Track } from '../../timeline';
import type { Address } from '../compile/compiled';
import type { EngineState } from '../state/engineState';
import { pedalOf } from '../state/inputs';
import { PRESSURE_SLOT, WHEEL_SLOT } from '../state/limits';
import type { OwnClock } from './ownClock';

/** So far before its time something may be handed over, in ms. */
export const HORIZON_MS = 100;

const FIRST_CHANNEL_MODE = 120;
const Handed = {
  not: 0,
  /** It goes out at its time; the memory of what was sent learns it then. */
  sent: 1,
  /** It is over already: after an edit. */
  done: 2,
} as const;

/**
 * What of a track has been handed over before its moment, stamped: notes, values and plain messages to ports. Ends,
 * pedals, parameters, system exclusive, whatever sounds inside, and recalls and programs go at their moment; nothing
 * that stands behind a recall or a program is handed over before it.
 */
export class Ahead {
  /** The first event that has not been looked at. */
  private upTo = 0;
  /** Tick of the last that has. */
  private toTick = -Infinity;
  private track!: Track<Address>;
  private handed = new Uint8Array(0);

  constructor(
    private readonly state: EngineState,
    /** Starts a note of the track, unless it sounds already. */
    private readonly startNote: (number: number) => void,
  ) {}

  load(track: Track<Address>): void {
    this.track = track;
    this.handed = new Uint8Array(track.ticks.length);
    this.upTo = 0;
    this.toTick = -Infinity;
  }

  /** The next event is another one; what was handed over is over. */
  seek(next: number): void {
    this.upTo = next;
    if (this.toTick === -Infinity) return;
    this.toTick = -Infinity;
    this.handed.fill(Handed.not);
  }

  /** The song's track after an edit: what was handed over of the old one is over. */
  replace(track: Track<Address>, next: number): void {
    this.track = track;
    this.handed = new Uint8Array(track.ticks.length);
    for (let event = next; event < track.ticks.length && track.ticks[event] <= this.toTick; event++)
      if (this.valueLane(event) >= 0) this.handed[event] = Handed.done;
    this.upTo = next;
  }

  /** Whether an event is left out this time. @hotpath */
  isOver(event: number): boolean {
    return this.handed[event] === Handed.done;
  }

  /** Whether what an event sends is on its way already. @hotpath */
  isSent(event: number): boolean {
    return this.handed[event] === Handed.sent;
  }

  forget(event: number): void {
    this.handed[event] = Handed.not;
  }

  /** Does what was handed over from an event on, now: only the memory of what was sent hears of it. */
  settle(next: number, run: (event: number) => void): void {
    for (let event = next; event < this.upTo; event++) if (this.isSent(event)) run(event);
  }

  /**
   * Hands over what is due within the horizon, up to the next event that nothing may overtake.
   * @param turnTick where the way of the playhead ends next
   * @returns tick of what was not looked at: nothing there or behind may be handed over yet. @hotpath
   */
  hand(next: number, own: OwnClock, untilMs: number, turnTick: number): number {
    const { track, state } = this;
    this.upTo = Math.max(this.upTo, next);
    const nowMs = state.clock[0];
    for (; this.upTo < track.ticks.length; this.upTo++) {
      const tick = track.ticks[this.upTo];
      if (tick >= turnTick) break;
      const atMs = own.msOf(tick);
      if (atMs > untilMs) break;
      const stampMs = this.stampOf(this.upTo, atMs, own, turnTick);
      if (stampMs === Infinity) continue;
      state.stampFrom(Math.max(nowMs, stampMs));
      const isPassed = this.handOne(this.upTo, nowMs);
      state.stampFrom(nowMs);
      if (!isPassed) break;
      this.toTick = tick;
    }
    return this.upTo < track.ticks.length ? Math.min(turnTick, track.ticks[this.upTo]) : turnTick;
  }

  /** By how much later an event goes out than it falls due, in ms. @hotpath */
  offsetOf(event: number): number {
    const { offsets, lanes } = this.state;
    if (!offsets.areAny || !this.isPlain(event)) return 0;
    const lane = this.laneOf(event);
    return lane < 0 ? 0 : offsets.of(lanes.destinationOf(lane));
  }

  private laneOf(event: number): number {
    const { track } = this;
    const a = track.a[event];
    switch (track.kinds[event]) {
      case TrackKind.note:
      case TrackKind.noteEnd:
        return track.notes[a].lane;
      case TrackKind.value:
        return track.touches[a].lane;
      case TrackKind.message:
        return track.messages[a].lane;
      default:
        return -1;
    }
  }

  /**
   * When an event that is due at a time goes out: later by its output's offset, but before what nothing may overtake.
   * @returns `Infinity` where its way ends before. @hotpath
   */
  private stampOf(event: number, atMs: number, own: OwnClock, turnTick: number): number {
    const offsetMs = this.offsetOf(event);
    if (offsetMs === 0) return atMs;
    const { ticks } = this.track;
    const untilTick = own.exactTickAt(atMs + offsetMs);
    for (let later = event + 1; later < ticks.length && ticks[later] < Math.min(untilTick, turnTick); later++)
      if (!this.isPlain(later)) return own.msOf(ticks[later]);
    return untilTick < turnTick ? atMs + offsetMs : Infinity;
  }

  /** @returns false where nothing may overtake it. @hotpath */
  private handOne(event: number, nowMs: number): boolean {
    if (!this.isPlain(event)) return false;
    const { track, state } = this;
    const a = track.a[event];
    if (track.kinds[event] === TrackKind.note) {
      const { lane } = track.notes[a];
      if (!this.isReady(lane)) return true;
      if (state.lanes.inFlight.isFull(nowMs)) return false;
      this.startNote(a);
      return true;
    }
    const lane = this.valueLane(event);
    if (lane < 0 || !this.isReady(lane) || this.handed[event] !== Handed.not) return true;
    this.handed[event] = Handed.sent;
    this.emit(event, lane);
    return true;
  }

  private emit(event: number, lane: number): void {
    const { track, state } = this;
    const { lanes } = state;
    if (track.kinds[event] === TrackKind.message) {
      const { status, data1, data2 } = track.messages[track.a[event]];
      return lanes.emit(lane, status, data1, data2);
    }
    const { slot } = track.touches[track.a[event]];
    const value = track.b[event];
    if (slot === WHEEL_SLOT) lanes.emit(lane, WHEEL, value & 127, value >> 7);
    else if (slot === PRESSURE_SLOT) lanes.emit(lane, PRESSURE, value, 0);
    else lanes.emit(lane, CONTROLLER, slot, value);
  }

  /** A lane of a port that is here and has switched. @hotpath */
  private isReady(lane: number): boolean {
    const { lanes, registry } = this.state;
    return lanes.blockedBy[lane] === 0 && registry.destinations[lanes.destinationOf(lane)].kind === 'port';
  }

  /** Whether what stands behind an event may go out to its time before the event is done. @hotpath */
  isPlain(event: number): boolean {
    switch (this.track.kinds[event]) {
      case TrackKind.noteEnd:
      case TrackKind.note:
      case TrackKind.value:
      case TrackKind.text:
        return true;
      case TrackKind.message:
        return this.valueLane(event) >= 0;
      default:
        return false;
    }
  }

  /** Lane of a value or message that may be handed over ahead; −1: it goes at its moment. @hotpath */
  private valueLane(event: number): number {
    const { track } = this;
    const a = track.a[event];
    if (track.kinds[event] === TrackKind.value) {
      const { lane, slot } = track.touches[a];
      return pedalOf(slot) >= 0 ? -1 : lane;
    }
    if (track.kinds[event] !== TrackKind.message) return -1;
    const { lane, status, data1 } = track.messages[a];
    return status === PROGRAM || (status === CONTROLLER && data1 >= FIRST_CHANNEL_MODE) ? -1 : lane;
  }
}
