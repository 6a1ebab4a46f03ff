import type { MidiEvent } from 'midi-file';

/** A meta event that says something of the music or its instruments; texts as they are written. */
export type SmfMeta =
  /** 1 text, 2 copyright, 3 name, 4 instrument, 5 lyric, 6 marker, 7 cue point. */
  | { kind: 'text'; atTick: number; type: 1 | 2 | 3 | 4 | 5 | 6 | 7; bytes: Uint8Array }
  | { kind: 'tempo'; atTick: number; usPerQuarter: number }
  /** The note of a beat as a power of two: 2 is a quarter. */
  | { kind: 'meter'; atTick: number; beats: number; unit: number }
  /** Sharps (flats below 0). */
  | { kind: 'key'; atTick: number; sharps: number; isMinor: boolean }
  /** FF 7F: of one program's own. */
  | { kind: 'own'; atTick: number; bytes: Uint8Array };

type Where = { kind: 'device'; bytes: Uint8Array } | { kind: 'port'; port: number };

const META_DEVICE_NAME = 0x09;
const TEXTS: Partial<Record<MidiEvent['type'], 1 | 2 | 3 | 4 | 5 | 6 | 7>> = {
  text: 1,
  copyrightNotice: 2,
  trackName: 3,
  instrumentName: 4,
  lyrics: 5,
  marker: 6,
  cuePoint: 7,
};

/** A meta event as `midi-file` reads it, where it says anything that is used here. */
export function readMeta(event: MidiEvent, atTick: number): SmfMeta | Where | null {
  const type = TEXTS[event.type];
  if (type !== undefined && 'text' in event)
    return { kind: 'text', atTick, type, bytes: Uint8Array.from(event.text, (letter) => letter.charCodeAt(0)) };
  switch (event.type) {
    case 'setTempo':
      return { kind: 'tempo', atTick, usPerQuarter: event.microsecondsPerBeat };
    case 'timeSignature':
      return { kind: 'meter', atTick, beats: event.numerator, unit: event.denominator };
    case 'keySignature':
      return { kind: 'key', atTick, sharps: event.key, isMinor: event.scale === 1 };
    case 'sequencerSpecific':
      return { kind: 'own', atTick, bytes: Uint8Array.from(event.data) };
    case 'portPrefix':
      return { kind: 'port', port: event.port };
    case 'unknownMeta':
      return event.metatypeByte === META_DEVICE_NAME ? { kind: 'device', bytes: Uint8Array.from(event.data) } : null;
    default:
      return null;
  }
}
