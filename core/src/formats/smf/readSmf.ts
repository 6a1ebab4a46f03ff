import { parseMidi, type MidiData, type MidiEvent } from 'midi-file';
import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL, WHEEL_CENTRE } from '../../midi/status';
import { fail, ok, type Result } from '../../result';
import { readMeta, type SmfMeta } from './meta';
import { checkSmfStructure, type SmfError, type SmfStructure } from './structure';
import { decodedText } from './text';
import { tickToMs, type Division, type TempoChange } from './tickToMs';

/** One message of a track: channel messages and single system messages as bytes, system exclusive as its own kind. */
export type SmfMessage =
  | { kind: 'message'; atTick: number; atMs: number; status: number; data1: number; data2: number }
  | { kind: 'sysex'; atTick: number; atMs: number; bytes: Uint8Array };

/** A track of a Standard MIDI File: its messages by tick. */
export interface SmfTrack {
  /** Track name (FF 03), or null. */
  name: string | null;
  /** Device name (FF 09), or null. */
  device: string | null;
  /** Port number (FF 21), or null. */
  port: number | null;
  messages: SmfMessage[];
  /** From which message on (by its number) device name or port number are others. */
  turns: { from: number; device: string | null; port: number | null }[];
  metas: SmfMeta[];
  endTick: number;
  endMs: number;
}

/** A Standard MIDI File, read whole. */
export interface SmfFile {
  /** 2: its tracks are patterns; their times are those of one after the other. */
  format: 0 | 1 | 2;
  division: Division;
  tracks: SmfTrack[];
  endMs: number;
  /** What is not as the standard has it, and was read all the same. */
  words: string[];
}

const HOUR_MS = 3_600_000;
const LONGEST_MS = 24 * HOUR_MS;
const END_OF_SYSEX = 0xf7;

/**
 * Reads a Standard MIDI File of format 0, 1 or 2, with any division and tempo map, into messages with their times in ms.
 * A file that is cut off anywhere is refused, never read in part. Real-time bytes in F7 escapes are read; system
 * exclusive in packets is joined.
 */
export function readSmf(bytes: Uint8Array): Result<SmfFile, SmfError> {
  const structure = checkSmfStructure(bytes);
  if (!structure.ok) return structure;
  let data: MidiData;
  try {
    data = parseMidi(tracksAlone(bytes, structure.value));
  } catch (cause) {
    return fail({
      code: 'corrupt',
      message: `an event cannot be read (${typeof cause === 'string' ? cause : cause instanceof Error ? cause.message : 'unknown'})`,
      offsetBytes: 0,
    });
  }
  return readTracks(data, structure.value);
}

function readTracks(data: MidiData, { format, words }: SmfStructure): Result<SmfFile, SmfError> {
  const division = divisionOf(data);
  const changes = data.tracks.map(tempoChanges);
  const together = tickToMs(division, changes.flat());
  const tracks: SmfTrack[] = [];
  let endMs = 0;
  data.tracks.forEach((events, i) => {
    // Patterns have tempos of their own, and come one after the other.
    const fromMs = format === 2 ? endMs : 0;
    const own = format === 2 ? tickToMs(division, changes[i]) : together;
    const track = new TrackReader((tick) => fromMs + own(tick)).read(events);
    tracks.push(track);
    endMs = Math.max(endMs, track.endMs);
  });
  if (endMs > LONGEST_MS)
    return fail({
      code: 'too-large',
      message: `it lasts ${Math.round(endMs / HOUR_MS)} hours; at most 24 are read`,
      offsetBytes: 0,
    });
  const patterns = format === 2 ? ['it is of format 2: its tracks are patterns, taken one after the other'] : [];
  return ok({ format, division, tracks, endMs, words: [...words, ...patterns] });
}

const divisionOf = ({ header }: MidiData): Division =>
  header.framesPerSecond === undefined
    ? { kind: 'quarters', ticksPerQuarter: header.ticksPerBeat ?? 480 }
    : { kind: 'frames', framesPerSecond: header.framesPerSecond, ticksPerFrame: header.ticksPerFrame ?? 1 };

/** The header, and the tracks up to their ends: `parseMidi` knows nothing else. */
function tracksAlone(bytes: Uint8Array, { tracks }: SmfStructure): Uint8Array {
  const length = tracks.reduce((sum, { from, to }) => sum + 8 + to - from, 14);
  const kept = new Uint8Array(length);
  const view = new DataView(kept.buffer);
  kept.set(bytes.subarray(0, 14));
  view.setUint32(4, 6);
  let at = 14;
  for (const { from, to } of tracks) {
    kept.set([0x4d, 0x54, 0x72, 0x6b], at);
    view.setUint32(at + 4, to - from);
    kept.set(bytes.subarray(from, to), at + 8);
    at += 8 + to - from;
  }
  return kept;
}

function tempoChanges(track: readonly MidiEvent[]): TempoChange[] {
  const changes: TempoChange[] = [];
  let tick = 0;
  for (const event of track) {
    tick += event.deltaTime;
    if (event.type === 'setTempo') changes.push({ tick, usPerQuarter: event.microsecondsPerBeat });
  }
  return changes;
}

class TrackReader {
  private readonly track: SmfTrack = {
    name: null,
    device: null,
    port: null,
    messages: [],
    turns: [],
    metas: [],
    endTick: 0,
    endMs: 0,
  };
  private tick = 0;
  private ms = 0;
  /** System exclusive whose end has not come yet. */
  private open: { atTick: number; atMs: number; bytes: number[] } | null = null;

  constructor(private readonly toMs: (tick: number) => number) {}

  read(events: readonly MidiEvent[]): SmfTrack {
    const { track } = this;
    for (const event of events) {
      this.tick += event.deltaTime;
      if (event.deltaTime > 0 || this.tick === 0) this.ms = this.toMs(this.tick);
      this.take(event);
    }
    this.closeSysex();
    track.endTick = this.tick;
    track.endMs = this.toMs(this.tick);
    return track;
  }

  private take(event: MidiEvent): void {
    switch (event.type) {
      case 'noteOn':
        return this.message(NOTE_ON | event.channel, event.noteNumber, event.velocity);
      case 'noteOff':
        return this.message((event.byte9 ? NOTE_ON : NOTE_OFF) | event.channel, event.noteNumber, event.velocity);
      case 'noteAftertouch':
        return this.message(KEY_PRESSURE | event.channel, event.noteNumber, event.amount);
      case 'controller':
        return this.message(CONTROLLER | event.channel, event.controllerType, event.value);
      case 'programChange':
        return this.message(PROGRAM | event.channel, event.programNumber, 0);
      case 'channelAftertouch':
        return this.message(PRESSURE | event.channel, event.amount, 0);
      case 'pitchBend': {
        const value = event.value + WHEEL_CENTRE;
        return this.message(WHEEL | event.channel, value & 127, value >> 7);
      }
      case 'sysEx':
        return this.sysex(event.data);
      case 'endSysEx':
        return this.escape(event.data);
      default:
        return this.meta(event);
    }
  }

  private message(status: number, data1: number, data2: number): void {
    const { tick: atTick, ms: atMs } = this;
    this.track.messages.push({ kind: 'message', atTick, atMs, status, data1, data2 });
  }

  private meta(event: MidiEvent): void {
    const { track } = this;
    const meta = readMeta(event, this.tick);
    if (meta === null) return;
    if (meta.kind === 'text' && meta.type === 3) track.name ??= decodedText(meta.bytes);
    else if (meta.kind === 'device') this.turn(decodedText(meta.bytes), track.turns.at(-1)?.port ?? track.port);
    else if (meta.kind === 'port') this.turn(track.turns.at(-1)?.device ?? track.device, meta.port);
    else track.metas.push(meta);
  }

  /** From here on messages go elsewhere. */
  private turn(device: string | null, port: number | null): void {
    const { track } = this;
    if (track.messages.length === 0) Object.assign(track, { device, port });
    else track.turns.push({ from: track.messages.length, device, port });
  }

  private sysex(data: ArrayLike<number>): void {
    this.closeSysex();
    this.open = { atTick: this.tick, atMs: this.ms, bytes: Array.from(data) };
    if (data.length > 0 && data[data.length - 1] === END_OF_SYSEX) this.closeSysex();
  }

  /** F7: more of what is open, or bytes as they are. */
  private escape(data: ArrayLike<number>): void {
    const bytes = Array.from(data);
    if (this.open !== null) {
      this.open.bytes.push(...bytes);
      if (bytes.at(-1) === END_OF_SYSEX) this.closeSysex();
      return;
    }
    for (const status of bytes) if (status >= 0xf8) this.message(status, 0, 0);
  }

  private closeSysex(): void {
    if (this.open === null) return;
    const { atTick, atMs, bytes } = this.open;
    this.open = null;
    this.track.messages.push({
      kind: 'sysex',
      atTick,
      atMs,
      bytes: Uint8Array.from(bytes.filter((byte) => byte < 0x80)),
    });
  }
}
