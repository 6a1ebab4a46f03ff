import { parseMidi, type MidiData, type MidiEvent } from 'midi-file';
import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL, WHEEL_CENTRE } from '../../midi/status';
import { fail, ok, type Result } from '../../result';
import { checkSmfStructure, type SmfError } from './structure';
import { tickToMs, type TempoChange } from './tickToMs';

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
  messages: SmfMessage[];
  endMs: number;
}

/** A Standard MIDI File, read whole. */
export interface SmfFile {
  format: 0 | 1;
  tracks: SmfTrack[];
  endMs: number;
}

const META_DEVICE_NAME = 0x09;
const HOUR_MS = 3_600_000;
const LONGEST_MS = 24 * HOUR_MS;

/**
 * Reads a Standard MIDI File of format 0 or 1, with any division and tempo map, into messages with their times in ms.
 * A file that is cut off anywhere is refused, never read in part. Real-time bytes in F7 escapes are read.
 */
export function readSmf(bytes: Uint8Array): Result<SmfFile, SmfError> {
  const structure = checkSmfStructure(bytes);
  if (!structure.ok) return structure;
  let data: MidiData;
  try {
    data = parseMidi(withoutForeignChunks(bytes));
  } catch (cause) {
    return fail({
      code: 'corrupt',
      message: `an event cannot be read (${typeof cause === 'string' ? cause : cause instanceof Error ? cause.message : 'unknown'})`,
      offsetBytes: 0,
    });
  }
  const unsound = data.tracks.findIndex((track) => !track.every(isSound));
  if (unsound >= 0)
    return fail({
      code: 'corrupt',
      message: `track ${unsound + 1} has an event with values that no MIDI message has`,
      offsetBytes: 0,
    });
  const toMs = tickToMs(data.header, tempoChanges(data));
  const tracks = data.tracks.map((events) => readTrack(events, toMs));
  const endMs = tracks.reduce((last, track) => Math.max(last, track.endMs), 0);
  if (endMs > LONGEST_MS)
    return fail({
      code: 'too-large',
      message: `it lasts ${Math.round(endMs / HOUR_MS)} hours; at most 24 are read`,
      offsetBytes: 0,
    });
  return ok({ format: structure.value.format, tracks, endMs });
}

/** `parseMidi` knows only track chunks; others are to be passed over. */
function withoutForeignChunks(bytes: Uint8Array): number[] {
  const kept: number[] = [];
  const take = (from: number, to: number): void => {
    for (let i = from; i < to; i++) kept.push(bytes[i]);
  };
  const length = (at: number): number =>
    bytes[at + 4] * 2 ** 24 + (bytes[at + 5] << 16) + (bytes[at + 6] << 8) + bytes[at + 7];
  for (let at = 0; at + 8 <= bytes.length; at += 8 + length(at)) {
    const isTrack = bytes[at] === 0x4d && bytes[at + 1] === 0x54 && (bytes[at + 2] === 0x72 || bytes[at + 2] === 0x68);
    if (isTrack) take(at, Math.min(bytes.length, at + 8 + length(at)));
  }
  return kept;
}

function isSound(event: MidiEvent): boolean {
  for (const value of Object.values(event) as unknown[]) {
    if (typeof value === 'number' && !Number.isInteger(value)) return false;
    if (Array.isArray(value) && !value.every((byte) => Number.isInteger(byte))) return false;
  }
  const [, data1, data2] = channelBytes(event) ?? [0, 0, 0];
  return data1 >= 0 && data1 <= 127 && data2 >= 0 && data2 <= 127;
}

function tempoChanges(data: MidiData): TempoChange[] {
  const changes: TempoChange[] = [];
  for (const track of data.tracks) {
    let tick = 0;
    for (const event of track) {
      tick += event.deltaTime;
      if (event.type === 'setTempo') changes.push({ tick, usPerQuarter: event.microsecondsPerBeat });
    }
  }
  return changes.sort((a, b) => a.tick - b.tick);
}

function readTrack(events: readonly MidiEvent[], toMs: (tick: number) => number): SmfTrack {
  const track: SmfTrack = { name: null, device: null, messages: [], endMs: 0 };
  let tick = 0;
  for (const event of events) {
    tick += event.deltaTime;
    const at = { atTick: tick, atMs: toMs(tick) };
    const bytes = channelBytes(event);
    if (bytes) track.messages.push({ kind: 'message', ...at, status: bytes[0], data1: bytes[1], data2: bytes[2] });
    else if (event.type === 'trackName') track.name ??= fromUtf8(event.text);
    else if (event.type === 'unknownMeta' && event.metatypeByte === META_DEVICE_NAME)
      track.device ??= fromUtf8(String.fromCharCode(...Array.from(event.data).slice(0, 256)));
    else if (event.type === 'sysEx')
      track.messages.push({ kind: 'sysex', ...at, bytes: Uint8Array.from(event.data).filter((byte) => byte < 0x80) });
    else if (event.type === 'endSysEx') {
      for (const status of Array.from(event.data))
        if (status >= 0xf8) track.messages.push({ kind: 'message', ...at, status, data1: 0, data2: 0 });
    }
    track.endMs = at.atMs;
  }
  return track;
}

function channelBytes(event: MidiEvent): [number, number, number] | null {
  switch (event.type) {
    case 'noteOn':
      return [NOTE_ON | event.channel, event.noteNumber, event.velocity];
    case 'noteOff':
      return [(event.byte9 ? NOTE_ON : NOTE_OFF) | event.channel, event.noteNumber, event.velocity];
    case 'noteAftertouch':
      return [KEY_PRESSURE | event.channel, event.noteNumber, event.amount];
    case 'controller':
      return [CONTROLLER | event.channel, event.controllerType, event.value];
    case 'programChange':
      return [PROGRAM | event.channel, event.programNumber, 0];
    case 'channelAftertouch':
      return [PRESSURE | event.channel, event.amount, 0];
    case 'pitchBend':
      return [WHEEL | event.channel, (event.value + WHEEL_CENTRE) & 127, (event.value + WHEEL_CENTRE) >> 7];
    default:
      return null;
  }
}

/** Text events are bytes; most programs write UTF-8, older ones Latin-1. */
function fromUtf8(text: string): string {
  try {
    return decodeURIComponent(
      Array.from(text, (letter) => `%${letter.charCodeAt(0).toString(16).padStart(2, '0')}`).join(''),
    );
  } catch {
    return text;
  }
}
