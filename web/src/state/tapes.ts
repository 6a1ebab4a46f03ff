import type { Song } from '@rackle/core/show';

/** Tapes of the layers that a patch plays, the standing ones last. */
export const tapesOf = (song: Song, patchId: string): string[] => {
  const parts = [...(song.patches.find((patch) => patch.id === patchId)?.parts ?? []), ...song.standing];
  return parts.flatMap((part) => song.layers.find((layer) => layer.id === part.layerId)?.tape ?? []).slice(0, 4);
};
