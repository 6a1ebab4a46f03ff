import type { SoundPart } from './soundParts';

/** What loading something took on this machine, by the key of the part. */
export interface MeasuredPart {
  /** Decoded, in memory. */
  bytes: number;
  /** The last times, ms, the newest last: `cold` where its file had not been read since the start, `warm` where it had. */
  cold: readonly number[];
  warm: readonly number[];
}

/** Something that has just been loaded. */
export interface LoadHeard {
  key: string;
  bytes: number;
  ms: number;
  isCold: boolean;
}

/** So many times are kept of each kind. */
const KEPT_TIMES = 5;

/** With one load more. */
export function withLoad(known: MeasuredPart | undefined, { bytes, ms, isCold }: LoadHeard): MeasuredPart {
  const { cold, warm } = known ?? { cold: [], warm: [] };
  const after = (times: readonly number[]): number[] => [...times, ms].slice(-KEPT_TIMES);
  return isCold ? { bytes, cold: after(cold), warm } : { bytes, cold, warm: after(warm) };
}

/** The one in the middle; of two the slower one. */
const median = (times: readonly number[]): number | null =>
  times.length === 0 ? null : [...times].sort((a, b) => a - b)[times.length >> 1];

/** How long it takes: with the file read already if that has been measured, else without; null: never measured. */
export const measuredMs = ({ warm, cold }: MeasuredPart): number | null => median(warm) ?? median(cold);

/**
 * Parts as this machine loads them, where it has: the median of the last five times, with the file read already if that
 * has been measured, else without. What it has not loaded yet stays estimated.
 */
export const asMeasured = (
  parts: readonly SoundPart[],
  measured: Readonly<Record<string, MeasuredPart>>,
): readonly SoundPart[] =>
  parts.map((part) => {
    const known = Object.hasOwn(measured, part.key) ? measured[part.key] : undefined;
    const loadMs = known === undefined ? null : measuredMs(known);
    return known === undefined || loadMs === null ? part : { ...part, bytes: known.bytes, loadMs, isMeasured: true };
  });

/** What a load of several parts took, each of them by its share of the bytes. */
export function sharedOut(
  parts: readonly Pick<SoundPart, 'key' | 'bytes'>[],
  { bytes, ms, isCold }: Omit<LoadHeard, 'key'>,
): LoadHeard[] {
  const sum = parts.reduce((total, part) => total + part.bytes, 0);
  return parts.map((part) => {
    const share = parts.length === 1 ? 1 : part.bytes / Math.max(1, sum);
    return { key: part.key, bytes: Math.round(share * bytes), ms: share * ms, isCold };
  });
}
