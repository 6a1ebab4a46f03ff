import { Cursor } from './cursor';

/** Parts that others are in, behind four letters of their kind. */
const OUTER = 'LIST';
const HEAD = 8;

interface Part {
  id: string;
  /** Of what is in it. */
  from: number;
  to: number;
  /** Whether the byte that makes its length even is there. */
  isPadded: boolean;
}

/** Names of parts that a bank has (SoundFont 2.04, sections 4 to 7). */
const NAMES: ReadonlySet<string> = new Set(
  (
    'LIST smpl sm24 phdr pbag pmod pgen inst ibag imod igen shdr ' +
    'ifil isng INAM irom iver ICRD IENG IPRD ICOP ICMT ISFT'
  ).split(' '),
);

/**
 * The parts between two places, as they say that they are; one of odd length ends with a byte of padding, or without
 * one. Null where they do not fit.
 */
function partsOf(cursor: Cursor, from: number, to: number): Part[] | null {
  const parts: Part[] = [];
  for (let at = from; at + HEAD <= to;) {
    const bytes = cursor.u32(at + 4) ?? 0;
    const end = at + HEAD + bytes;
    if (end > to) return null;
    const isOdd = bytes % 2 === 1;
    const isPadded = isOdd && end < to && !NAMES.has(cursor.text(end, 4));
    parts.push({ id: cursor.text(at, 4), from: at + HEAD, to: end, isPadded: !isOdd || isPadded });
    at = end + (isOdd && isPadded ? 1 : 0);
  }
  return parts;
}

/**
 * The same RIFF file with every part of odd length padded to an even one, as the format asks; many writers leave that
 * out. The file itself where nothing is left out, or where its parts do not fit.
 */
export function withPadding(bytes: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer>;
export function withPadding(bytes: Uint8Array): Uint8Array;
export function withPadding(bytes: Uint8Array): Uint8Array {
  const cursor = new Cursor(bytes);
  const end = Math.min(bytes.length, (cursor.u32(4) ?? 0) + HEAD);
  const outer = partsOf(cursor, HEAD + 4, end);
  if (outer === null) return bytes;
  const parts = outer.map((part) => ({
    part,
    inner: part.id === OUTER ? (partsOf(cursor, part.from + 4, part.to) ?? []) : [],
  }));
  if (parts.every(({ part, inner }) => part.isPadded && inner.every(({ isPadded }) => isPadded))) return bytes;
  const most = bytes.length + parts.reduce((sum, { inner }) => sum + 1 + inner.length, 0);
  const made = new Uint8Array(most);
  const sizes = new DataView(made.buffer);
  made.set(bytes.subarray(0, HEAD + 4));
  let at = HEAD + 4;
  const copy = (from: number, to: number): void => {
    made.set(bytes.subarray(from, to), at);
    at += to - from;
  };
  for (const { part, inner } of parts) {
    const begins = at;
    copy(part.from - HEAD, inner.length > 0 ? part.from + 4 : part.to);
    for (const each of inner) {
      copy(each.from - HEAD, each.to);
      at += at % 2;
    }
    sizes.setUint32(begins + 4, at - begins - HEAD, true);
    at += at % 2;
  }
  sizes.setUint32(4, at - HEAD, true);
  return made.slice(0, at);
}
