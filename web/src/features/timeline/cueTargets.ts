import type { Blend, Patch, Song } from '@rackle/core/show';

/** What a cue can recall. */
export interface CueTarget {
  key: string;
  patch: Patch;
  blend: Blend | null;
  label: string;
}

/** One text for a patch or a blend of it. */
export const targetKey = (patchId: string, blendId: string | null): string => `${patchId}|${blendId ?? ''}`;

/** Every patch of a song and each of its blends. */
export const cueTargets = (song: Song): CueTarget[] =>
  song.patches.flatMap((patch): CueTarget[] => [
    { key: targetKey(patch.id, null), patch, blend: null, label: patch.name },
    ...patch.blends.map((blend) => ({
      key: targetKey(patch.id, blend.id),
      patch,
      blend,
      label: `${patch.name}, ${blend.name}`,
    })),
  ]);
