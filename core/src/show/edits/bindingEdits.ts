import type { Binding } from '../model/control';
import type { Song } from '../model/song';

/** Changes what roles do in a song, or (with a patch) in one of its patches. */
export const withBindings = (song: Song, patchId: string | null, change: (bindings: Binding[]) => Binding[]): Song =>
  patchId === null
    ? { ...song, bindings: change(song.bindings) }
    : {
        ...song,
        patches: song.patches.map((patch) =>
          patch.id === patchId ? { ...patch, bindings: change(patch.bindings) } : patch,
        ),
      };

/** Changes what roles do in a song and in every one of its patches. */
export const withAllBindings = (song: Song, change: (bindings: Binding[]) => Binding[]): Song => ({
  ...song,
  bindings: change(song.bindings),
  patches: song.patches.map((patch) => ({ ...patch, bindings: change(patch.bindings) })),
});
