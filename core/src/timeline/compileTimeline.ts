import { midi } from '../midi';
import { assertNever } from '../result';
import {
  backingEvents,
  eventsByTick,
  type BackingEvent,
  type BackingPart,
  type Cue,
  type NoteTarget,
  type Song,
} from '../show';
import { MOST_PLACED_CUES, placedCues, type PlacedCue } from './placedCues';
import { rampPoints } from './ramp';
import { tempoMapOfSong } from './repeatedMap';
import { tempoMapOf } from './tempoMap';
import {
  AddressHow,
  TrackKind,
  type Track,
  type TrackMessage,
  type TrackNote,
  type TrackParameter,
  type TrackTouch,
} from './track';

/** Slots of values behind the 128 controllers. */
const PRESSURE_SLOT = 128;
const WHEEL_SLOT = 129;

/** Where notes go; a layer by its number, −1: none, a port. */
export interface NoteLane {
  lane: number;
  layer: number;
  shift: number;
  follows: boolean;
}

/** What cues name, as whoever plays the track knows it; null or −1: it is not there. */
export interface TrackTargets<A> {
  /** Number of a place of the song: its patches, each with its blends behind it. */
  placeOf(patchId: string, blendId: string | null): number;
  /** Lane and address of a preset of an outboard instrument. */
  presetOf(instrumentId: string, presetId: string, channel: number | null): { lane: number; address: A } | null;
  /** Addresses that the recall of a place brings. */
  addressesOf(place: number): readonly { lane: number; address: A }[];
  addressOf(msb: number, lsb: number, program: number): A;
  destinationOf(port: string): number;
  /** `channel` from 1. */
  laneOf(port: string, channel: number): number;
  layerOf(layerId: string): NoteLane | null;
  allowsSysex(port: string): boolean;
  /** A cue does nothing, and why. */
  leaveOut(cue: Cue | BackingPart, reason: string): void;
}

interface Event {
  tick: number;
  kind: TrackKind;
  a: number;
  b: number;
  c: number;
  dead?: boolean;
}

/** A parameter number as far as it has been selected; −1: half of it has not. */
type ParameterNumber = Omit<TrackParameter, 'lane'>;

/** Controllers 98–101 select: LSB and MSB of a number that is not registered, then of one that is. */
function withSelected(old: ParameterNumber | undefined, controller: number, value: number): ParameterNumber {
  const isRegistered = controller >= 100;
  const now = old?.isRegistered === isRegistered ? old : { isRegistered, msb: -1, lsb: -1 };
  return controller % 2 === 1 ? { ...now, msb: value } : { ...now, lsb: value };
}

/** What of a song its timeline is made of. */
type TimelineOfSong = Pick<Song, 'cues' | 'sections' | 'map' | 'backing'>;

/** More messages of backing parts than these, repeated ones counted, are left out. */
const MOST_BACKING_EVENTS = 200_000;

/** One sorted track of what a song's timeline does. */
export function compileTimeline<A>(song: TimelineOfSong, targets: TrackTargets<A>): Track<A> {
  const compile = new TrackCompile(targets, tempoMapOfSong(song));
  const placed = placedCues(song);
  if (placed.length === MOST_PLACED_CUES)
    targets.leaveOut(placed[MOST_PLACED_CUES - 1].cue, `what comes behind ${MOST_PLACED_CUES} cues is left out`);
  for (const cue of placed) compile.add(cue);
  for (const part of song.backing) if (!part.off) compile.part(part, eventsByTick(backingEvents(part), song.sections));
  return compile.track();
}

class TrackCompile<A> {
  private readonly events: Event[] = [];
  /** Ends of notes: of one tick they come first. */
  private readonly ends: Event[] = [];
  private readonly notes: TrackNote[] = [];
  private readonly touches: TrackTouch[] = [];
  private readonly touchByKey = new Map<string, number>();
  /** By touch: values of ramps that a later cue may cut. */
  private readonly ramps = new Map<number, Event[]>();
  private readonly parameters: TrackParameter[] = [];
  private readonly parameterByKey = new Map<string, number>();
  private readonly messages: TrackMessage[] = [];
  private readonly addresses: A[] = [];
  private readonly addressLanes: number[] = [];
  private readonly layers = new Map<string, NoteLane | null>();
  private readonly recalled: (Int32Array | undefined)[] = [];
  private readonly texts: string[] = [];
  private readonly factors: number[] = [];
  private backingCount = 0;

  constructor(
    private readonly targets: TrackTargets<A>,
    private readonly map: ReturnType<typeof tempoMapOf>,
  ) {}

  add({ cue, atTick, key }: PlacedCue): void {
    const { targets, endTick } = this;
    if (atTick >= endTick) return targets.leaveOut(cue, 'it stands behind the end of the song');
    switch (cue.kind) {
      case 'recall':
        return this.recall(cue, atTick);
      case 'preset': {
        const found = targets.presetOf(cue.instrumentId, cue.presetId, cue.channel);
        if (found === null) return targets.leaveOut(cue, 'its preset is not there');
        return this.address(atTick, found.lane, found.address, AddressHow.ifOther);
      }
      case 'program':
        return this.program(cue, atTick);
      case 'controller':
        return this.controller(cue, atTick);
      case 'note':
        return this.note(cue, atTick, key);
      case 'message':
      case 'lights':
        return this.message(cue, atTick);
      case 'text':
        return this.push(atTick, TrackKind.text, this.texts.push(cue.text) - 1);
      case 'tempo':
        return this.push(atTick, TrackKind.tempo, this.factors.push(cue.percent / 100) - 1);
      default:
        return assertNever(cue);
    }
  }

  private get endTick(): number {
    return this.map.endTick;
  }

  private push(tick: number, kind: TrackKind, a: number, b = 0, c = 0): void {
    this.events.push({ tick, kind, a, b, c });
  }

  private recall(cue: Extract<Cue, { kind: 'recall' }>, atTick: number): void {
    const place = this.targets.placeOf(cue.patchId, cue.blendId);
    if (place < 0) return this.targets.leaveOut(cue, 'what it recalls is not there');
    this.recalled[place] ??= Int32Array.from(
      this.targets
        .addressesOf(place)
        .flatMap(({ lane, address }) => [this.addressLane(lane), this.addresses.push(address) - 1]),
    );
    this.push(atTick, TrackKind.recall, place);
  }

  private addressLane(lane: number): number {
    const known = this.addressLanes.indexOf(lane);
    return known >= 0 ? known : this.addressLanes.push(lane) - 1;
  }

  private address(atTick: number, lane: number, address: A, how: number): void {
    this.push(atTick, TrackKind.address, this.addressLane(lane), this.addresses.push(address) - 1, how);
  }

  /** Bank bytes that go ahead are sent where they stand, and again with the program wherever they have not been. */
  private program(cue: Extract<Cue, { kind: 'program' }>, atTick: number): void {
    const { msb, lsb, msbAhead, lsbAhead } = cue;
    const lane = this.targets.laneOf(cue.port, cue.channel);
    if (msb !== null && msbAhead) this.bankByte(atTick - msbAhead, lane, midi.CC_BANK_MSB, msb);
    if (lsb !== null && lsbAhead) this.bankByte(atTick - lsbAhead, lane, midi.CC_BANK_LSB, lsb);
    const how = (msbAhead === 0 ? 0 : AddressHow.msbIsSent) | (lsbAhead === 0 ? 0 : AddressHow.lsbIsSent);
    this.address(atTick, lane, this.targets.addressOf(msb ?? -1, lsb ?? -1, cue.program), how);
  }

  private bankByte(atTick: number, lane: number, data1: number, data2: number): void {
    const message = { destination: -1, lane, status: midi.CONTROLLER, data1, data2, bytes: null, isState: false };
    if (atTick >= 0) this.raw(atTick, message);
  }

  /** A backing part, with its events where they run. */
  part(part: BackingPart, events: readonly BackingEvent[]): void {
    const target = this.targetOf(part.to);
    if (target === null) return this.targets.leaveOut(part, 'the layer that it plays is not there');
    const inside = events.filter(({ atTick }) => atTick < this.endTick);
    const room = Math.max(0, MOST_BACKING_EVENTS - this.backingCount);
    if (inside.length > room)
      this.targets.leaveOut(part, `what comes behind ${MOST_BACKING_EVENTS} events of backing parts is left out`);
    this.backingCount += Math.min(room, inside.length);
    const bank = { msb: -1, lsb: -1 };
    inside.slice(0, room).forEach((event, i) => {
      if (event.kind === 'note') return this.noteAt(event, event.endTick, `${part.id} ${i}`, event.key, target);
      this.partMessage(event, target.lane, part.to.kind === 'port', bank);
    });
  }

  /** A layer has its own sound: only a port is told of programs and banks. */
  private partMessage(
    { atTick, status, data1, data2 }: Extract<BackingEvent, { kind: 'message' }>,
    lane: number,
    toPort: boolean,
    bank: { msb: number; lsb: number },
  ): void {
    const isBank = status === midi.CONTROLLER && (data1 === midi.CC_BANK_MSB || data1 === midi.CC_BANK_LSB);
    if ((isBank || status === midi.PROGRAM) && !toPort) return;
    if (isBank) {
      bank[data1 === midi.CC_BANK_MSB ? 'msb' : 'lsb'] = data2;
      return this.bankByte(atTick, lane, data1, data2);
    }
    if (status === midi.PROGRAM) {
      const how = AddressHow.msbIsSent | AddressHow.lsbIsSent;
      return this.address(atTick, lane, this.targets.addressOf(bank.msb, bank.lsb, data1), how);
    }
    if (status === midi.CONTROLLER && data1 < 120) return void this.value(atTick, lane, data1, data2);
    if (status === midi.PRESSURE) return void this.value(atTick, lane, PRESSURE_SLOT, data1);
    if (status === midi.WHEEL) return void this.value(atTick, lane, WHEEL_SLOT, data1 | (data2 << 7));
    this.raw(atTick, { destination: -1, lane, status, data1, data2, bytes: null, isState: false });
  }

  private touch(lane: number, slot: number): number {
    const key = `${lane} ${slot}`;
    const known = this.touchByKey.get(key);
    if (known !== undefined) return known;
    this.touchByKey.set(key, this.touches.length);
    return this.touches.push({ lane, slot }) - 1;
  }

  /** A value from a tick on: what is left of a ramp that was under way there ends. */
  private value(atTick: number, lane: number, slot: number, value: number): number {
    const touch = this.touch(lane, slot);
    for (const event of this.ramps.get(touch) ?? []) if (event.tick >= atTick) event.dead = true;
    this.ramps.delete(touch);
    this.push(atTick, TrackKind.value, touch, value);
    return touch;
  }

  private controller(cue: Extract<Cue, { kind: 'controller' }>, atTick: number): void {
    const { controller, value, ramp } = cue;
    const touch = this.value(atTick, this.targets.laneOf(cue.port, cue.channel), controller, value);
    if (ramp === null) return;
    const values = rampPoints({ ...ramp, atTick, value }, this.map)
      .filter(({ tick }) => tick < this.endTick)
      .map((point): Event => {
        return { tick: point.tick, kind: TrackKind.value, a: touch, b: point.value, c: 0 };
      });
    this.events.push(...values);
    this.ramps.set(touch, values);
  }

  private targetOf(to: NoteTarget): NoteLane | null {
    if (to.kind === 'layer') {
      const known = this.layers.get(to.layerId);
      if (known !== undefined) return known;
      const found = this.targets.layerOf(to.layerId);
      this.layers.set(to.layerId, found);
      return found;
    }
    return { lane: this.targets.laneOf(to.port, to.channel), layer: -1, shift: 0, follows: false };
  }

  private note(cue: Extract<Cue, { kind: 'note' }>, atTick: number, key: string): void {
    const target = this.targetOf(cue.to);
    if (target === null) return this.targets.leaveOut(cue, 'the layer that it plays is not there');
    this.noteAt({ ...cue, atTick }, atTick + cue.lengthTicks, key, cue.key, target);
  }

  private noteAt(
    { atTick, velocity, releaseVelocity }: { atTick: number; velocity: number; releaseVelocity: number },
    endTick: number,
    key: string,
    noteKey: number,
    { lane, layer, shift, follows }: NoteLane,
  ): void {
    const note = this.notes.length;
    this.notes.push({ key, lane, layer, noteKey: noteKey + shift, follows, velocity, releaseVelocity });
    this.push(atTick, TrackKind.note, note);
    const tick = Math.min(this.endTick, endTick);
    this.ends.push({ tick, kind: TrackKind.noteEnd, a: note, b: 0, c: 0 });
  }

  private message(cue: Extract<Cue, { kind: 'message' | 'lights' }>, atTick: number): void {
    const { port, bytes, isState } = cue;
    const [status, data1, data2 = 0] = bytes;
    const kind = status & 0xf0;
    if (kind === 0xf0) {
      if (!this.targets.allowsSysex(port)) return this.targets.leaveOut(cue, `${port} allows no system exclusive`);
      const destination = this.targets.destinationOf(port);
      const inner = Uint8Array.from(bytes.slice(1, -1));
      return this.raw(atTick, { destination, lane: -1, status: 0xf0, data1: 0, data2: 0, bytes: inner, isState });
    }
    const lane = this.targets.laneOf(port, (status & 15) + 1);
    if (isState && kind === 0xc0) return this.address(atTick, lane, this.targets.addressOf(-1, -1, data1), 0);
    if (isState && kind === 0xb0 && data1 < 120) return void this.value(atTick, lane, data1, data2);
    if (isState && kind === 0xd0) return void this.value(atTick, lane, PRESSURE_SLOT, data1);
    if (isState && kind === 0xe0) return void this.value(atTick, lane, WHEEL_SLOT, data1 | (data2 << 7));
    const destination = this.targets.destinationOf(port);
    return this.raw(atTick, { destination, lane, status: kind, data1, data2, bytes: null, isState: false });
  }

  private raw(atTick: number, message: TrackMessage): void {
    this.push(atTick, TrackKind.message, this.messages.push(message) - 1);
  }

  track(): Track<A> {
    const events = this.inOrder();
    this.findParameters(events);
    return {
      ...columnsOf(events),
      notes: this.notes,
      touches: this.touches,
      parameters: this.parameters,
      messages: this.messages,
      addresses: this.addresses,
      addressLanes: Int32Array.from(this.addressLanes),
      recalled: this.recalled,
      texts: this.texts,
      factors: Float64Array.from(this.factors),
    };
  }

  /** By tick; of one tick ends first, then whatever was put in first. Both lists come nearly sorted. */
  private inOrder(): Event[] {
    const byTick = (x: Event, y: Event): number => x.tick - y.tick;
    const ends = this.ends.sort(byTick);
    const others = this.events.filter(({ dead }) => dead !== true).sort(byTick);
    const events = new Array<Event>(ends.length + others.length);
    for (let i = 0, end = 0, other = 0; i < events.length; i++) {
      const isEnd = end < ends.length && (other === others.length || ends[end].tick <= others[other].tick);
      events[i] = isEnd ? ends[end++] : others[other++];
    }
    return events;
  }

  /** Parameter numbers and their data go together: each data entry belongs to the number selected before it. */
  private findParameters(events: readonly Event[]): void {
    const selected = new Map<number, ParameterNumber>();
    for (const event of events) {
      if (event.kind !== TrackKind.value) continue;
      const { lane, slot } = this.touches[event.a];
      const value = event.b;
      if (slot >= 98 && slot <= 101) {
        selected.set(lane, withSelected(selected.get(lane), slot, value));
        Object.assign(event, { kind: TrackKind.select, a: lane, b: value, c: slot });
      } else if (slot === 6 || slot === 38) {
        const now = selected.get(lane);
        if (now === undefined || now.msb < 0 || now.lsb < 0) this.asItIs(event, lane, slot);
        else Object.assign(event, { kind: TrackKind.data, a: this.parameter(lane, now), b: value, c: slot });
      } else if (slot === 96 || slot === 97) this.asItIs(event, lane, slot);
    }
  }

  /** Of the moment only: nothing can be said of how it leaves things. */
  private asItIs(event: Event, lane: number, slot: number): void {
    const message = { destination: -1, lane, status: 0xb0, data1: slot, data2: event.b, bytes: null, isState: false };
    Object.assign(event, { kind: TrackKind.message, a: this.messages.push(message) - 1, b: 0, c: 0 });
  }

  private parameter(lane: number, number: ParameterNumber): number {
    const key = `${lane} ${number.isRegistered} ${number.msb} ${number.lsb}`;
    const known = this.parameterByKey.get(key);
    if (known !== undefined) return known;
    this.parameterByKey.set(key, this.parameters.length);
    return this.parameters.push({ lane, ...number }) - 1;
  }
}

function columnsOf(events: readonly Event[]): Pick<Track<unknown>, 'ticks' | 'kinds' | 'a' | 'b' | 'c'> {
  const count = events.length;
  const ticks = new Float64Array(count);
  const kinds = new Uint8Array(count);
  const [a, b, c] = [new Int32Array(count), new Int32Array(count), new Int32Array(count)];
  for (let i = 0; i < count; i++) {
    const event = events[i];
    ticks[i] = event.tick;
    kinds[i] = event.kind;
    a[i] = event.a;
    b[i] = event.b;
    c[i] = event.c;
  }
  return { ticks, kinds, a, b, c };
}
