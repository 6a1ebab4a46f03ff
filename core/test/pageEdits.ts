import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { withRenamedRole, withoutRole } from '../src/controls';
import { readShowFile } from '../src/formats';
import {
  KIND_NAMES,
  Song,
  changeLayer,
  changePart,
  changesOf,
  patchItem,
  patchWithLayers,
  refusalOf,
  showFaults,
  songFromItem,
  songItem,
  withBlend,
  withCapturedBlend,
  Cue,
  withCue,
  withDuplicatedLayer,
  withDuplicatedPatch,
  withEntry,
  withJoinedLayers,
  withLayer,
  withMovedEntry,
  withMovedPatch,
  withPart,
  withPatchFrom,
  withRunOn,
  withSplitAt,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
  withoutBlend,
  withoutCue,
  withoutEntry,
  withoutLayer,
  withoutPart,
  withoutPatch,
  type Bodies,
  type Change,
  type Draft,
  type Show,
  SHOW_VERSION,
  songEntry,
  canBeInEvery,
  everySetlistOf,
  madeEvery,
  madeOfOne,
  playedSetlist,
} from '../src/show';

/** The demo. */
export const demo = (): Show => {
  const read = readShowFile(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8'));
  if (!read.ok) throw new Error(read.error.message);
  return read.value;
};
/** Another object that says the same. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
/** A show of what stands. */
export const showOf = (all: Bodies): Show =>
  ({
    format: 'rackle-show',
    version: SHOW_VERSION,
    ...Object.fromEntries(KIND_NAMES.map((kind) => [kind, Object.values(all[kind])])),
  }) as Show;

/** Edits as the pages make them, with random places; each gives a draft, or null where it does not fit. */
type RandomEdit = (
  all: Bodies,
  pick: <T>(items: readonly T[]) => T | undefined,
  id: (prefix: string) => never,
) => Draft | null;
const onSong =
  (
    change: (song: Song, pick: <T>(items: readonly T[]) => T | undefined, id: (prefix: string) => never) => Song | null,
  ): RandomEdit =>
  (all, pick, id) => {
    const song = pick(Object.values(all.songs));
    const next = song && change(song, pick, id);
    return next ? { songs: [next] } : null;
  };
const withPatch = (
  change: (
    song: Song,
    patchId: string,
    pick: <T>(items: readonly T[]) => T | undefined,
    id: (prefix: string) => never,
  ) => Song | null,
) =>
  onSong((song, pick, id) => {
    const patch = pick(song.patches);
    return patch ? change(song, patch.id, pick, id) : null;
  });
const withLayerOf = (
  change: (song: Song, patchId: string, layerId: never, id: (prefix: string) => never) => Song | null,
) =>
  withPatch((song, patchId, pick, id) => {
    const layer = pick(song.layers);
    return layer ? change(song, patchId, layer.id as never, id) : null;
  });
/** What hands do on the pages, each anywhere. */
export const EDITS: RandomEdit[] = [
  withPatch((song, patchId) => withoutPatch(song, patchId)),
  withPatch((song, patchId, _, id) => withDuplicatedPatch(song, patchId, id('p'), () => id('b'))),
  withPatch((song, patchId, _, id) => withBlend(song, patchId, id('b'), 'Blend')),
  withPatch((song, patchId, _, id) => withCapturedBlend(song, patchId, id('b'), 'As it is', [])),
  withPatch((song, patchId, pick) => {
    const blend = pick(song.patches.find(({ id }) => id === patchId)!.blends);
    return blend ? withoutBlend(song, patchId, blend.id) : null;
  }),
  withPatch((song, patchId, pick, id) =>
    withCue(
      song,
      Cue.parse({
        kind: 'recall',
        id: id('c'),
        atTick: 960 * song.cues.length,
        patchId,
        blendId: pick(song.patches.find((one) => one.id === patchId)!.blends)?.id ?? null,
      }),
    ),
  ),
  onSong((song, pick) => (song.cues.length > 0 ? withoutCue(song, pick(song.cues)!.id) : null)),
  onSong((song) => (song.patches.length > 1 ? withMovedPatch(song, 0, song.patches.length - 1) : null)),
  withPatch((song, patchId, _, id) =>
    withLayer(song, id('l'), patchId, 'More', {
      instrumentId: 'causeway',
      presetId: 'causeway/late-boat',
      channel: null,
    } as never),
  ),
  withLayerOf((song, _, layerId) => withoutLayer(song, layerId)),
  withLayerOf((song, patchId, layerId) => withPart(song, patchId, layerId)),
  withLayerOf((song, patchId, layerId) => withoutPart(song, patchId, layerId)),
  withLayerOf((song, _, layerId, id) => withDuplicatedLayer(song, layerId, id('l'))),
  withLayerOf((song, patchId, layerId) => withRunOn(song, patchId, layerId)),
  withLayerOf((song, patchId, layerId, id) => withSplitRun(song, patchId, layerId, id('l'))),
  withLayerOf((song, patchId, layerId) =>
    withStanding(song, patchId, layerId, !song.standing.some((part) => part.layerId === layerId)),
  ),
  withLayerOf((song, patchId, layerId) => withSplitAt(song, patchId, layerId, song.layers[0].id, 60)),
  withLayerOf((song, patchId, layerId) =>
    changePart(song, patchId, layerId, (part) => ({ ...part, levelDb: -3, mute: !part.mute })),
  ),
  withLayerOf((song, _, layerId) =>
    changeLayer(song, layerId, (layer) => ({ ...layer, followsTranspose: !layer.followsTranspose })),
  ),
  onSong((song, pick) => {
    const [kept, gone] = [pick(song.layers), pick(song.layers)];
    return kept && gone ? withJoinedLayers(song, kept.id, gone.id) : null;
  }),
  (all, pick, id) => {
    const [from, to] = [pick(Object.values(all.songs)), pick(Object.values(all.songs))];
    const content = from && patchWithLayers(from, pick(from.patches)?.id ?? '');
    const mint = { layer: () => id('l'), patch: () => id('p'), blend: () => id('b') };
    return to && content ? { songs: [withPatchFrom(to, content, to.patches.length - 1, mint).song] } : null;
  },
  (all, pick, id) => {
    const song = pick(Object.values(all.songs));
    const about = { id: id('item'), description: '', keptAt: '2026', isTemplate: false };
    const item =
      song && (pick([0, 1]) === 0 ? songItem(song, about) : patchItem(song, pick(song.patches)?.id ?? '', about));
    return item ? { libraryItems: [item] } : null;
  },
  (all, pick, id) => {
    const item = pick(Object.values(all.libraryItems));
    return item?.kind === 'song' ? { songs: [songFromItem(item, id('s'))] } : null;
  },
  (all, pick) => {
    const item = pick(Object.values(all.libraryItems));
    return item ? { libraryItems: [{ id: item.id, deleted: true }] } : null;
  },
  (all, pick) => {
    const instrument = pick(Object.values(all.instruments));
    return instrument ? { instruments: [{ id: instrument.id, deleted: true }] } : null;
  },
  (all, pick) => {
    const song = pick(Object.values(all.songs));
    return song ? { songs: [{ id: song.id, deleted: true }] } : null;
  },
  (all, pick, id) => {
    const [list, song] = [pick(Object.values(all.setlists)), pick(Object.values(all.songs))];
    return list && song ? { setlists: [withEntry(list, songEntry(id('e'), song.id))] } : null;
  },
  (all, pick) => {
    const list = pick(Object.values(all.setlists));
    const entry = list && pick(list.entries);
    return entry ? { setlists: [withoutEntry(list, entry.id)] } : null;
  },
  (all, pick) => {
    const list = pick(Object.values(all.setlists));
    return list && list.entries.length > 1 ? { setlists: [withMovedEntry(list, 0, 1)] } : null;
  },
  (all, pick, id) => {
    const [list, song] = [pick(Object.values(all.setlists)), pick(Object.values(all.songs))];
    const [patch, layer] = [song && pick(song.patches), song && pick(song.layers)];
    const stood =
      list && song && patch && layer ? withStandingInSetlist(list, song, patch.id, layer.id, id('l')) : null;
    return stood ? { songs: [stood.song], setlists: [stood.setlist] } : null;
  },
  (all, pick, id) => {
    const list = pick(Object.values(all.setlists));
    const role = list && pick(playedSetlist(list, everySetlistOf(all)).roles);
    if (!list || !role) return null;
    return withRenamedRole(role, id('role'), showOf(all));
  },
  (all, pick) => {
    const list = pick(Object.values(all.setlists));
    const role = list && pick(playedSetlist(list, everySetlistOf(all)).roles);
    if (!list || !role) return null;
    return withoutRole(role, { ...showOf(all), setlists: [list] });
  },
  (all, pick) => {
    const list = pick(Object.values(all.setlists));
    const bound = list && pick(list.bindings.filter(({ action }) => canBeInEvery(action)));
    if (!list || !bound) return null;
    const made = madeEvery(list, everySetlistOf(all), bound.role);
    return showFaults({ ...showOf(all), everySetlist: [made.everySetlist] }).length > 0
      ? null
      : { setlists: [made.setlist], everySetlist: [made.everySetlist] };
  },
  (all, pick) => {
    const [list, bound] = [pick(Object.values(all.setlists)), pick(everySetlistOf(all).bindings)];
    if (!list || !bound) return null;
    const made = madeOfOne(list, everySetlistOf(all), bound.role);
    return { setlists: [made.setlist], everySetlist: [made.everySetlist] };
  },
];

/** One of the edits on what stands, chosen by two numbers; null: there is nothing to do it to, or it would be refused. */
export function randomEdit(all: Bodies, which: number, where: number, id: (prefix: string) => never): Change[] | null {
  let turn = where;
  const pick = <T>(items: readonly T[]): T | undefined => {
    turn = (turn * 48271 + 11) % 2147483647;
    return items[turn % Math.max(1, items.length)];
  };
  const draft = EDITS[which % EDITS.length](all, pick, id);
  const changes = draft ? changesOf(all, draft) : [];
  return changes.length === 0 || refusalOf(all, changes) ? null : changes;
}
