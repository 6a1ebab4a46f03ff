import { fail, ok, type Result } from '../../result';
import { META, readMeta, type SmfMeta } from './meta';
import { checkSmfStructure, type SmfError } from './structure';
import { decodedText } from './text';
import { tickToMs, type Division, type TempoChange } from './tickToMs';
import { walkTrack, type TrackVisitor } from './trackEvents';

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
  const { format, division, tracks: places, words } = structure.value;
  const changes = places.map(({ from, to }) => tempoChanges(bytes, from, to));
  const together = tickToMs(division, changes.flat());
  const tracks: SmfTrack[] = [];
  let endMs = 0;
  places.forEach(({ from, to }, i) => {
    // Patterns have tempos of their own, and come one after the other.
    const fromMs = format === 2 ? endMs : 0;
    const own = format === 2 ? tickToMs(division, changes[i]) : together;
    const track = new TrackReader(bytes, (tick) => fromMs + own(tick)).read(from, to);
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

const ANY_COUNT = Infinity;

function tempoChanges(bytes: Uint8Array, from: number, to: number): TempoChange[] {
  const changes: TempoChange[] = [];
  walkTrack(bytes, from, to, ANY_COUNT, {
    channel: () => {},
    sysex: () => {},
    meta: (tick, type, at) => {
      if (type === META.tempo)
        changes.push({ tick, usPerQuarter: (bytes[at] << 16) | (bytes[at + 1] << 8) | bytes[at + 2] });
    },
  });
  return changes;
}

/** Makes a track of the events of a file that has been looked over. */
class TrackReader implements TrackVisitor {
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
  private tick = -1;
  private ms = 0;
  /** System exclusive whose end has not come yet. */
  private open: { atTick: number; atMs: number; bytes: number[] } | null = null;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly toMs: (tick: number) => number,
  ) {}

  read(from: number, to: number): SmfTrack {
    const { track } = this;
    const walked = walkTrack(this.bytes, from, to, ANY_COUNT, this);
    this.closeSysex();
    track.endTick = 'ticks' in walked ? walked.ticks : 0;
    track.endMs = this.toMs(track.endTick);
    return track;
  }

  private isAt(tick: number): void {
    if (tick === this.tick) return;
    this.tick = tick;
    this.ms = this.toMs(tick);
  }

  channel(atTick: number, status: number, data1: number, data2: number): void {
    this.isAt(atTick);
    this.track.messages.push({ kind: 'message', atTick, atMs: this.ms, status, data1, data2 });
  }

  meta(atTick: number, type: number, from: number, to: number): void {
    const { track } = this;
    const meta = readMeta(atTick, type, this.bytes.subarray(from, to));
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

  sysex(atTick: number, isEscape: boolean, from: number, to: number): void {
    this.isAt(atTick);
    const bytes = Array.from(this.bytes.subarray(from, to));
    if (!isEscape) {
      this.closeSysex();
      this.open = { atTick, atMs: this.ms, bytes };
    } else if (this.open !== null) for (const byte of bytes) this.open.bytes.push(byte);
    else {
      for (const status of bytes) if (status >= 0xf8) this.channel(atTick, status, 0, 0);
      return;
    }
    if (bytes.at(-1) === END_OF_SYSEX) this.closeSysex();
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
