import type { BlendId, LayerId, LibraryItemId, PatchId, SongId } from '../model/ids';
import type { Layer } from '../model/layer';
import { LibraryItem } from '../model/library';
import { copyOf, freeTape } from './sheetParts';
import type { Patch, Song } from '../model/song';

// From songs to the library and back. Pure; what is not touched keeps its identity.

/** Gives new ids to what is copied. */
export interface Mint {
  layer: () => LayerId;
  patch: () => PatchId;
  blend: () => BlendId;
}

const sameButForName = (a: Layer, b: Layer): boolean =>
  JSON.stringify({ ...a, id: '', tape: '' }) === JSON.stringify({ ...b, id: '', tape: '' });

/**
 * A patch from elsewhere, with the layers that it plays: copies, behind the patch at `at`. A layer that the song has
 * already in just this way is used again.
 */
export function withPatchFrom(
  song: Song,
  from: { patch: Patch; layers: readonly Layer[] },
  at: number,
  mint: Mint,
  startedFrom: LibraryItemId | null = null,
): { song: Song; patchId: PatchId } {
  const layers = [...song.layers];
  const ids = new Map<string, LayerId>();
  for (const layer of from.layers) {
    const known = song.layers.find((candidate) => sameButForName(candidate, layer));
    const id = known?.id ?? mint.layer();
    ids.set(layer.id, id);
    if (!known)
      layers.push({
        ...copyOf(layer),
        id,
        tape: layers.some((other) => other.tape === layer.tape) ? freeTape(layers) : layer.tape,
      });
  }
  const patchId = mint.patch();
  const patch: Patch = {
    ...copyOf(from.patch),
    id: patchId,
    startedFrom,
    parts: from.patch.parts.flatMap((part) => {
      const id = ids.get(part.layerId);
      return id ? [{ ...copyOf(part), layerId: id }] : [];
    }),
    blends: from.patch.blends.map((blend) => ({
      ...copyOf(blend),
      id: mint.blend(),
      values: blend.values.flatMap((value) => {
        const id = ids.get(value.layerId);
        return id ? [{ ...value, layerId: id }] : [];
      }),
    })),
    bindings: from.patch.bindings.flatMap((binding) => {
      if (!('layerId' in binding.action)) return [copyOf(binding)];
      const id = ids.get(binding.action.layerId);
      return id ? [{ ...copyOf(binding), action: { ...binding.action, layerId: id } }] : [];
    }),
  };
  return {
    song: { ...song, layers, patches: [...song.patches.slice(0, at + 1), patch, ...song.patches.slice(at + 1)] },
    patchId,
  };
}

/** A patch of a song with the layers that it plays; the song's standing layers stay with the song. */
export function patchWithLayers(song: Song, patchId: string): { patch: Patch; layers: Layer[] } | null {
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  if (!patch) return null;
  const played = new Set(patch.parts.map((part) => part.layerId));
  return { patch, layers: song.layers.filter((layer) => played.has(layer.id)) };
}

interface ItemAbout {
  id: LibraryItemId;
  description: string;
  keptAt: string;
  isTemplate: boolean;
}

/** An item of the library with a copy of a patch. */
export function patchItem(song: Song, patchId: string, about: ItemAbout): LibraryItem | null {
  const content = patchWithLayers(song, patchId);
  return content && LibraryItem.parse(copyOf({ kind: 'patch', name: content.patch.name, ...about, ...content }));
}

/** An item of the library with a copy of a whole song. */
export const songItem = (song: Song, about: ItemAbout): LibraryItem =>
  LibraryItem.parse(copyOf({ kind: 'song', name: song.name, ...about, song }));

/** A new song that starts as an item of the library has it. The item stays as it is. */
export const songFromItem = (item: Extract<LibraryItem, { kind: 'song' }>, id: SongId): Song => ({
  ...copyOf(item.song),
  id,
  startedFrom: item.id,
});

/** Songs and patches that were started from an item, by name. */
export function startedFrom(itemId: string, songs: readonly Song[]): { songId: SongId; name: string }[] {
  return songs.flatMap((song) => [
    ...(song.startedFrom === itemId ? [{ songId: song.id, name: song.name as string }] : []),
    ...song.patches
      .filter((patch) => patch.startedFrom === itemId)
      .map((patch) => ({ songId: song.id, name: `${patch.name} in ${song.name}` })),
  ]);
}
