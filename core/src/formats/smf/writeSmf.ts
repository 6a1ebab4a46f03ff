import { writeMidi, type MidiEvent } from 'midi-file';
import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL, WHEEL_CENTRE } from '../../midi/status';

/** A message at its tick. */
export type WriteMessage =
  | { kind: 'message'; atTick: number; status: number; data1: number; data2: number }
  | { kind: 'sysex'; atTick: number; bytes: Uint8Array };

/** A meta event at its tick; texts as `SmfMeta` has them, by their type. */
export type WriteMeta =
  | { kind: 'text'; atTick: number; type: 1 | 5 | 6 | 7; text: string }
  | { kind: 'tempo'; atTick: number; usPerQuarter: number }
  | { kind: 'meter'; atTick: number; beats: number; unit: number }
  | { kind: 'own'; atTick: number; bytes: Uint8Array };

/** A track to be written, by name. */
export interface WriteTrack {
  name: string;
  /** Device name (FF 09). */
  device?: string;
  /** In order of tick. */
  messages: readonly (WriteMessage | WriteMeta)[];
  /** The track lasts at least up to here. */
  endTick?: number;
}

/**
 * Writes a Standard MIDI File of format 1: a first track with the tempo, then the given ones under their names.
 * @param ticksPerQuarter division; @param usPerQuarter tempo in µs a quarter; null: the first given track has its own.
 */
export function writeSmf(
  tracks: readonly WriteTrack[],
  ticksPerQuarter: number,
  usPerQuarter: number | null,
): Uint8Array {
  const tempo: MidiEvent[][] =
    usPerQuarter === null
      ? []
      : [
          [
            { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: usPerQuarter },
            { deltaTime: 0, meta: true, type: 'endOfTrack' },
          ],
        ];
  const written = [...tempo, ...tracks.map(trackEvents)];
  return Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: written.length, ticksPerBeat: ticksPerQuarter },
      tracks: written,
    }),
  );
}

const META_DEVICE_NAME = 0x09;
const TEXTS = { 1: 'text', 5: 'lyrics', 6: 'marker', 7: 'cuePoint' } as const;

function trackEvents(track: WriteTrack): MidiEvent[] {
  const events: MidiEvent[] = [{ deltaTime: 0, meta: true, type: 'trackName', text: toUtf8(track.name) }];
  if (track.device !== undefined)
    events.push({
      deltaTime: 0,
      meta: true,
      type: 'unknownMeta',
      metatypeByte: META_DEVICE_NAME,
      data: Array.from(toUtf8(track.device), (letter) => letter.charCodeAt(0)),
    } as unknown as MidiEvent);
  let tick = 0;
  for (const message of track.messages) {
    events.push({ ...toEvent(message), deltaTime: message.atTick - tick } as MidiEvent);
    tick = message.atTick;
  }
  events.push({ deltaTime: Math.max(0, (track.endTick ?? 0) - tick), meta: true, type: 'endOfTrack' });
  return events;
}

function metaEvent(meta: WriteMeta): object {
  switch (meta.kind) {
    case 'text':
      return { meta: true, type: TEXTS[meta.type], text: toUtf8(meta.text) };
    case 'tempo':
      return { meta: true, type: 'setTempo', microsecondsPerBeat: meta.usPerQuarter };
    case 'meter':
      // 24 clocks a beat of the metronome, as most writers have it; 8 thirty-seconds a quarter.
      return {
        meta: true,
        type: 'timeSignature',
        numerator: meta.beats,
        denominator: meta.unit,
        metronome: 24,
        thirtyseconds: 8,
      };
    case 'own':
      return { meta: true, type: 'sequencerSpecific', data: [...meta.bytes] };
  }
}

function toEvent(message: WriteMessage | WriteMeta): object {
  if (message.kind !== 'message' && message.kind !== 'sysex') return metaEvent(message);
  if (message.kind === 'sysex') return { type: 'sysEx', data: [...message.bytes, 0xf7] };
  const { status, data1, data2 } = message;
  const channel = status & 15;
  switch (status & 0xf0) {
    case NOTE_ON:
      return {
        type: data2 === 0 ? 'noteOff' : 'noteOn',
        byte9: data2 === 0,
        channel,
        noteNumber: data1,
        velocity: data2,
      };
    case NOTE_OFF:
      return { type: 'noteOff', channel, noteNumber: data1, velocity: data2 };
    case KEY_PRESSURE:
      return { type: 'noteAftertouch', channel, noteNumber: data1, amount: data2 };
    case CONTROLLER:
      return { type: 'controller', channel, controllerType: data1, value: data2 };
    case PROGRAM:
      return { type: 'programChange', channel, programNumber: data1 };
    case PRESSURE:
      return { type: 'channelAftertouch', channel, amount: data1 };
    case WHEEL:
      return { type: 'pitchBend', channel, value: ((data2 << 7) | data1) - WHEEL_CENTRE };
    default:
      return { type: 'endSysEx', data: [status] };
  }
}

const toUtf8 = (text: string): string =>
  encodeURIComponent(text).replace(/%([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
