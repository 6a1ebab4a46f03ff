import { changePatch } from './songEdits';
import type { LayerId } from '../model/ids';
import type { Part } from '../model/layer';
import { partOf } from './sheetParts';
import type { Patch, Song } from '../model/song';

// What the song sheet does to zones. Pure; what is not touched keeps its identity.

/** Two layers share the keys of a patch: the first up to the key below, the second from it on. */
export function withSplitAt(song: Song, patchId: string, lowerId: string, upperId: string, key: number): Song {
  return changePatch(song, patchId, (patch) => ({
    ...patch,
    parts: patch.parts.map((part) => {
      if (part.layerId === lowerId)
        return { ...part, zone: { ...part.zone, lowKey: Math.min(part.zone.lowKey, key - 1), highKey: key - 1 } };
      return part.layerId === upperId
        ? { ...part, zone: { ...part.zone, lowKey: key, highKey: Math.max(part.zone.highKey, key) } }
        : part;
    }),
  }));
}

/** What two neighbours cross over along. */
export type CrossedBy = 'keys' | 'velocities';
const ENDS = {
  keys: { low: 'lowKey', high: 'highKey', fadeIn: 'fadeLowKeys', fadeOut: 'fadeHighKeys', least: 0 },
  velocities: { low: 'lowVelocity', high: 'highVelocity', fadeIn: 'fadeSoft', fadeOut: 'fadeHard', least: 1 },
} as const;

/**
 * Layers of a patch whose zones lie next to a layer's, or reach into it from one side: what it can cross over with, and
 * whether by keys or by velocities.
 */
export function neighboursOf(patch: Patch, layerId: string): { layerId: LayerId; by: CrossedBy }[] {
  const part = partOf(patch, layerId);
  if (!part) return [];
  const meet = (other: Part, by: CrossedBy): boolean => {
    const { low, high } = ENDS[by];
    const [first, second] = part.zone[low] <= other.zone[low] ? [part.zone, other.zone] : [other.zone, part.zone];
    return second[low] <= first[high] + 1 && second[low] > first[low] && second[high] > first[high];
  };
  const share = (other: Part, by: CrossedBy): boolean =>
    part.zone[ENDS[by].low] <= other.zone[ENDS[by].high] && other.zone[ENDS[by].low] <= part.zone[ENDS[by].high];
  return patch.parts
    .filter((other) => other !== part)
    .flatMap((other) => [
      ...(meet(other, 'keys') && share(other, 'velocities') ? [{ layerId: other.layerId, by: 'keys' as const }] : []),
      ...(meet(other, 'velocities') && share(other, 'keys')
        ? [{ layerId: other.layerId, by: 'velocities' as const }]
        : []),
    ]);
}

/**
 * Two neighbours cross over where they meet: their zones overlap by a width (keys, or steps of velocity) in which one
 * fades out as the other fades in.
 */
export function withCrossover(
  song: Song,
  patchId: string,
  layerId: string,
  otherId: string,
  by: CrossedBy,
  width: number,
): Song {
  const { low, high, fadeIn, fadeOut, least } = ENDS[by];
  return changePatch(song, patchId, (patch) => {
    const [a, b] = [partOf(patch, layerId), partOf(patch, otherId)];
    if (!a || !b || width < 1) return patch;
    const [first, second] = a.zone[low] <= b.zone[low] ? [a, b] : [b, a];
    const from = Math.max(least, Math.round((first.zone[high] + 1 + second.zone[low]) / 2 - width / 2));
    const to = Math.min(127, from + width - 1);
    return {
      ...patch,
      parts: patch.parts.map((part) => {
        if (part === first) return { ...part, zone: { ...part.zone, [high]: to, [fadeOut]: to - from + 1 } };
        return part === second ? { ...part, zone: { ...part.zone, [low]: from, [fadeIn]: to - from + 1 } } : part;
      }),
    };
  });
}

/** Where a zone lies on a smaller keyboard: moved by whole octaves, and sounding as it did. */
export interface Fold {
  layerId: LayerId;
  lowKey: number;
  highKey: number;
  shift: number;
  /** Layers that it then plays together with, and did not before. */
  meets: LayerId[];
}

const isWithin = ({ zone }: Part, lowest: number, highest: number): boolean =>
  zone.lowKey <= highest && zone.highKey >= lowest;
const overlap = (a: { lowKey: number; highKey: number }, b: { lowKey: number; highKey: number }): boolean =>
  a.lowKey <= b.highKey && b.lowKey <= a.highKey;

/** Zones of a patch that have no key on a keyboard from `lowest` to `highest`, with what is proposed for each. */
export function foldsOnto(patch: Patch, lowest: number, highest: number): Fold[] {
  return patch.parts
    .filter((part) => !isWithin(part, lowest, highest))
    .map((part) => {
      const { lowKey, highKey } = part.zone;
      const octaves = highKey < lowest ? Math.ceil((lowest - highKey) / 12) : -Math.ceil((lowKey - highest) / 12);
      // The whole zone, where there is room for it.
      const step = Math.sign(octaves) * 12;
      let by = octaves * 12;
      while (
        Math.min(highest, highKey + by + step) - Math.max(lowest, lowKey + by + step) >
        Math.min(highest, highKey + by) - Math.max(lowest, lowKey + by)
      )
        by += step;
      const folded = { lowKey: Math.max(lowest, lowKey + by), highKey: Math.min(highest, highKey + by) };
      const meets = patch.parts
        .filter(
          (other) =>
            other !== part &&
            isWithin(other, lowest, highest) &&
            overlap(other.zone, folded) &&
            !overlap(other.zone, part.zone),
        )
        .map((other) => other.layerId);
      return { layerId: part.layerId, ...folded, shift: Math.max(-72, Math.min(72, part.shift - by)), meets };
    });
}

/** Zones of a patch folded into the keys of a smaller keyboard. */
export const withFolds = (song: Song, patchId: string, folds: readonly Fold[]): Song =>
  changePatch(song, patchId, (patch) => ({
    ...patch,
    parts: patch.parts.map((part) => {
      const fold = folds.find((candidate) => candidate.layerId === part.layerId);
      return fold
        ? { ...part, shift: fold.shift, zone: { ...part.zone, lowKey: fold.lowKey, highKey: fold.highKey } }
        : part;
    }),
  }));
