import { writeMidi, type MidiEvent } from 'midi-file';
import { CONTROLLER, KEY_PRESSURE, NOTE_OFF, NOTE_ON, PRESSURE, PROGRAM, WHEEL, WHEEL_CENTRE } from '../../midi/status';

/** A message at its tick. */
export type WriteMessage =
  | { kind: 'message'; atTick: number; status: number; data1: number; data2: number }
  | { kind: 'sysex'; atTick: number; bytes: Uint8Array };

/** A track to be written, by name. */
export interface WriteTrack {
  name: string;
  /** In order of tick. */
  messages: readonly WriteMessage[];
}

/**
 * Writes a Standard MIDI File of format 1: a first track with the tempo, then the given ones under their names.
 * @param ticksPerQuarter division; @param usPerQuarter tempo in µs a quarter.
 */
export function writeSmf(tracks: readonly WriteTrack[], ticksPerQuarter: number, usPerQuarter: number): Uint8Array {
  const tempo: MidiEvent[] = [
    { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: usPerQuarter },
    { deltaTime: 0, meta: true, type: 'endOfTrack' },
  ];
  return Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: tracks.length + 1, ticksPerBeat: ticksPerQuarter },
      tracks: [tempo, ...tracks.map(trackEvents)],
    }),
  );
}

function trackEvents(track: WriteTrack): MidiEvent[] {
  const events: MidiEvent[] = [{ deltaTime: 0, meta: true, type: 'trackName', text: toUtf8(track.name) }];
  let tick = 0;
  for (const message of track.messages) {
    events.push({ ...toEvent(message), deltaTime: message.atTick - tick } as MidiEvent);
    tick = message.atTick;
  }
  events.push({ deltaTime: 0, meta: true, type: 'endOfTrack' });
  return events;
}

function toEvent(message: WriteMessage): object {
  if (message.kind === 'sysex') return { type: 'sysEx', data: [...message.bytes, 0xf7] };
  const { status, data1, data2 } = message;
  const channel = status & 15;
  switch (status & 0xf0) {
    case NOTE_ON:
      return { type: data2 === 0 ? 'noteOff' : 'noteOn', channel, noteNumber: data1, velocity: data2 };
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
