import type { SmfError } from './structure';

/** A text longer than this is no text that anybody has typed. */
const LONGEST_TEXT = 65_535;
const META = 0xff;
const SYSEX = 0xf0;
const ESCAPE = 0xf7;

/**
 * Walks the events of one track without making anything of them: each must lie whole within the track. (Standard MIDI
 * Files 1.0, MTrk events; data bytes by the tables of MIDI 1.0.)
 * @returns how many there are, how many of them run on over a meta or system exclusive event, where they end; or the
 * first fault
 */
export function countEvents(
  bytes: Uint8Array,
  from: number,
  end: number,
  most: number,
): { events: number; runningOver: number; hasEnd: boolean; to: number } | SmfError {
  let at = from;
  let running = 0;
  let events = 0;
  let isOver = false;
  let runningOver = 0;
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
    let status = bytes[at];
    if (status < 0x80) {
      status = running;
      if (isOver) runningOver++;
    } else at++;
    if (status === META || status === SYSEX || status === ESCAPE) {
      const isEnd = status === META && bytes[at] === 0x2f;
      if (status === META) at++;
      const length = quantity();
      if (length < 0 || at + length > end) return corrupt('an event says that it is longer than its track');
      if (status === META && length > LONGEST_TEXT) return corrupt(`an event holds ${length} bytes of text`);
      at += length;
      isOver = true;
      if (isEnd) return { events, runningOver, hasEnd: true, to: at };
    } else if (status >= 0x80 && status < 0xf0) {
      running = status;
      isOver = false;
      const length = (status & 0xe0) === 0xc0 ? 1 : 2;
      if (at + length > end) return corrupt('an event is cut off by the end of its track');
      for (const to = at + length; at < to; at++)
        if (bytes[at] > 127) return corrupt('an event has values that no MIDI message has');
    } else return corrupt('a byte stands where an event should begin');
  }
  return { events, runningOver, hasEnd: false, to: at };
}
