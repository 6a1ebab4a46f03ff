import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import {
  BUILT_INS,
  Patch,
  mixOf,
  changeBlendValue,
  changePart,
  withCapturedBlend,
  withDuplicatedLayer,
  withDuplicatedPatch,
  withLayer,
  withMovedLayer,
  withMovedPatch,
  withPart,
  withRunOn,
  withoutLayer,
  withoutPart,
  withoutPatch,
  type Blend,
  type BlendId,
  type LayerId,
  type Part,
  type PatchId,
  type Song,
} from '@rackle/core/show';
import { useAct, useApp, useEdit, useHost, usePlaces } from '../../state/hooks';
import { newId } from '../../state/ids';
import { chose } from '../../state/uiSlice';
import type { BalanceChange } from './signal/signal';
import type { Column, SheetActions } from './useSheetKeys';

type Chosen = { patchId?: string; blendId?: string | null; layerId?: string };

/** The sheet of a song: what of it is looked at, and everything that can be done to it. */
export function useSongSheet(song: Song) {
  const edit = useEdit();
  const act = useAct();
  const host = useHost();
  const places = usePlaces();
  const live = useApp(({ live: running }) => running.place);
  const looked = useLookedAt(song);
  const { patch, blend } = looked;
  const change = (label: string, next: Song, mergeKey?: string): void => edit({ label, songs: [next], mergeKey });
  const look = (next: Chosen): void => void act(chose({ songId: song.id, ...next }));
  /** Choosing a column while standing in this song also plays it; from another song it only looks. */
  const choose = (next: Chosen): void => {
    look(next);
    if (next.patchId === undefined) return;
    const place = places.find(
      (candidate) =>
        candidate.entry.id === live.entryId &&
        candidate.song.id === song.id &&
        candidate.patch.id === next.patchId &&
        (candidate.blend?.id ?? null) === (next.blendId ?? null),
    );
    if (place) host.post({ type: 'recall', position: place.position });
  };
  // What the foot recalls is what is looked at.
  useEffect(() => {
    if (live.songId === song.id && live.patchId !== null)
      act(chose({ songId: song.id, patchId: live.patchId, blendId: live.blendId }));
  }, [act, song.id, live.songId, live.patchId, live.blendId]);
  const isStanding = (id: string): boolean => song.standing.some((part) => part.layerId === id);
  const setPart = (id: string, label: string, apply: (part: Part) => Part, mergeKey?: string): void => {
    const of = isStanding(id) ? null : (patch?.id ?? null);
    change(label, changePart(song, of, id, apply), mergeKey);
  };
  const setBalance = (id: LayerId, label: string, values: BalanceChange, mergeKey: string): void =>
    blend && patch
      ? change(label, changeBlendValue(song, patch.id, blend.id, id, values), mergeKey)
      : setPart(id, label, (current) => ({ ...current, ...partValues(values) }), mergeKey);
  const actions = useSheetActions(song, { ...looked, isStanding, change, look, choose });
  return { ...looked, isStanding, change, look, choose, setPart, setBalance, actions };
}

/** The patch, blend and layer that are looked at: those chosen, else those that play, else the first. */
function useLookedAt(song: Song) {
  const chosen = useApp(({ ui }) => ui.chosen[song.id]);
  const live = useApp(({ live: running }) => running.place);
  const patch =
    song.patches.find(({ id }) => id === chosen?.patchId) ??
    song.patches.find(({ id }) => id === live.patchId) ??
    song.patches[0] ??
    null;
  const blend = patch?.blends.find(({ id }) => id === chosen?.blendId) ?? null;
  const parts: readonly Part[] = patch ? [...patch.parts, ...song.standing] : [];
  // A cell that is silent may be looked at too: that is where a layer is let play.
  const layer =
    song.layers.find(({ id }) => id === chosen?.layerId) ??
    song.layers.find(({ id }) => id === parts[0]?.layerId) ??
    song.layers[0] ??
    null;
  const part = parts.find(({ layerId }) => layerId === layer?.id) ?? null;
  const columns: Column[] = song.patches.flatMap((item): Column[] => [
    { patch: item, blend: null },
    ...item.blends.map((inner) => ({ patch: item, blend: inner })),
  ]);
  return {
    patch,
    blend,
    parts,
    layer,
    part,
    columns,
    column: columns.findIndex((at) => at.patch === patch && at.blend === blend),
    row: layer ? song.layers.indexOf(layer) : -1,
  };
}

interface Sheet extends ReturnType<typeof useLookedAt> {
  isStanding: (layerId: string) => boolean;
  change: (label: string, next: Song, mergeKey?: string) => void;
  look: (next: Chosen) => void;
  choose: (next: Chosen) => void;
}

/** What the sheet's buttons and keys do. */
function useSheetActions(song: Song, sheet: Sheet): SheetActions {
  const navigate = useNavigate();
  const live = useApp(({ live: running }) => running.place);
  const heard = useApp(({ live: running }) => running.balance.layers);
  const { patch, blend, parts, layer, part, row, isStanding, change, look, choose } = sheet;
  const at = patch ? song.patches.indexOf(patch) : -1;
  return {
    choose,
    addPatch: () => {
      const next = Patch.parse({
        id: newId('patch'),
        name: `Patch ${song.patches.length + 1}`,
        parts: song.layers[0] ? [{ layerId: song.layers[0].id }] : [],
      });
      change('add a patch', {
        ...song,
        patches: [...song.patches.slice(0, at + 1), next, ...song.patches.slice(at + 1)],
      });
      look({ patchId: next.id, blendId: null });
    },
    addLayer: () => {
      if (!patch) return;
      const [instrument] = BUILT_INS;
      const id = newId<LayerId>('layer');
      change(
        'add a layer',
        withLayer(song, id, patch.id, `Layer ${song.layers.length + 1}`, {
          instrumentId: instrument.id,
          presetId: instrument.presets[0].id,
          channel: null,
        }),
      );
      look({ layerId: id });
      void navigate('/sounds', { state: { songId: song.id, layerId: id } });
    },
    captureBlend: () => {
      if (!patch) return;
      const id = newId<BlendId>('blend');
      // As it sounds now: with what knobs have moved, where the song is played; else as the patch has it.
      const now = live.songId === song.id && live.patchId === patch.id ? heard : [];
      const captured = parts.map((of) => ({
        layerId: of.layerId,
        ...capturedOf(
          of,
          blend?.values.find(({ layerId }) => layerId === of.layerId),
          now.find(({ layerId }) => layerId === of.layerId),
        ),
      }));
      change('capture a blend', withCapturedBlend(song, patch.id, id, `Blend ${patch.blends.length + 1}`, captured));
      look({ patchId: patch.id, blendId: id });
    },
    duplicatePatch: () => {
      if (!patch) return;
      const id = newId<PatchId>('patch');
      change(
        'duplicate a patch',
        withDuplicatedPatch(song, patch.id, id, () => newId<BlendId>('blend')),
      );
      look({ patchId: id, blendId: null });
    },
    setPlays: (plays) => {
      if (!patch || !layer || isStanding(layer.id) || (part !== null) === plays) return;
      if (plays) change(`let ${layer.name} play in ${patch.name}`, withPart(song, patch.id, layer.id));
      else change('take a layer out of a patch', withoutPart(song, patch.id, layer.id));
    },
    movePatch: (by) => {
      if (patch && song.patches[at + by]) change('move a patch', withMovedPatch(song, at, at + by));
    },
    moveLayer: (by) => {
      if (layer && song.layers[row + by]) change('move a layer', withMovedLayer(song, row, row + by));
    },
    duplicateLayer: () => {
      if (layer) change('duplicate a layer', withDuplicatedLayer(song, layer.id, newId<LayerId>('layer')));
    },
    removePatch: () => {
      if (patch) change('remove a patch', withoutPatch(song, patch.id));
    },
    removeLayer: () => {
      if (layer) change('remove a layer', withoutLayer(song, layer.id));
    },
    runOn: () => {
      if (patch && layer) change('let a layer run on', withRunOn(song, patch.id, layer.id));
    },
  };
}

type Captured = Pick<Blend['values'][number], 'levelDb' | 'pan' | 'mute' | 'room' | 'echo' | 'effects' | 'parameters'>;

/** What a blend takes of a layer: what is heard of it, else what the blend that is looked at has, else the patch. */
function capturedOf(part: Part, stored: Blend['values'][number] | undefined, heard: Captured | undefined) {
  return {
    ...mixOf(part, heard, stored),
    effects: heard?.effects ?? stored?.effects ?? [],
    parameters: heard?.parameters ?? stored?.parameters ?? [],
  };
}

/** What of a blend's values a patch's own part has too. */
const partValues = ({ levelDb, pan, mute, room, echo, sends, parameters }: BalanceChange): Partial<Part> =>
  Object.fromEntries(
    Object.entries({ levelDb, pan, mute, room, echo, sends, parameters }).filter(([, value]) => value !== undefined),
  );
