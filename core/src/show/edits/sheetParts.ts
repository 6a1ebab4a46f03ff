import type { Layer, Part } from '../model/layer';
import type { Patch } from '../model/song';
import { TAPES, type Tape } from '../model/values';

// What edits of the song sheet have in common.

/** A copy that shares nothing with what it was made from. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
/** A tape that no layer has yet; with all in use they come round again. */
export const freeTape = (layers: readonly Layer[]): Tape =>
  TAPES.find((tape) => !layers.some((layer) => layer.tape === tape)) ?? TAPES[layers.length % TAPES.length];
/** How a layer plays in a patch; undefined where it is silent. */
export const partOf = (patch: Patch, layerId: string): Part | undefined =>
  patch.parts.find((part) => part.layerId === layerId);
/** Lets a layer play in a patch just so. */
export const withPartAs = (patch: Patch, part: Part): Patch => ({
  ...patch,
  parts: partOf(patch, part.layerId)
    ? patch.parts.map((other) => (other.layerId === part.layerId ? part : other))
    : [...patch.parts, part],
});
