const HEAD_BYTES = 27;
const SEGMENTS_AT = 26;
const GRANULE_AT = 6;
const MARK = 0x4f67_6753;

/**
 * The first pages of an Ogg stream (RFC 3533) that hold so many frames: what nobody will hear need not be unpacked. A
 * stream that is none stays as it is.
 */
export function oggStart(bytes: Uint8Array, frames: number): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 0;
  while (at + HEAD_BYTES <= bytes.length && view.getUint32(at) === MARK) {
    const granule = view.getBigInt64(at + GRANULE_AT, true);
    const segments = bytes[at + SEGMENTS_AT];
    let end = at + HEAD_BYTES + segments;
    for (let i = 0; i < segments; i++) end += bytes[at + HEAD_BYTES + i] ?? 0;
    if (granule >= BigInt(frames)) return bytes.subarray(0, Math.min(bytes.length, end));
    at = end;
  }
  return bytes;
}
