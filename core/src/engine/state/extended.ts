type Numbers = Int8Array | Int32Array | Uint8Array | Uint16Array | Int16Array | Float64Array;

/** A longer copy of a typed array, the new places filled. Compile time only. */
export function extended<T extends Numbers>(old: T, length: number, filled = 0): T {
  const longer = new (old.constructor as new (length: number) => T)(length);
  if (filled !== 0) longer.fill(filled);
  longer.set(old);
  return longer;
}
