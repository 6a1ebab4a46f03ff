import { PRESSURE, PROGRAM } from './status';

/** Channel messages by tick, without their channel: `statuses` are high nibbles. Of one length, in their order. */
export interface PackedMessages {
  readonly ticks: Float64Array;
  readonly statuses: Uint8Array;
  readonly data1: Uint8Array;
  readonly data2: Uint8Array;
}

/** One of them. */
export interface PackedMessage {
  atTick: number;
  status: number;
  data1: number;
  data2: number;
}

const MOST_KEPT = 64;
const unpackedBefore = new Map<string, PackedMessages>();

const isShort = (status: number): boolean => status === PROGRAM || status === PRESSURE;

/**
 * Messages as text: the events of one track of a Standard MIDI File (times between them as variable-length quantities,
 * running status, channel 1, no meta events), in base 64.
 */
export function packed(messages: Iterable<PackedMessage>): string {
  const bytes: number[] = [];
  let tick = 0;
  let running = 0;
  for (const { atTick, status, data1, data2 } of messages) {
    const gap = atTick - tick;
    for (let shift = 21; shift > 0; shift -= 7)
      if (gap >= 2 ** shift) bytes.push((Math.floor(gap / 2 ** shift) & 127) | 128);
    bytes.push(gap & 127);
    tick = atTick;
    if (status !== running) bytes.push(status);
    running = status;
    bytes.push(data1);
    if (!isShort(status)) bytes.push(data2);
  }
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.slice(at, at + 8192));
  return btoa(text);
}

/** The messages of such a text, kept for the next time they are asked for; null: it is none. */
export function unpacked(text: string): PackedMessages | null {
  const known = unpackedBefore.get(text);
  if (known !== undefined) return known;
  const read = readPacked(text);
  if (read === null) return null;
  if (unpackedBefore.size >= MOST_KEPT) unpackedBefore.delete(unpackedBefore.keys().next().value!);
  unpackedBefore.set(text, read);
  return read;
}

function bytesOf(text: string): string | null {
  try {
    return atob(text);
  } catch {
    return null;
  }
}

function readPacked(text: string): PackedMessages | null {
  const bytes = bytesOf(text);
  if (bytes === null) return null;
  // Every message has at least two bytes.
  const most = bytes.length >> 1;
  const ticks = new Float64Array(most);
  const [statuses, first, second] = [new Uint8Array(most), new Uint8Array(most), new Uint8Array(most)];
  let count = 0;
  let at = 0;
  let tick = 0;
  let running = 0;
  const dataByte = (): number => {
    const byte = at < bytes.length ? bytes.charCodeAt(at++) : 255;
    return byte < 128 ? byte : -1;
  };
  while (at < bytes.length) {
    let gap = 0;
    let more = true;
    for (let i = 0; i < 4 && more; i++) {
      if (at >= bytes.length) return null;
      const byte = bytes.charCodeAt(at++);
      gap = gap * 128 + (byte & 127);
      more = byte >= 128;
    }
    if (more || at >= bytes.length) return null;
    tick += gap;
    if (bytes.charCodeAt(at) >= 128) running = bytes.charCodeAt(at++);
    if (running < 0x80 || running > 0xe0 || (running & 15) !== 0) return null;
    const data1 = dataByte();
    const data2 = isShort(running) ? 0 : dataByte();
    if (data1 < 0 || data2 < 0) return null;
    ticks[count] = tick;
    statuses[count] = running;
    first[count] = data1;
    second[count++] = data2;
  }
  return {
    ticks: ticks.slice(0, count),
    statuses: statuses.slice(0, count),
    data1: first.slice(0, count),
    data2: second.slice(0, count),
  };
}
