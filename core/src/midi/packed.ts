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
    let gap = atTick - tick;
    const quantity = [gap & 127];
    for (gap = Math.floor(gap / 128); gap > 0; gap = Math.floor(gap / 128)) quantity.unshift((gap & 127) | 128);
    bytes.push(...quantity);
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
  const found: PackedMessage[] = [];
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
    found.push({ atTick: tick, status: running, data1, data2 });
  }
  return {
    ticks: Float64Array.from(found, ({ atTick }) => atTick),
    statuses: Uint8Array.from(found, ({ status }) => status),
    data1: Uint8Array.from(found, (message) => message.data1),
    data2: Uint8Array.from(found, (message) => message.data2),
  };
}
