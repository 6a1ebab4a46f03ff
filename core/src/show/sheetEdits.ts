import { changeBlendValue, changePatch, moved, withoutLayer, withoutPart } from './edits';
import type { Effect, EffectChange } from './effect';
import { effectChanges, withEffectChanges } from './effectParameters';
import type { BlendId, LayerId, LibraryItemId, PatchId, SongId } from './ids';
import type { Layer, Part } from './layer';
import { LibraryItem } from './library';
import type { Setlist } from './setlist';
import { Blend, type Patch, type Song } from './song';
import { TAPES, type Tape } from './values';

// What the song sheet does to a song: pure, and what is not touched keeps its identity.

/** Gives new ids to what is copied. */
export interface Mint {
  layer: () => LayerId;
  patch: () => PatchId;
  blend: () => BlendId;
}

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const freeTape = (layers: readonly Layer[]): Tape => TAPES.find((tape) => !layers.some((layer) => layer.tape === tape)) ?? TAPES[layers.length % TAPES.length];
const partOf = (patch: Patch, layerId: string): Part | undefined => patch.parts.find((part) => part.layerId === layerId);
const withPartAs = (patch: Patch, part: Part): Patch => ({ ...patch, parts: partOf(patch, part.layerId) ? patch.parts.map((other) => (other.layerId === part.layerId ? part : other)) : [...patch.parts, part] });

/** Rows of the sheet in another order; nothing sounds different. */
export const withMovedLayer = (song: Song, from: number, to: number): Song => ({ ...song, layers: moved(song.layers, from, to) });

/** A second layer like one, right under it, playing wherever that plays. Roles go on moving the first. */
export function withDuplicatedLayer(song: Song, layerId: string, id: LayerId): Song {
  const at = song.layers.findIndex((layer) => layer.id === layerId);
  if (at < 0) return song;
  const copy: Layer = { ...copyOf(song.layers[at]), id, name: `${song.layers[at].name} 2`.slice(0, 120), tape: freeTape(song.layers) };
  const doubled = (parts: Part[]): Part[] => parts.flatMap((part) => (part.layerId === layerId ? [part, { ...part, layerId: id }] : [part]));
  return {
    ...song, layers: [...song.layers.slice(0, at + 1), copy, ...song.layers.slice(at + 1)], standing: doubled(song.standing),
    patches: song.patches.map((patch) => ({
      ...patch, parts: doubled(patch.parts),
      blends: patch.blends.map((blend) => ({ ...blend, values: blend.values.flatMap((value) => (value.layerId === layerId ? [value, { ...value, layerId: id }] : [value])) })),
    })),
  };
}

/** Lets a layer run on into the patch behind one, as it plays there. @returns the same song when there is none, or when it plays there already. */
export function withRunOn(song: Song, patchId: string, layerId: string): Song {
  const at = song.patches.findIndex((patch) => patch.id === patchId);
  const part = at < 0 ? undefined : partOf(song.patches[at], layerId);
  const next = song.patches[at + 1];
  if (!part || !next || partOf(next, layerId)) return song;
  return changePatch(song, next.id, (patch) => withPartAs(patch, part));
}

/** From a patch on, a run of a layer becomes a layer of its own: it may get another sound, and held notes carry over there. */
export function withSplitRun(song: Song, patchId: string, layerId: string, id: LayerId): Song {
  const from = song.patches.findIndex((patch) => patch.id === patchId);
  const at = song.layers.findIndex((layer) => layer.id === layerId);
  if (from < 0 || at < 0 || !partOf(song.patches[from], layerId)) return song;
  let end = from;
  while (end < song.patches.length && partOf(song.patches[end], layerId)) end++;
  const rename = (patch: Patch): Patch => ({
    ...patch, parts: patch.parts.map((part) => (part.layerId === layerId ? { ...part, layerId: id } : part)),
    blends: patch.blends.map((blend) => ({ ...blend, values: blend.values.map((value) => (value.layerId === layerId ? { ...value, layerId: id } : value)) })),
  });
  const copy: Layer = { ...copyOf(song.layers[at]), id, name: `${song.layers[at].name} 2`.slice(0, 120), tape: freeTape(song.layers) };
  return { ...song, layers: [...song.layers.slice(0, at + 1), copy, ...song.layers.slice(at + 1)], patches: song.patches.map((patch, i) => (i >= from && i < end ? rename(patch) : patch)) };
}

/** One row takes up another: the first layer plays wherever only the second did, and the second is gone. Null when both play in one patch. */
export function withJoinedLayers(song: Song, keptId: LayerId, goneId: string): Song | null {
  const clashes = song.patches.some((patch) => partOf(patch, keptId) && partOf(patch, goneId));
  const stands = song.standing.some((part) => part.layerId === goneId || part.layerId === keptId);
  if (clashes || stands || keptId === goneId) return null;
  return {
    ...song, layers: song.layers.filter((layer) => layer.id !== goneId),
    patches: song.patches.map((patch) => ({
      ...patch, parts: patch.parts.map((part) => (part.layerId === goneId ? { ...part, layerId: keptId } : part)),
      blends: patch.blends.map((blend) => ({ ...blend, values: blend.values.map((value) => (value.layerId === goneId ? { ...value, layerId: keptId } : value)) })),
      bindings: rebound(patch.bindings, keptId, goneId),
    })),
    bindings: rebound(song.bindings, keptId, goneId),
  };
}

const rebound = (bindings: Song['bindings'], keptId: LayerId, goneId: string): Song['bindings'] =>
  bindings.map((binding) => ('layerId' in binding.action && binding.action.layerId === goneId ? { ...binding, action: { ...binding.action, layerId: keptId } } : binding));

/** Makes a layer stand (it sounds in every patch as it plays in this one), or (false) gives it back to the patch that is looked at. */
export function withStanding(song: Song, patchId: string, layerId: string, stands: boolean): Song {
  const standing = song.standing.find((part) => part.layerId === layerId);
  if (stands === (standing !== undefined)) return song;
  if (standing) return { ...changePatch(song, patchId, (patch) => withPartAs(patch, standing)), standing: song.standing.filter((part) => part !== standing) };
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  const part = patch && partOf(patch, layerId);
  if (!part) return song;
  const cleared = song.patches.reduce((current, { id }) => withoutPart(current, id, layerId), song);
  return { ...cleared, standing: [...song.standing, part] };
}

/** Makes a layer of a song stand through the whole setlist, as it plays in a patch. The song no longer has it. Null: the patch does not play it. */
export function withStandingInSetlist(setlist: Setlist, song: Song, patchId: string, layerId: string, id: LayerId): { setlist: Setlist; song: Song } | null {
  const layer = song.layers.find((candidate) => candidate.id === layerId);
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  const part = song.standing.find((candidate) => candidate.layerId === layerId) ?? (patch && partOf(patch, layerId));
  if (!layer || !part) return null;
  return { setlist: { ...setlist, layers: [...setlist.layers, { ...copyOf(layer), id }], standing: [...setlist.standing, { ...copyOf(part), layerId: id }] }, song: withoutLayer(song, layerId) };
}

type Balance = Pick<Part, 'layerId' | 'levelDb' | 'pan' | 'mute' | 'room' | 'echo' | 'sends'> & { effects: EffectChange[] };

/** A blend that holds a balance: what differs from the patch, and no more. */
export function withCapturedBlend(song: Song, patchId: string, id: BlendId, name: string, balance: readonly Balance[]): Song {
  return changePatch(song, patchId, (patch) => {
    const parts = [...patch.parts, ...song.standing];
    const values = balance.flatMap(({ layerId, effects, ...now }) => {
      const stored = parts.find((part) => part.layerId === layerId);
      if (!stored) return [];
      const changed = Object.fromEntries(Object.entries(now).filter(([field, value]) => JSON.stringify(stored[field as keyof typeof now]) !== JSON.stringify(value)));
      return Object.keys(changed).length + effects.length === 0 ? [] : [{ layerId, ...changed, ...(effects.length > 0 ? { effects } : {}) }];
    });
    return { ...patch, blends: [...patch.blends, Blend.parse({ id, name, values })] };
  });
}

/** Gives a layer other effects; blends forget those that are gone. */
export const withLayerEffects = (song: Song, layerId: string, effects: Effect[]): Song => ({
  ...song, layers: song.layers.map((layer) => (layer.id === layerId ? { ...layer, effects } : layer)),
  patches: song.patches.map((patch) => (patch.blends.some(({ values }) => values.some((value) => value.layerId === layerId && value.effects)) ? {
    ...patch, blends: patch.blends.map((blend) => ({
      ...blend, values: blend.values.map((value) => (value.layerId === layerId && value.effects ? { ...value, effects: value.effects.filter((change) => effects.some(({ id }) => id === change.effectId)) } : value)),
    })),
  } : patch)),
});

/**
 * An edit of a layer's effects as they stand in a blend: switches and values become the blend's, everything else (order, kinds, note
 * values, filter types) the layer's own.
 * @param edited the series as the blend shows it, after the edit.
 */
export function withBlendEffects(song: Song, patchId: string, blendId: string, layerId: LayerId, edited: readonly Effect[]): Song {
  const layer = song.layers.find(({ id }) => id === layerId);
  if (!layer) return song;
  const change = song.patches.find(({ id }) => id === patchId)?.blends.find(({ id }) => id === blendId)?.values.find((value) => value.layerId === layerId);
  const shown = withEffectChanges(layer.effects, change?.effects);
  const own = edited.map((effect) => {
    const before = layer.effects.find(({ id }) => id === effect.id);
    // What the blend holds of it goes back to the layer's own; what is left is the layer's.
    return before ? withEffectChanges([effect], effectChanges([effect], [before]))[0] : effect;
  });
  const changes = effectChanges(own, edited);
  const sameSeries = shown.length === edited.length && own.every((effect, i) => JSON.stringify(effect) === JSON.stringify(layer.effects[i]));
  return changeBlendValue(sameSeries ? song : withLayerEffects(song, layerId, own), patchId, blendId, layerId, { effects: changes.length > 0 ? changes : undefined });
}

/** Two layers share the keys of a patch: the first up to the key below, the second from it on. */
export function withSplitAt(song: Song, patchId: string, lowerId: string, upperId: string, key: number): Song {
  return changePatch(song, patchId, (patch) => ({
    ...patch, parts: patch.parts.map((part) => {
      if (part.layerId === lowerId) return { ...part, zone: { ...part.zone, lowKey: Math.min(part.zone.lowKey, key - 1), highKey: key - 1 } };
      return part.layerId === upperId ? { ...part, zone: { ...part.zone, lowKey: key, highKey: Math.max(part.zone.highKey, key) } } : part;
    }),
  }));
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

const isWithin = ({ zone }: Part, lowest: number, highest: number): boolean => zone.lowKey <= highest && zone.highKey >= lowest;
const overlap = (a: { lowKey: number; highKey: number }, b: { lowKey: number; highKey: number }): boolean => a.lowKey <= b.highKey && b.lowKey <= a.highKey;

/** Zones of a patch that have no key on a keyboard from `lowest` to `highest`, with what is proposed for each. */
export function foldsOnto(patch: Patch, lowest: number, highest: number): Fold[] {
  return patch.parts.filter((part) => !isWithin(part, lowest, highest)).map((part) => {
    const { lowKey, highKey } = part.zone;
    const octaves = highKey < lowest ? Math.ceil((lowest - highKey) / 12) : -Math.ceil((lowKey - highest) / 12);
    // The whole zone, where there is room for it.
    const step = Math.sign(octaves) * 12;
    let by = octaves * 12;
    while (Math.min(highest, highKey + by + step) - Math.max(lowest, lowKey + by + step) > Math.min(highest, highKey + by) - Math.max(lowest, lowKey + by)) by += step;
    const folded = { lowKey: Math.max(lowest, lowKey + by), highKey: Math.min(highest, highKey + by) };
    const meets = patch.parts.filter((other) => other !== part && isWithin(other, lowest, highest) && overlap(other.zone, folded) && !overlap(other.zone, part.zone)).map((other) => other.layerId);
    return { layerId: part.layerId, ...folded, shift: Math.max(-72, Math.min(72, part.shift - by)), meets };
  });
}

export const withFolds = (song: Song, patchId: string, folds: readonly Fold[]): Song => changePatch(song, patchId, (patch) => ({
  ...patch, parts: patch.parts.map((part) => {
    const fold = folds.find((candidate) => candidate.layerId === part.layerId);
    return fold ? { ...part, shift: fold.shift, zone: { ...part.zone, lowKey: fold.lowKey, highKey: fold.highKey } } : part;
  }),
}));

const sameButForName = (a: Layer, b: Layer): boolean => JSON.stringify({ ...a, id: '', tape: '' }) === JSON.stringify({ ...b, id: '', tape: '' });

/** A patch from elsewhere, with the layers that it plays: copies, behind the patch at `at`. A layer that the song has already in just this way is used again. */
export function withPatchFrom(song: Song, from: { patch: Patch; layers: readonly Layer[] }, at: number, mint: Mint, startedFrom: LibraryItemId | null = null): { song: Song; patchId: PatchId } {
  const layers = [...song.layers];
  const ids = new Map<string, LayerId>();
  for (const layer of from.layers) {
    const known = song.layers.find((candidate) => sameButForName(candidate, layer));
    const id = known?.id ?? mint.layer();
    ids.set(layer.id, id);
    if (!known) layers.push({ ...copyOf(layer), id, tape: layers.some((other) => other.tape === layer.tape) ? freeTape(layers) : layer.tape });
  }
  const patchId = mint.patch();
  const patch: Patch = {
    ...copyOf(from.patch), id: patchId, startedFrom,
    parts: from.patch.parts.flatMap((part) => { const id = ids.get(part.layerId); return id ? [{ ...copyOf(part), layerId: id }] : []; }),
    blends: from.patch.blends.map((blend) => ({ ...copyOf(blend), id: mint.blend(), values: blend.values.flatMap((value) => { const id = ids.get(value.layerId); return id ? [{ ...value, layerId: id }] : []; }) })),
    bindings: from.patch.bindings.flatMap((binding) => {
      if (!('layerId' in binding.action)) return [copyOf(binding)];
      const id = ids.get(binding.action.layerId);
      return id ? [{ ...copyOf(binding), action: { ...binding.action, layerId: id } }] : [];
    }),
  };
  return { song: { ...song, layers, patches: [...song.patches.slice(0, at + 1), patch, ...song.patches.slice(at + 1)] }, patchId };
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
export const songItem = (song: Song, about: ItemAbout): LibraryItem => LibraryItem.parse(copyOf({ kind: 'song', name: song.name, ...about, song }));

/** A new song that starts as an item of the library has it. The item stays as it is. */
export const songFromItem = (item: Extract<LibraryItem, { kind: 'song' }>, id: SongId): Song => ({ ...copyOf(item.song), id, startedFrom: item.id });

/** Songs and patches that were started from an item, by name. */
export function startedFrom(itemId: string, songs: readonly Song[]): { songId: SongId; name: string }[] {
  return songs.flatMap((song) => [
    ...(song.startedFrom === itemId ? [{ songId: song.id, name: song.name as string }] : []),
    ...song.patches.filter((patch) => patch.startedFrom === itemId).map((patch) => ({ songId: song.id, name: `${patch.name} in ${song.name}` })),
  ]);
}
