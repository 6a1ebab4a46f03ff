import { useEffect, useRef } from 'react';
import { useLocation, useNavigate } from 'react-router';
import {
  BUILT_INS,
  Patch,
  mixOf,
  changeBlendValue,
  changePart,
  withCapturedBlend,
  withDuplicatedLayer,
  withDuplicatedPatch,
  withSoundLayer,
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
import { useAct, useApp, useEdit, usePlaceAhead } from '../../state/hooks';
import { newId } from '../../state/ids';
import { chose } from '../../state/uiSlice';
import { useGoTo, usePlaceOf } from '../../state/useGoTo';
import { useLatest } from '../../ui/useLatest';
import type { BalanceChange } from './signal/signal';
import type { Column, SheetActions } from './useSheetKeys';

type Chosen = { patchId?: string; blendId?: string | null; layerId?: string };

/** The sheet of a song: what of it is looked at, and everything that can be done to it. */
export function useSongSheet(song: Song) {
  const edit = useEdit();
  const act = useAct();
  const goTo = useGoTo();
  const placeOf = usePlaceOf(song.id);
  const { playLooked, locked } = useApp(({ ui }) => ui);
  const looked = useLookedAt(song);
  const { patch, blend } = looked;
  const change = (label: string, next: Song, mergeKey?: string): void => edit({ label, songs: [next], mergeKey });
  const look = (next: Chosen): void => void act(chose({ songId: song.id, ...next }));
  /** Looking recalls nothing, but where the player has asked for it, at home. */
  const choose = (next: Chosen): void => {
    look(next);
    if (next.patchId === undefined || !playLooked || locked) return;
    recall(next.patchId, next.blendId ?? null);
  };
  const recall = (patchId: string, blendId: string | null): void => {
    const place = placeOf(patchId, blendId);
    if (place) goTo(place);
  };
  useFollowing(song, looked);
  const isStanding = (id: string): boolean => song.standing.some((part) => part.layerId === id);
  const setPart = (id: string, label: string, apply: (part: Part) => Part, mergeKey?: string): void => {
    const of = isStanding(id) ? null : (patch?.id ?? null);
    change(label, changePart(song, of, id, apply), mergeKey);
  };
  const setBalance = (id: LayerId, label: string, values: BalanceChange, mergeKey: string): void =>
    blend && patch
      ? change(label, changeBlendValue(song, patch.id, blend.id, id, values), mergeKey)
      : setPart(id, label, (current) => ({ ...current, ...partValues(values) }), mergeKey);
  const hearSoon = useHeardSoon(placeOf, goTo);
  const actions = useSheetActions(song, { ...looked, isStanding, change, look, choose, hearSoon });
  return { ...looked, isStanding, change, look, choose, recall, setPart, setBalance, actions };
}

/** Who looks at what is played goes on with the player's foot; who looks at something else stays there. */
function useFollowing(song: Song, looked: { patch: Patch | null; blend: Blend | null }): void {
  const act = useAct();
  const { songId, patchId, blendId } = usePlaceAhead();
  // Who comes back from finding a sound goes on where he was.
  const stays = (useLocation().state as { stays?: boolean } | null)?.stays === true;
  const before = useRef<{ patchId: string | null; blendId: string | null } | null>(null);
  const isWith = (place: { patchId: string | null; blendId: string | null } | null): boolean =>
    looked.patch?.id === place?.patchId && (looked.blend?.id ?? null) === (place?.blendId ?? null);
  const follow = useLatest((): void => {
    if (songId !== song.id || patchId === null) return void (before.current = null);
    const isFirst = before.current === null;
    if (isFirst ? !stays : isWith(before.current)) act(chose({ songId: song.id, patchId, blendId }));
    before.current = { patchId, blendId };
  });
  useEffect(() => follow(), [follow, songId, patchId, blendId]);
}

/** Recalls what was added in the same moment, once it has its place in the running order. */
function useHeardSoon(
  placeOf: ReturnType<typeof usePlaceOf>,
  goTo: ReturnType<typeof useGoTo>,
): (patchId: string, blendId: string) => void {
  const wanted = useRef<[patchId: string, blendId: string] | null>(null);
  useEffect(() => {
    const place = wanted.current ? placeOf(...wanted.current) : null;
    if (!place) return;
    wanted.current = null;
    goTo(place);
  });
  return (patchId, blendId) => void (wanted.current = [patchId, blendId]);
}

/** The patch, blend and layer that are looked at: those chosen, else those that play, else the first. */
function useLookedAt(song: Song) {
  const chosen = useApp(({ ui }) => ui.chosen[song.id]);
  const live = usePlaceAhead();
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
  /** Recalls a blend that was made just now. */
  hearSoon: (patchId: string, blendId: string) => void;
}

/** What the sheet's buttons and keys do. */
function useSheetActions(song: Song, sheet: Sheet): SheetActions {
  const navigate = useNavigate();
  const live = useApp(({ live: running }) => running.place);
  const heard = useApp(({ live: running }) => running.balance.layers);
  const locked = useApp(({ ui }) => ui.locked);
  const { patch, blend, parts, layer, part, row, isStanding, change, look, choose, hearSoon } = sheet;
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
        withSoundLayer(
          song,
          id,
          patch.id,
          { instrumentId: instrument.id, presetId: instrument.presets[0].id },
          () => undefined,
        ),
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
      // What is edited next is the blend: at home it is heard.
      if (live.songId === song.id && live.patchId === patch.id && !locked) hearSoon(patch.id, id);
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
