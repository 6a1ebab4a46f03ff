import { moved } from './setlistEdits';
import { changePatch, withoutLayer, withoutPart } from './songEdits';
import type { LayerId } from '../model/ids';
import type { Layer, Part } from '../model/layer';
import type { Setlist } from '../model/setlist';
import { copyOf, freeTape, partOf, withPartAs } from './sheetParts';
import type { Patch, Song } from '../model/song';

// What the song sheet does to its rows. Pure; what is not touched keeps its identity.

/** Rows of the sheet in another order; nothing sounds different. */
export const withMovedLayer = (song: Song, from: number, to: number): Song => ({
  ...song,
  layers: moved(song.layers, from, to),
});

/** A second layer like one, right under it, playing wherever that plays. Roles go on moving the first. */
export function withDuplicatedLayer(song: Song, layerId: string, id: LayerId): Song {
  const at = song.layers.findIndex((layer) => layer.id === layerId);
  if (at < 0) return song;
  const copy: Layer = {
    ...copyOf(song.layers[at]),
    id,
    name: `${song.layers[at].name} 2`.slice(0, 120),
    tape: freeTape(song.layers),
  };
  const doubled = (parts: Part[]): Part[] =>
    parts.flatMap((part) => (part.layerId === layerId ? [part, { ...part, layerId: id }] : [part]));
  return {
    ...song,
    layers: [...song.layers.slice(0, at + 1), copy, ...song.layers.slice(at + 1)],
    standing: doubled(song.standing),
    patches: song.patches.map((patch) => ({
      ...patch,
      parts: doubled(patch.parts),
      blends: patch.blends.map((blend) => ({
        ...blend,
        values: blend.values.flatMap((value) =>
          value.layerId === layerId ? [value, { ...value, layerId: id }] : [value],
        ),
      })),
    })),
  };
}

/**
 * Lets a layer run on into the patch behind one, as it plays there. @returns the same song when there is none, or when
 * it plays there already.
 */
export function withRunOn(song: Song, patchId: string, layerId: string): Song {
  const at = song.patches.findIndex((patch) => patch.id === patchId);
  const part = at < 0 ? undefined : partOf(song.patches[at], layerId);
  const next = song.patches[at + 1];
  if (!part || !next || partOf(next, layerId)) return song;
  return changePatch(song, next.id, (patch) => withPartAs(patch, part));
}

/**
 * From a patch on, a run of a layer becomes a layer of its own: it may get another sound, and held notes carry over
 * there.
 */
export function withSplitRun(song: Song, patchId: string, layerId: string, id: LayerId): Song {
  const from = song.patches.findIndex((patch) => patch.id === patchId);
  if (from < 0) return song;
  let end = from;
  while (end < song.patches.length && partOf(song.patches[end], layerId)) end++;
  return withOwn(song, layerId, id, (_, i) => i >= from && i < end);
}

/**
 * In one patch a layer becomes a layer of its own, which no other patch shares: what is changed of it there changes no
 * other. @returns the same song where the patch does not play it
 */
export const withOwnLayer = (song: Song, patchId: string, layerId: string, id: LayerId): Song =>
  withOwn(song, layerId, id, (patch) => patch.id === patchId);

/** The patches of a song that play a layer; those of a standing one are all. */
export const patchesWith = (song: Song, layerId: string): Patch[] =>
  song.standing.some((part) => part.layerId === layerId)
    ? song.patches
    : song.patches.filter((patch) => partOf(patch, layerId) !== undefined);

function withOwn(song: Song, layerId: string, id: LayerId, isOwn: (patch: Patch, at: number) => boolean): Song {
  const at = song.layers.findIndex((layer) => layer.id === layerId);
  if (at < 0 || !song.patches.some((patch, i) => isOwn(patch, i) && partOf(patch, layerId))) return song;
  const rename = (patch: Patch): Patch => ({
    ...patch,
    parts: patch.parts.map((part) => (part.layerId === layerId ? { ...part, layerId: id } : part)),
    blends: patch.blends.map((blend) => ({
      ...blend,
      values: blend.values.map((value) => (value.layerId === layerId ? { ...value, layerId: id } : value)),
    })),
    bindings: rebound(patch.bindings, id, layerId),
  });
  const copy: Layer = {
    ...copyOf(song.layers[at]),
    id,
    name: `${song.layers[at].name} 2`.slice(0, 120),
    tape: freeTape(song.layers),
  };
  return {
    ...song,
    layers: [...song.layers.slice(0, at + 1), copy, ...song.layers.slice(at + 1)],
    patches: song.patches.map((patch, i) => (isOwn(patch, i) ? rename(patch) : patch)),
  };
}

/**
 * One row takes up another: the first layer plays wherever only the second did, and the second is gone. Null when both
 * play in one patch.
 */
export function withJoinedLayers(song: Song, keptId: LayerId, goneId: string): Song | null {
  const clashes = song.patches.some((patch) => partOf(patch, keptId) && partOf(patch, goneId));
  const stands = song.standing.some((part) => part.layerId === goneId || part.layerId === keptId);
  if (clashes || stands || keptId === goneId) return null;
  return {
    ...song,
    layers: song.layers.filter((layer) => layer.id !== goneId),
    patches: song.patches.map((patch) => ({
      ...patch,
      parts: patch.parts.map((part) => (part.layerId === goneId ? { ...part, layerId: keptId } : part)),
      blends: patch.blends.map((blend) => ({
        ...blend,
        values: blend.values.map((value) => (value.layerId === goneId ? { ...value, layerId: keptId } : value)),
      })),
      bindings: rebound(patch.bindings, keptId, goneId),
    })),
    cues: song.cues.map((cue) =>
      cue.kind === 'note' && cue.to.kind === 'layer' && cue.to.layerId === goneId
        ? { ...cue, to: { kind: 'layer', layerId: keptId } }
        : cue,
    ),
    backing: song.backing.map((part) =>
      part.to.kind === 'layer' && part.to.layerId === goneId
        ? { ...part, to: { kind: 'layer', layerId: keptId } }
        : part,
    ),
    bindings: rebound(song.bindings, keptId, goneId),
  };
}

const rebound = (bindings: Song['bindings'], keptId: LayerId, goneId: string): Song['bindings'] =>
  bindings.map((binding) =>
    'layerId' in binding.action && binding.action.layerId === goneId
      ? { ...binding, action: { ...binding.action, layerId: keptId } }
      : binding,
  );

/**
 * Makes a layer stand (it sounds in every patch as it plays in this one), or (false) gives it back to the patch that is
 * looked at.
 */
export function withStanding(song: Song, patchId: string, layerId: string, stands: boolean): Song {
  const standing = song.standing.find((part) => part.layerId === layerId);
  if (stands === (standing !== undefined)) return song;
  if (standing)
    return {
      ...changePatch(song, patchId, (patch) => withPartAs(patch, standing)),
      standing: song.standing.filter((part) => part !== standing),
    };
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  const part = patch && partOf(patch, layerId);
  if (!part) return song;
  const cleared = song.patches.reduce((current, { id }) => withoutPart(current, id, layerId), song);
  return { ...cleared, standing: [...song.standing, part] };
}

/**
 * Makes a layer of a song stand through the whole setlist, as it plays in a patch. The song no longer has it. Null: the
 * patch does not play it.
 */
export function withStandingInSetlist(
  setlist: Setlist,
  song: Song,
  patchId: string,
  layerId: string,
  id: LayerId,
): { setlist: Setlist; song: Song } | null {
  const layer = song.layers.find((candidate) => candidate.id === layerId);
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  const part = song.standing.find((candidate) => candidate.layerId === layerId) ?? (patch && partOf(patch, layerId));
  if (!layer || !part) return null;
  return {
    setlist: {
      ...setlist,
      layers: [...setlist.layers, { ...copyOf(layer), id }],
      standing: [...setlist.standing, { ...copyOf(part), layerId: id }],
    },
    song: withoutLayer(song, layerId),
  };
}
