import {
  CC_BANK_LSB,
  CC_BANK_MSB,
  CC_SUSTAIN,
  CONTROLLER,
  NOTE_OFF,
  NOTE_ON,
  PRESSURE,
  PROGRAM,
  RELEASE_UNSAID,
  WHEEL,
  WHEEL_CENTRE,
} from '../../midi/status';
import { AddressHow } from '../../timeline';
import type { Effect, NoteValue, Send, SharedEffect } from '../../show';
import type { Registry } from './registry';
import type { CompiledClick, CountedLane } from '../compile/compiled';
import { PRESSURE_SLOT, VALUE_SLOTS, WHEEL_SLOT } from './limits';
import { PEDAL_CONTROLLERS, pedalOf } from './inputs';
import { extended } from './extended';
import { InFlight } from './inFlight';
import type { EngineObserver } from '../records';
import type { EngineSink } from '../sink';

const ACCENT_VELOCITY = 120;
const CLICK_VELOCITY = 90;

/** Reasons in `blockedBy`. */
export const Blocked = {
  away: 1,
  notReady: 2,
  /** The present patch has put its layer off until it is ready; another one stands in. */
  deferred: 4,
} as const;

const startsAtZero = (slot: number): boolean => slot === PRESSURE_SLOT || pedalOf(slot) >= 0;
const ONE_OWNER_ONE_ON = 0x101;
const MOST_OWNED = 0xfe00;

/**
 * What has been sent where. All counting is by lane (a port and channel, or a built-in layer), so that what was begun
 * there
 * is ended there, whoever began it. Everything that leaves the engine leaves through here.
 */
export class Lanes {
  /** Destination and channel of a lane: `destination * 16 + channel`. */
  private routes = new Int32Array(0);
  /**
   * By lane and key: how many hold it (low byte), and how many note-ons it got since it was last silent (high byte).
   */
  private owners = new Uint16Array(0);
  /** Note-offs that an absent output is owed, by lane and key. */
  owed = new Uint8Array(0);
  /** Lanes whose layer has ever been recalled. */
  played = new Uint8Array(0);
  /** Last value sent, by lane and slot; −1 when none was. */
  lastSent = new Int16Array(0);
  /** Layers that hold each pedal down, by lane and pedal. */
  pedalOwners = new Uint16Array(0);
  /** Layers of the present patch on this lane. */
  users = new Uint16Array(0);
  /** Known address: program −1 when nothing is known. */
  msb = new Int16Array(0);
  lsb = new Int16Array(0);
  program = new Int16Array(0);
  /** An address that waits until switching is over: program −1 when none does. */
  pendingMsb = new Int16Array(0);
  pendingLsb = new Int16Array(0);
  pendingProgram = new Int16Array(0);
  /** When its sound is ready: 0 it is, `Infinity` it loads. */
  readyAtMs = new Float64Array(0);
  switchSerial = new Int32Array(0);
  /** By the message that last went there, so that two layers on one lane send once. */
  stamp = new Float64Array(0);
  away = new Uint8Array(0);
  /** Lanes whose wheel or pressure has been left away from rest. */
  bent = new Uint8Array(0);
  /** By lane, why a note cannot simply start there: the reasons of `Blocked` added up; 0 it can. */
  blockedBy = new Uint8Array(0);
  observer: EngineObserver | null = null;
  /** Notes that have been handed over ahead of their time. */
  readonly inFlight = new InFlight();
  /** What is sent now has been handed over already: only the memory of it changes. */
  isHanded = false;
  private readonly laneBook: Pick<Registry, 'destinations' | 'nameOf'>;
  private count = 0;
  private destinations = 0;

  constructor(
    registry: Registry,
    private readonly sink: EngineSink,
    private readonly clock: Float64Array,
  ) {
    this.laneBook = registry;
  }

  /** Makes room for what a compile has added. Not on the playing path. */
  grow(laneCount: number): void {
    if (laneCount > this.users.length) this.enlarge(Math.max(laneCount, Math.ceil(this.users.length * 1.5), 256));
    for (; this.destinations < this.laneBook.destinations.length; this.destinations++) {
      const entry = this.laneBook.destinations[this.destinations];
      const lanes = entry.kind === 'port' ? 16 : entry.lanes;
      for (let channel = 0; channel < lanes; channel++) {
        this.routes[entry.lane + channel] = this.destinations * 16 + channel;
      }
    }
    this.count = laneCount;
    if (this.away.length < this.destinations) this.away = extended(this.away, this.destinations + 64, 0);
  }

  get laneCount(): number {
    return this.count;
  }

  private enlarge(size: number): void {
    this.routes = extended(this.routes, size, 0);
    this.owners = extended(this.owners, size * 128, 0);
    this.played = extended(this.played, size, 0);
    this.owed = extended(this.owed, size * 128, 0);
    this.lastSent = extended(this.lastSent, size * VALUE_SLOTS, -1);
    this.pedalOwners = extended(this.pedalOwners, size * 3, 0);
    this.users = extended(this.users, size, 0);
    this.msb = extended(this.msb, size, 0);
    this.lsb = extended(this.lsb, size, 0);
    this.program = extended(this.program, size, -1);
    this.pendingMsb = extended(this.pendingMsb, size, 0);
    this.pendingLsb = extended(this.pendingLsb, size, 0);
    this.pendingProgram = extended(this.pendingProgram, size, -1);
    this.readyAtMs = extended(this.readyAtMs, size, 0);
    this.switchSerial = extended(this.switchSerial, size, 0);
    this.bent = extended(this.bent, size, 0);
    this.stamp = extended(this.stamp, size, 0);
    this.blockedBy = extended(this.blockedBy, size, 0);
  }

  destinationOf(lane: number): number {
    return this.routes[lane] >> 4;
  }

  channelOf(lane: number): number {
    return this.routes[lane] & 15;
  }

  isAway(lane: number): boolean {
    return (this.blockedBy[lane] & Blocked.away) !== 0;
  }

  /** @hotpath */
  emit(lane: number, status: number, data1: number, data2: number): void {
    if (this.isHanded) return;
    const route = this.routes[lane];
    this.sink.send(route >> 4, status | (route & 15), data1, data2, this.clock);
    if (this.observer !== null) this.tell(route >> 4, status | (route & 15), data1, data2);
  }

  private tell(destination: number, status: number, data1: number, data2: number): void {
    this.observer!.record({
      type: 'out',
      atMs: this.clock[0],
      to: this.laneBook.nameOf(destination),
      status,
      data1,
      data2,
    });
  }

  /** Starts one owner's note; false when the key has as many as can be counted. Its lane must not be away. @hotpath */
  noteOn(lane: number, key: number, velocity: number): boolean {
    const at = (lane << 7) | key;
    const owned = this.owners[at];
    if (owned >= MOST_OWNED) return false;
    this.owners[at] = owned + ONE_OWNER_ONE_ON;
    this.emit(lane, NOTE_ON, key, velocity);
    return true;
  }

  /** Whether a key sounds on a lane, whoever holds it. @hotpath */
  isKeySounding(lane: number, key: number): boolean {
    return this.owners[(lane << 7) | key] !== 0;
  }

  /** Whether anything sounds on a lane. Looks at all its keys: for recalls of addresses only. */
  isSounding(lane: number): boolean {
    for (let at = lane << 7; at < (lane + 1) << 7; at++) if (this.owners[at] !== 0) return true;
    return false;
  }

  /** Ends one owner's note; the last owner sends as many note-offs as there were note-ons. @hotpath */
  noteOff(lane: number, key: number, velocity: number): void {
    const at = (lane << 7) | key;
    const owned = --this.owners[at];
    if ((owned & 0xff) > 0) {
      if (owned >> 8 > 1 && (owned & 0xff) === 1 && this.inFlight.isComing(at, this.clock[0]))
        this.endBefore(lane, key, velocity);
      return;
    }
    this.owners[at] = 0;
    if (this.isAway(lane)) {
      this.owed[at] = Math.min(255, this.owed[at] + (owned >> 8));
      return;
    }
    for (let ons = owned >> 8; ons > 0; ons--) this.emit(lane, NOTE_OFF, key, velocity);
    const flightMs = this.inFlight.take(at, this.clock[0]);
    if (flightMs >= 0) this.endBehind(lane, key, velocity, flightMs);
  }

  /** Whoever is left holds a note that is still to come: what sounds until then ends. */
  private endBefore(lane: number, key: number, velocity: number): void {
    const at = (lane << 7) | key;
    for (let ons = (this.owners[at] >> 8) - 1; ons > 0; ons--) this.emit(lane, NOTE_OFF, key, velocity);
    this.owners[at] = ONE_OWNER_ONE_ON;
  }

  /** Ends a note that goes out later: what has been handed over cannot be called back. */
  private endBehind(lane: number, key: number, velocity: number, flightMs: number): void {
    const nowMs = this.clock[0];
    this.clock[0] = flightMs + 1;
    this.emit(lane, NOTE_OFF, key, velocity);
    this.clock[0] = nowMs;
  }

  /** Sends a controller, pressure or wheel value and remembers it; an absent output gets nothing. @hotpath */
  sendValue(lane: number, slot: number, value: number): void {
    if (this.isAway(lane)) return;
    this.lastSent[lane * VALUE_SLOTS + slot] = value;
    if (slot >= PRESSURE_SLOT) this.swing(lane, slot, value);
    else this.emit(lane, CONTROLLER, slot, value);
  }

  private swing(lane: number, slot: number, value: number): void {
    const wheel = this.lastSent[lane * VALUE_SLOTS + WHEEL_SLOT];
    this.bent[lane] =
      (wheel >= 0 && wheel !== WHEEL_CENTRE) || this.lastSent[lane * VALUE_SLOTS + PRESSURE_SLOT] > 0 ? 1 : 0;
    if (slot === WHEEL_SLOT) this.emit(lane, WHEEL, value & 127, value >> 7);
    else this.emit(lane, PRESSURE, value, 0);
  }

  /**
   * The same, only where it differs from what was last sent. What was never sent counts as at rest for wheel and
   * pressure, and as up for pedals.
   */
  bringTo(lane: number, slot: number, value: number): void {
    const last = this.lastSent[lane * VALUE_SLOTS + slot];
    const known = last >= 0 ? last : slot === WHEEL_SLOT ? WHEEL_CENTRE : startsAtZero(slot) ? 0 : -1;
    if (known !== value) this.sendValue(lane, slot, value);
  }

  /** One layer puts a pedal down. @hotpath */
  pedalDown(lane: number, pedal: number, value: number): void {
    if (this.pedalOwners[lane * 3 + pedal]++ === 0) this.sendValue(lane, PEDAL_CONTROLLERS[pedal], value);
  }

  /** One layer lets a pedal go; the last sends `value` (below 64). @hotpath */
  pedalUp(lane: number, pedal: number, value: number): void {
    if (--this.pedalOwners[lane * 3 + pedal] === 0) this.sendValue(lane, PEDAL_CONTROLLERS[pedal], value);
  }

  /**
   * Sends bank bytes (−1: none) and program together and remembers the address.
   * @param how bits of `AddressHow`: a bank byte that the channel has got is not sent again
   */
  sendAddress(lane: number, msb: number, lsb: number, program: number, how = 0): void {
    this.sendBank(lane, CC_BANK_MSB, msb, (how & AddressHow.msbIsSent) !== 0);
    this.sendBank(lane, CC_BANK_LSB, lsb, (how & AddressHow.lsbIsSent) !== 0);
    this.emit(lane, PROGRAM, program, 0);
    this.msb[lane] = msb;
    this.lsb[lane] = lsb;
    this.program[lane] = program;
  }

  private sendBank(lane: number, controller: number, value: number, isSent: boolean): void {
    const at = lane * VALUE_SLOTS + controller;
    if (value < 0 || (isSent && this.lastSent[at] === value)) return;
    this.lastSent[at] = value;
    this.emit(lane, CONTROLLER, controller, value);
  }

  /** A click: a short note of its port, or the sink's own. */
  click({ lane, accentKey, key, output, levelDb }: CompiledClick, isAccent: boolean): void {
    if (lane < 0) return this.sink.click(output, isAccent, levelDb, this.clock);
    if (this.isAway(lane)) return;
    this.emit(lane, NOTE_ON, isAccent ? accentKey : key, isAccent ? ACCENT_VELOCITY : CLICK_VELOCITY);
    this.emit(lane, NOTE_OFF, isAccent ? accentKey : key, RELEASE_UNSAID);
  }

  /** An output has gone: from here on it gets nothing. */
  leave(destination: number): void {
    const entry = this.laneBook.destinations[destination];
    this.away[destination] = 1;
    for (let lane = entry.lane; lane < entry.lane + 16; lane++) this.blockedBy[lane] |= Blocked.away;
  }

  /** The sound of a lane is not ready until a time (`Infinity`: until the host says so); 0 makes it ready. */
  setReadyAt(lane: number, atMs: number): void {
    this.readyAtMs[lane] = atMs;
    this.switchSerial[lane]++;
    if (atMs === 0) this.blockedBy[lane] &= ~Blocked.notReady;
    else this.blockedBy[lane] |= Blocked.notReady;
  }

  /**
   * What an output is owed from the time it was away: note-offs, then pedals up; the rest of what it knew is forgotten.
   */
  settle(destination: number, counted: readonly (CountedLane | undefined)[]): void {
    const entry = this.laneBook.destinations[destination];
    this.away[destination] = 0;
    for (let lane = entry.lane; lane < entry.lane + 16; lane++) {
      this.blockedBy[lane] = 0;
      this.bent[lane] = 0;
      for (let key = 0; key < 128; key++) {
        for (; this.owed[(lane << 7) | key] > 0; this.owed[(lane << 7) | key]--) this.emit(lane, NOTE_OFF, key, 64);
      }
      for (let slot = 0; slot < VALUE_SLOTS; slot++) {
        const at = lane * VALUE_SLOTS + slot;
        const pedal = PEDAL_CONTROLLERS.indexOf(slot as 64);
        if (pedal >= 0 && this.lastSent[at] >= 64 && this.pedalOwners[lane * 3 + pedal] === 0)
          this.sendValue(lane, slot, 0);
        this.lastSent[at] = -1;
      }
      // Where a counted instrument stands is not forgotten by pulling a cable.
      if (counted[lane] === undefined) this.program[lane] = -1;
      this.pendingProgram[lane] = -1;
      this.readyAtMs[lane] = 0;
      this.switchSerial[lane]++;
    }
  }

  /** Panic: a wheel that Rackle has left bent goes to rest. */
  centreWheel(lane: number): void {
    const last = this.lastSent[lane * VALUE_SLOTS + WHEEL_SLOT];
    if (last >= 0 && last !== WHEEL_CENTRE) this.sendValue(lane, WHEEL_SLOT, WHEEL_CENTRE);
  }

  /**
   * Whether there is any point in silencing a destination: an output, or a built-in layer that was ever played or
   * moved.
   */
  isTouched(destination: number): boolean {
    const entry = this.laneBook.destinations[destination];
    if (entry.kind === 'port') return true;
    for (let lane = entry.lane; lane < entry.lane + entry.lanes; lane++) if (this.played[lane] === 1) return true;
    return false;
  }

  /**
   * Second panic: everything off on every channel of an output. Addresses stay; other values are unknown from here on.
   */
  silence(destination: number): void {
    const entry = this.laneBook.destinations[destination];
    const lanes = entry.kind === 'port' ? 16 : entry.lanes;
    for (let lane = entry.lane; lane < entry.lane + lanes; lane++) {
      this.emit(lane, CONTROLLER, CC_SUSTAIN, 0);
      this.emit(lane, CONTROLLER, 120, 0);
      this.emit(lane, CONTROLLER, 123, 0);
      this.emit(lane, CONTROLLER, 121, 0);
      this.lastSent.fill(-1, lane * VALUE_SLOTS, (lane + 1) * VALUE_SLOTS);
      this.bent[lane] = 0;
    }
  }

  balance(destination: number, values: Float64Array, at: number, rampMs: number): void {
    this.sink.balance(destination, values, at, rampMs, this.clock);
  }

  effects(destination: number, effects: readonly Effect[], rampMs: number): void {
    this.sink.effects(destination, effects, rampMs, this.clock);
  }

  effectValue(destination: number, effectId: string, parameter: string, value: number): void {
    this.sink.effectValue(destination, effectId, parameter, value, this.clock);
  }

  preset(destination: number, preset: number): void {
    this.sink.preset(destination, preset, this.clock);
  }

  whole(which: number, value: number): void {
    this.sink.whole(which, value, this.clock);
  }

  tempo(bpm: number): void {
    this.sink.tempo(bpm, this.clock);
  }

  sends(destination: number, sends: readonly Send[], rampMs: number): void {
    this.sink.sends(destination, sends, rampMs, this.clock);
  }

  live(destination: number, input: string | null, mono: boolean, open: boolean): void {
    this.sink.live(destination, input, mono, open, this.clock);
  }

  route(destination: number, output: string): void {
    this.sink.route(destination, output, this.clock);
  }

  echo(note: NoteValue): void {
    this.sink.echo(note, this.clock);
  }

  setlistEffects(shared: readonly SharedEffect[], whole: readonly Effect[]): void {
    this.sink.setlistEffects(shared, whole, this.clock);
  }

  /** A message of the timeline's clock to an output; an absent one gets nothing. */
  clockMessage(destination: number, status: number, data1: number, data2: number): void {
    if (this.away[destination] === 0) this.sink.send(destination, status, data1, data2, this.clock);
  }

  /** Steps an instrument without numbers from where its count stands, the shorter way round its list. */
  sendCounted(lane: number, { next, previous, count }: CountedLane, to: number): void {
    const from = Math.max(0, this.program[lane]);
    const forwards = (to - from + count) % count;
    const step = forwards <= count / 2 ? next : previous;
    for (let i = Math.min(forwards, count - forwards); i > 0; i--) {
      this.emit(lane, step.status, step.data1, step.data2);
      if (step.status === NOTE_ON) this.emit(lane, NOTE_OFF, step.data1, 64);
    }
    this.program[lane] = to;
    this.msb[lane] = -1;
    this.lsb[lane] = -1;
  }

  fade(destination: number, fadeMs: number): void {
    this.sink.fade(destination, fadeMs, this.clock);
  }

  sysex(destination: number, bytes: Uint8Array): void {
    if (this.away[destination] === 0) this.sink.sendSysex(destination, bytes, this.clock);
  }
}
