import { withAllBindings } from './bindingEdits';
import { soundKindName } from '../known';
import { BUILT_INS } from '../model/builtIns';
import type { Binding } from '../model/control';
import type { BlendId, LayerId, PatchId, SongId } from '../model/ids';
import { Layer, Part, type LayerSound } from '../model/layer';
import { moved } from './setlistEdits';
import { copyOf, freeTape } from './sheetParts';
import type { Cue } from '../model/cue';
import { Blend, Patch, Song } from '../model/song';

// Edits as pure functions: a show's part in, its changed copy out. What they do not touch keeps its identity.

/** A song to start from: one patch with one layer over all keys. */
export function newSong(id: SongId, name: string, layerId: LayerId, patchId: PatchId): Song {
  const [instrument] = BUILT_INS;
  return Song.parse({
    id,
    name,
    layers: [
      {
        id: layerId,
        name: soundKindName({ instrumentId: instrument.id, presetId: instrument.presets[0].id }, () => undefined),
        tape: 'straw',
        sound: { instrumentId: instrument.id, presetId: instrument.presets[0].id },
      },
    ],
    patches: [{ id: patchId, name: 'First', parts: [{ layerId }] }],
  });
}

/** Changes one patch of a song. */
export const changePatch = (song: Song, id: string, change: (patch: Patch) => Patch): Song => ({
  ...song,
  patches: song.patches.map((patch) => (patch.id === id ? change(patch) : patch)),
});
/** Changes one layer of a song. */
export const changeLayer = (song: Song, id: string, change: (layer: Layer) => Layer): Song => ({
  ...song,
  layers: song.layers.map((layer) => (layer.id === id ? change(layer) : layer)),
});

/** Another sound for a layer; that of another instrument comes on that instrument's own channel. */
export const withSound = (song: Song, layerId: string, sound: Pick<LayerSound, 'instrumentId' | 'presetId'>): Song =>
  changeLayer(song, layerId, (layer) => ({
    ...layer,
    sound: {
      ...layer.sound,
      ...sound,
      channel: sound.instrumentId === layer.sound.instrumentId ? layer.sound.channel : null,
    },
  }));

/** Changes how a layer plays in a patch, or (patch null) as a standing layer. */
export function changePart(song: Song, patchId: string | null, layerId: string, change: (part: Part) => Part): Song {
  const apply = (parts: Part[]): Part[] => parts.map((part) => (part.layerId === layerId ? change(part) : part));
  return patchId === null
    ? { ...song, standing: apply(song.standing) }
    : changePatch(song, patchId, (patch) => ({ ...patch, parts: apply(patch.parts) }));
}

/** Lets a layer play in a patch, over all keys. */
export const withPart = (song: Song, patchId: string, layerId: LayerId): Song =>
  changePatch(song, patchId, (patch) =>
    patch.parts.some((part) => part.layerId === layerId)
      ? patch
      : { ...patch, parts: [...patch.parts, Part.parse({ layerId })] },
  );

/** Silences a layer in a patch, and takes it out of the patch’s blends. */
export const withoutPart = (song: Song, patchId: string, layerId: string): Song =>
  changePatch(song, patchId, (patch) => ({
    ...patch,
    parts: patch.parts.filter((part) => part.layerId !== layerId),
    blends: patch.blends.map((blend) => ({
      ...blend,
      values: blend.values.filter((value) => value.layerId !== layerId),
    })),
  }));

/** Adds a layer on the next free tape, playing in one patch. */
export function withLayer(song: Song, id: LayerId, patchId: string, name: string, sound: Layer['sound']): Song {
  return withPart(
    { ...song, layers: [...song.layers, Layer.parse({ id, name, tape: freeTape(song.layers), sound })] },
    patchId,
    id,
  );
}

/** Takes a layer out of the song, with its place in every patch, what roles did to it, and notes that it plays by itself. */
export function withoutLayer(song: Song, id: string): Song {
  const cleared = song.patches.reduce((current, patch) => withoutPart(current, patch.id, id), song);
  const elsewhere = (bindings: Binding[]): Binding[] =>
    bindings.filter(({ action }) => !('layerId' in action) || action.layerId !== id);
  const playsIt = (cue: Cue): boolean => cue.kind === 'note' && cue.to.kind === 'layer' && cue.to.layerId === id;
  return {
    ...withAllBindings(cleared, elsewhere),
    cues: cleared.cues.filter((cue) => !playsIt(cue)),
    layers: cleared.layers.filter((layer) => layer.id !== id),
    standing: cleared.standing.filter((part) => part.layerId !== id),
  };
}

/** A copy of a patch right behind it, under ids of its own. */
export function withDuplicatedPatch(song: Song, patchId: string, id: PatchId, mintBlend: () => BlendId): Song {
  const at = song.patches.findIndex((patch) => patch.id === patchId);
  const original = song.patches[at];
  if (!original) return song;
  const copy: Patch = {
    ...copyOf(original),
    id,
    name: `${original.name} 2`,
    blends: original.blends.map((blend) => ({ ...blend, id: mintBlend() })),
  };
  return { ...song, patches: [...song.patches.slice(0, at + 1), copy, ...song.patches.slice(at + 1)] };
}

/** Takes a patch out, with the cues that recall it. */
export const withoutPatch = (song: Song, patchId: string): Song => ({
  ...song,
  patches: song.patches.filter((patch) => patch.id !== patchId),
  cues: song.cues.filter((cue) => cue.kind !== 'recall' || cue.patchId !== patchId),
});

/** Moves a patch from one place to another, both from 0. */
export const withMovedPatch = (song: Song, from: number, to: number): Song => ({
  ...song,
  patches: moved(song.patches, from, to),
});

/** Adds a blend with the patch's own balance. */
export const withBlend = (song: Song, patchId: string, id: BlendId, name: string): Song =>
  changePatch(song, patchId, (patch) => ({ ...patch, blends: [...patch.blends, Blend.parse({ id, name })] }));

/** Takes a blend out of its patch. */
export const withoutBlend = (song: Song, patchId: string, blendId: string): Song => ({
  ...changePatch(song, patchId, (patch) => ({
    ...patch,
    blends: patch.blends.filter((blend) => blend.id !== blendId),
  })),
  cues: song.cues.filter((cue) => cue.kind !== 'recall' || cue.blendId !== blendId),
});

/** Changes what a blend does to one layer. */
export const changeBlendValue = (
  song: Song,
  patchId: string,
  blendId: string,
  layerId: LayerId,
  change: Omit<Blend['values'][number], 'layerId'>,
): Song =>
  changePatch(song, patchId, (patch) => ({
    ...patch,
    blends: patch.blends.map((blend) =>
      blend.id !== blendId
        ? blend
        : {
            ...blend,
            values: blend.values.some((value) => value.layerId === layerId)
              ? blend.values.map((value) => (value.layerId === layerId ? { ...value, ...change } : value))
              : [...blend.values, { layerId, ...change }],
          },
    ),
  }));
