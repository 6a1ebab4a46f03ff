import type { SmfError } from './structure';

/** A text longer than this is no text that anybody has typed. */
const LONGEST_TEXT = 65_535;
const META = 0xff;
const SYSEX = 0xf0;
const ESCAPE = 0xf7;
const END_OF_TRACK = 0x2f;

/** Who is told of the events of a track, each at its tick from the track's start; data as where they lie in the file. */
export interface TrackVisitor {
  /** A channel message; data2 is 0 where it has none. */
  channel(atTick: number, status: number, data1: number, data2: number): void;
  meta(atTick: number, type: number, from: number, to: number): void;
  /** F0, or (`isEscape`) F7: more of what is open, or bytes as they are. */
  sysex(atTick: number, isEscape: boolean, from: number, to: number): void;
}

/** What a walk over a track has found. */
export interface TrackWalk {
  events: number;
  /** Events that run on over a meta or system exclusive event, which should have ended running status. */
  runningOver: number;
  hasEnd: boolean;
  /** Behind its last event. */
  to: number;
  ticks: number;
}

/**
 * Walks the events of one track: each must lie whole within the track. (Standard MIDI Files 1.0, MTrk events; data bytes
 * by the tables of MIDI 1.0.)
 * @param most more events than these are refused; @param visitor null: they are only looked at
 * @returns what was found, or the first fault
 */
export function walkTrack(
  bytes: Uint8Array,
  from: number,
  end: number,
  most: number,
  visitor: TrackVisitor | null,
): TrackWalk | SmfError {
  let at = from;
  let running = 0;
  let events = 0;
  let isOver = false;
  let runningOver = 0;
  let tick = 0;
  const corrupt = (message: string): SmfError => ({ code: 'corrupt', message, offsetBytes: at });
  /** A variable-length quantity of at most four bytes; −1: there is none. */
  const quantity = (): number => {
    let value = 0;
    for (let i = 0; i < 4 && at < end; i++) {
      const byte = bytes[at++];
      value = (value << 7) | (byte & 127);
      if (byte < 128) return value;
    }
    return -1;
  };
  while (at < end) {
    const delta = quantity();
    if (delta < 0 || at >= end) return corrupt('the time of an event cannot be read');
    if (++events > most) return { code: 'too-large', message: `there are more than ${most} events`, offsetBytes: at };
    tick += delta;
    let status = bytes[at];
    if (status < 0x80) {
      status = running;
      if (isOver) runningOver++;
    } else at++;
    if (status >= 0x80 && status < 0xf0) {
      running = status;
      isOver = false;
      const length = (status & 0xe0) === 0xc0 ? 1 : 2;
      if (at + length > end) return corrupt('an event is cut off by the end of its track');
      const data1 = bytes[at];
      const data2 = length === 2 ? bytes[at + 1] : 0;
      if (data1 > 127 || data2 > 127) return corrupt('an event has values that no MIDI message has');
      at += length;
      visitor?.channel(tick, status, data1, data2);
      continue;
    }
    if (status !== META && status !== SYSEX && status !== ESCAPE)
      return corrupt('a byte stands where an event should begin');
    const type = status === META ? bytes[at++] : 0;
    const length = quantity();
    if (length < 0 || at + length > end) return corrupt('an event says that it is longer than its track');
    if (status === META && length > LONGEST_TEXT) return corrupt(`an event holds ${length} bytes of text`);
    if (status === META && type === 0x51 && length !== 3) return corrupt(`a tempo has ${length} bytes instead of 3`);
    const dataAt = at;
    at += length;
    isOver = true;
    if (status === META && type === END_OF_TRACK) return { events, runningOver, hasEnd: true, to: at, ticks: tick };
    if (status === META) visitor?.meta(tick, type, dataAt, at);
    else visitor?.sysex(tick, status === ESCAPE, dataAt, at);
  }
  return { events, runningOver, hasEnd: false, to: at, ticks: tick };
}
