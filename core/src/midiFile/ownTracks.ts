import { midi, unpacked } from '../midi';
import type { WriteMessage } from '../formats/smf';
import {
  backingEvents,
  eventsByTick,
  packedEvents,
  type BackingPart,
  type EntryMessage,
  type Instrument,
  type Song,
} from '../show';
import { AddressHow, TrackKind, compileTimeline, tempoMapOf, type Track } from '../timeline';
import { outboardById } from './channelCues';

/** A track of a file for one port and channel, or for one of Rackle's own sounds. */
export interface OwnTrack {
  name: string;
  /** Alias of the port; null: a sound of Rackle's own. */
  port: string | null;
  messages: WriteMessage[];
}

/** An address with what follows it. */
interface FileAddress {
  msb: number;
  lsb: number;
  program: number;
  also: readonly EntryMessage[];
}

interface Lane extends OwnTrack {
  channel: number;
}

/**
 * What a song's timeline says by itself, without recalls, by port and channel: cues as they run, backing parts as they are
 * packed. At one tick ends of notes come first, then cues, then parts.
 * @param notes false: notes and parts are left out
 * @param left takes, in words, what a file cannot say
 */
export function ownTracks(
  song: Song,
  instruments: readonly Instrument[],
  keyShift: number,
  notes: boolean,
  left: (words: string) => void,
): OwnTrack[] {
  return new OwnTracks(song, instruments, keyShift, left).run(notes);
}

class OwnTracks {
  private readonly lanes: Lane[] = [];
  private readonly byKey = new Map<string, number>();

  constructor(
    private readonly song: Song,
    private readonly instruments: readonly Instrument[],
    private readonly keyShift: number,
    private readonly left: (words: string) => void,
  ) {}

  run(notes: boolean): OwnTrack[] {
    const { song } = this;
    const cues = song.cues.filter(({ kind }) => notes || kind !== 'note');
    const track = this.compiled({ ...song, cues, backing: [] });
    const said = this.lanes.map(() => [] as WriteMessage[]);
    const ends = this.lanes.map(() => [] as WriteMessage[]);
    this.walk(track, (lane, message, isEnd) => ((isEnd ? ends : said)[lane] ??= []).push(message));
    const parts = new Map<number, WriteMessage[]>();
    if (notes)
      for (const part of song.backing)
        if (!part.off) {
          const lane = this.laneOfPart(part);
          if (lane >= 0) parts.set(lane, [...(parts.get(lane) ?? []), ...this.partMessages(part, lane)]);
        }
    this.lanes.forEach((lane, i) => {
      lane.messages = merged(ends[i] ?? [], said[i] ?? [], parts.get(i) ?? []);
    });
    return this.lanes.filter(({ messages }) => messages.length > 0);
  }

  private lane(port: string | null, channel: number, name: string): number {
    const key = `${port ?? `own ${name}`} ${channel}`;
    const known = this.byKey.get(key);
    if (known !== undefined) return known;
    const number = this.lanes.push({ name, port, channel, messages: [] }) - 1;
    this.byKey.set(key, number);
    return number;
  }

  private portLane(port: string, channel: number): number {
    return this.lane(port, channel, `${port} ${channel}`);
  }

  private layerLane(layerId: string): number {
    const layer = this.song.layers.find(({ id }) => id === layerId);
    if (layer === undefined) return -1;
    const instrument = outboardById(this.instruments, layer.sound.instrumentId);
    if (instrument !== null) return this.portLane(instrument.port, layer.sound.channel ?? instrument.channel);
    this.left(`${layer.name} is a sound of Rackle’s own: the file has its notes without it`);
    return this.lane(null, 1, layer.name);
  }

  private shiftOf(layerId: string): number {
    const follows = this.song.layers.find(({ id }) => id === layerId)?.followsTranspose ?? false;
    return follows ? this.song.transpose + this.keyShift : 0;
  }

  private compiled(song: Song): Track<FileAddress> {
    return compileTimeline<FileAddress>(song, {
      // Recalls stand in tracks of their own.
      placeOf: () => 0,
      addressesOf: () => [],
      presetOf: (instrumentId, presetId, channel) => {
        const instrument = outboardById(this.instruments, instrumentId);
        const name = instrument?.names.find(({ id }) => id === presetId);
        if (instrument === null || name === undefined) return null;
        if (name.program === null || instrument.counted !== null)
          this.left(`${instrument.name}: ${name.name} has no program, and is not in the file`);
        const lane = this.portLane(instrument.port, channel ?? instrument.channel);
        const address = { msb: name.msb ?? -1, lsb: name.lsb ?? -1, program: name.program ?? -1, also: name.also };
        return { lane, address };
      },
      addressOf: (msb, lsb, program) => ({ msb, lsb, program, also: [] }),
      destinationOf: (port) => this.portLane(port, 1),
      laneOf: (port, channel) => this.portLane(port, channel),
      layerOf: (layerId) => {
        const lane = this.layerLane(layerId);
        return lane < 0 ? null : { lane, layer: -1, shift: this.shiftOf(layerId), follows: false };
      },
      allowsSysex: () => true,
      leaveOut: (_, reason) => this.left(`a cue is not in the file: ${reason}`),
    });
  }

  private laneOfPart({ to, name }: BackingPart): number {
    if (to.kind === 'port') return this.portLane(to.port, to.channel);
    const lane = this.layerLane(to.layerId);
    if (lane < 0) this.left(`the backing part ${name} is not in the file: its layer is not there`);
    return lane;
  }

  private partMessages(part: BackingPart, lane: number): WriteMessage[] {
    const { sections, map } = this.song;
    const repeats = sections.some((section) => section.repeats !== null);
    const events = repeats ? packedEvents(eventsByTick(backingEvents(part), sections)) : part.events;
    const { ticks, statuses, data1, data2 } = unpacked(events)!;
    const { channel } = this.lanes[lane];
    const shift = part.to.kind === 'layer' ? this.shiftOf(part.to.layerId) : 0;
    const { endTick } = tempoMapOf(map);
    const messages: WriteMessage[] = [];
    for (let i = 0; i < ticks.length; i++) {
      const isNote = statuses[i] <= midi.NOTE_ON;
      const key = data1[i] + (isNote ? shift : 0);
      if (key < 0 || key > 127 || (ticks[i] >= endTick && statuses[i] !== midi.NOTE_OFF)) continue;
      const status = statuses[i] | (channel - 1);
      // What sounds at the end of the song ends there.
      const atTick = Math.min(endTick, ticks[i]);
      messages.push({ kind: 'message', atTick, status, data1: key, data2: data2[i] });
    }
    return messages;
  }

  private walk(track: Track<FileAddress>, say: (lane: number, message: WriteMessage, isEnd: boolean) => void): void {
    const { ticks, kinds, a, b, c } = track;
    for (let event = 0; event < ticks.length; event++) {
      const atTick = ticks[event];
      const send = (lane: number, status: number, data1: number, data2: number, isEnd = false): void =>
        say(lane, { kind: 'message', atTick, status: status | (this.lanes[lane].channel - 1), data1, data2 }, isEnd);
      const [x, y, z] = [a[event], b[event], c[event]];
      switch (kinds[event]) {
        case TrackKind.note:
        case TrackKind.noteEnd: {
          const { lane, noteKey, velocity, releaseVelocity } = track.notes[x];
          const isEnd = kinds[event] === TrackKind.noteEnd;
          if (noteKey < 0 || noteKey > 127) break;
          send(lane, isEnd ? midi.NOTE_OFF : midi.NOTE_ON, noteKey, isEnd ? releaseVelocity : velocity, isEnd);
          break;
        }
        case TrackKind.address:
          this.address(track.addresses[y], z, (...bytes) => send(track.addressLanes[x], ...bytes));
          break;
        case TrackKind.value:
          sendValue(track.touches[x].slot, y, (...bytes) => send(track.touches[x].lane, ...bytes));
          break;
        case TrackKind.select:
          send(x, midi.CONTROLLER, z, y);
          break;
        case TrackKind.data:
          send(track.parameters[x].lane, midi.CONTROLLER, z, y);
          break;
        case TrackKind.message: {
          const { lane, status, data1, data2, bytes, destination } = track.messages[x];
          if (bytes !== null) say(destination, { kind: 'sysex', atTick, bytes }, false);
          else send(lane, status, data1, data2);
          break;
        }
      }
    }
  }

  private address(
    { msb, lsb, program, also }: FileAddress,
    how: number,
    send: (status: number, data1: number, data2: number) => void,
  ): void {
    if (program < 0) return;
    if (msb >= 0 && (how & AddressHow.msbIsSent) === 0) send(midi.CONTROLLER, midi.CC_BANK_MSB, msb);
    if (lsb >= 0 && (how & AddressHow.lsbIsSent) === 0) send(midi.CONTROLLER, midi.CC_BANK_LSB, lsb);
    send(midi.PROGRAM, program, 0);
    for (const message of also)
      if (message.kind === 'controller') send(midi.CONTROLLER, message.controller, message.value);
      else {
        send(midi.NOTE_ON, message.key, message.velocity);
        send(midi.NOTE_OFF, message.key, midi.RELEASE_UNSAID);
      }
  }
}

function sendValue(slot: number, value: number, send: (status: number, data1: number, data2: number) => void): void {
  if (slot < 128) send(midi.CONTROLLER, slot, value);
  else if (slot === 128) send(midi.PRESSURE, value, 0);
  else send(midi.WHEEL, value & 127, value >> 7);
}

const isOff = (message: WriteMessage): boolean =>
  message.kind === 'message' && (message.status & 0xf0) === midi.NOTE_OFF;

/** By tick: ends of cues' notes, the ends with which parts begin there, cues, the rest of the parts. */
function merged(
  ends: readonly WriteMessage[],
  cues: readonly WriteMessage[],
  parts: readonly WriteMessage[],
): WriteMessage[] {
  const byTick = [...parts].sort((x, y) => x.atTick - y.atTick);
  let tick = -1;
  let isLeading = true;
  const ranked = byTick.map((message) => {
    if (message.atTick !== tick) isLeading = true;
    tick = message.atTick;
    isLeading &&= isOff(message);
    return { message, rank: isLeading ? 1 : 3 };
  });
  return [...ends.map((message) => ({ message, rank: 0 })), ...cues.map((message) => ({ message, rank: 2 })), ...ranked]
    .sort((x, y) => x.message.atTick - y.message.atTick || x.rank - y.rank)
    .map(({ message }) => message);
}
