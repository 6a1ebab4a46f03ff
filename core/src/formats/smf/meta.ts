/** A meta event that says something of the music or its instruments; texts as they are written. */
export type SmfMeta =
  /** 1 text, 2 copyright, 3 name, 4 instrument, 5 lyric, 6 marker, 7 cue point. */
  | { kind: 'text'; atTick: number; type: 1 | 2 | 3 | 4 | 5 | 6 | 7; bytes: Uint8Array }
  | { kind: 'tempo'; atTick: number; usPerQuarter: number }
  /** The note of a beat: 4 is a quarter. */
  | { kind: 'meter'; atTick: number; beats: number; unit: number }
  /** Sharps (flats below 0). */
  | { kind: 'key'; atTick: number; sharps: number; isMinor: boolean }
  /** FF 7F: of one program's own. */
  | { kind: 'own'; atTick: number; bytes: Uint8Array };

type Where = { kind: 'device'; bytes: Uint8Array } | { kind: 'port'; port: number };

/** Types of meta events. */
export const META = {
  lastText: 0x07,
  device: 0x09,
  port: 0x21,
  tempo: 0x51,
  meter: 0x58,
  key: 0x59,
  own: 0x7f,
} as const;

/** A meta event by its type and data, where it says anything that is used here. */
export function readMeta(atTick: number, type: number, data: Uint8Array): SmfMeta | Where | null {
  if (type >= 1 && type <= META.lastText)
    return { kind: 'text', atTick, type: type as 1 | 2 | 3 | 4 | 5 | 6 | 7, bytes: data.slice() };
  switch (type) {
    case META.tempo:
      return { kind: 'tempo', atTick, usPerQuarter: (data[0] << 16) | (data[1] << 8) | data[2] };
    case META.meter:
      return data.length < 2 ? null : { kind: 'meter', atTick, beats: data[0], unit: 2 ** data[1] };
    case META.key:
      return data.length < 2 ? null : { kind: 'key', atTick, sharps: (data[0] << 24) >> 24, isMinor: data[1] === 1 };
    case META.own:
      return { kind: 'own', atTick, bytes: data.slice() };
    case META.port:
      return data.length === 1 ? { kind: 'port', port: data[0] } : null;
    case META.device:
      return { kind: 'device', bytes: data.slice() };
    default:
      return null;
  }
}
