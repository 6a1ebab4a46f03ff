import { useCallback, useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { keyName } from '@rackle/core/midi';
import {
  BUILT_INS,
  Patch,
  changeBlendValue,
  changePart,
  changePatch,
  withCapturedBlend,
  withDuplicatedLayer,
  withDuplicatedPatch,
  withLayer,
  withMovedLayer,
  withMovedPatch,
  withPart,
  withRunOn,
  withSplitAt,
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
import {
  useAct,
  useApp,
  useHost,
  useEdit,
  useGear,
  useNumbers,
  usePlaces,
  useSetlist,
  useSong,
} from '../../state/hooks';
import { newId } from '../../state/ids';
import { chose } from '../../state/uiSlice';
import { useLatest } from '../../ui/useLatest';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { shiftNote } from '../../ui/format';
import { KeyRuler, type RulerZone } from '../../ui/KeyRuler';
import { letterOf } from '../../ui/Tape';
import { AudioInputs } from './AudioInputs';
import { Capacity } from './Capacity';
import { FoldNote } from './FoldNote';
import { PatchBar } from './PatchBar';
import { PatchMessages } from './PatchMessages';
import { PlayKeys } from './PlayKeys';
import { ScoreGrid } from './ScoreGrid';
import { SheetHeader } from './SheetHeader';
import { SignalLine } from './SignalLine';
import { SIZES } from './sizes';
import { useSheetKeys, type Column } from './useSheetKeys';

/**
 * A song laid out like a score: layers down, patches across; under it the key ruler and the chosen layer's signal line.
 */
export function SongSheetPage() {
  const { songId } = useParams();
  const song = useSong(songId);
  if (!song)
    return (
      <p className="p-6 text-lg">
        This song is not there any more.{' '}
        <Link to="/setlist" className="underline">
          To the setlist
        </Link>
      </p>
    );
  return <SongSheet key={song.id} song={song} />;
}

function SongSheet({ song }: { song: Song }) {
  const edit = useEdit();
  const act = useAct();
  const host = useHost();
  const navigate = useNavigate();
  const setlist = useSetlist();
  const gear = useGear();
  const places = usePlaces();
  const numberOf = useNumbers();
  const chosen = useApp(({ ui }) => ui.chosen[song.id]);
  const live = useApp(({ live }) => live.place);
  const balance = useApp(({ live: running }) => running.balance.layers);
  const keys = useApp(({ live: running }) => running.hands.keys);
  const [size, setSize] = useState(SIZES[0]);
  const patch =
    song.patches.find((candidate) => candidate.id === chosen?.patchId) ??
    song.patches.find((candidate) => candidate.id === live.patchId) ??
    song.patches[0] ??
    null;
  const blend = patch?.blends.find((candidate) => candidate.id === chosen?.blendId) ?? null;
  const parts = patch ? [...patch.parts, ...song.standing] : [];
  // A cell that is silent may be looked at too: that is where a layer is let play.
  const layerId =
    song.layers.find((candidate) => candidate.id === chosen?.layerId)?.id ??
    parts[0]?.layerId ??
    song.layers[0]?.id ??
    null;
  const change = (label: string, next: Song, mergeKey?: string): void => edit({ label, songs: [next], mergeKey });
  const choose = (next: { patchId?: string; blendId?: string | null; layerId?: string }): void => {
    act(chose({ songId: song.id, ...next }));
    if (next.patchId === undefined) return;
    // Choosing a column while standing in this song also plays it; from another song it only looks.
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
  const part = parts.find((candidate) => candidate.layerId === layerId) ?? null;
  const layer = song.layers.find((candidate) => candidate.id === layerId) ?? null;
  const setPart = (id: string, label: string, apply: (part: Part) => Part, mergeKey?: string): void =>
    change(label, changePart(song, isStanding(id) ? null : patch!.id, id, apply), mergeKey);
  const setBalance = (
    id: LayerId,
    label: string,
    values: Omit<Blend['values'][number], 'layerId'>,
    mergeKey: string,
  ): void =>
    blend && patch
      ? change(label, changeBlendValue(song, patch.id, blend.id, id, values), mergeKey)
      : setPart(id, label, (current) => ({ ...current, ...partValues(values) }), mergeKey);
  const zones: RulerZone[] = parts.flatMap((candidate) => {
    const index = song.layers.findIndex((item) => item.id === candidate.layerId);
    const own = song.layers[index];
    return own && own.source.kind === 'midi'
      ? [
          {
            id: own.id,
            letter: letterOf(index),
            name: own.name,
            tape: own.tape,
            lowKey: candidate.zone.lowKey,
            highKey: candidate.zone.highKey,
            note: shiftNote(candidate.shift),
            chosen: own.id === layerId,
            dimmed: candidate.mute,
          },
        ]
      : [];
  });
  const middleC = setlist?.middleC ?? 'C4';
  const nameOf = useCallback((key: number) => keyName(key, middleC), [middleC]);
  const at = patch ? song.patches.indexOf(patch) : -1;
  const addPatch = (): void => {
    const next = Patch.parse({
      id: newId('patch'),
      name: `Patch ${song.patches.length + 1}`,
      parts: song.layers[0] ? [{ layerId: song.layers[0].id }] : [],
    });
    change('add a patch', {
      ...song,
      patches: [...song.patches.slice(0, at + 1), next, ...song.patches.slice(at + 1)],
    });
    act(chose({ songId: song.id, patchId: next.id, blendId: null }));
  };
  const addLayer = (): void => {
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
    act(chose({ songId: song.id, layerId: id }));
    void navigate('/sounds', { state: { songId: song.id, layerId: id } });
  };
  /** As it sounds now: with what knobs have moved, where the song is played; else as the patch has it. */
  const captureBlend = (): void => {
    if (!patch) return;
    const id = newId<BlendId>('blend');
    const now = live.songId === song.id && live.patchId === patch.id ? balance : [];
    const captured = parts.map((candidate) => {
      const { layerId: of, levelDb, pan, mute, room, echo, sends } = candidate;
      const stored = blend?.values.find((value) => value.layerId === of);
      const heard = now.find((value) => value.layerId === of);
      return {
        layerId: of,
        levelDb: heard?.levelDb ?? stored?.levelDb ?? levelDb,
        pan: heard?.pan ?? stored?.pan ?? pan,
        mute: heard?.mute ?? stored?.mute ?? mute,
        room: heard?.room ?? stored?.room ?? room,
        echo: heard?.echo ?? stored?.echo ?? echo,
        sends: stored?.sends ?? sends,
        effects: heard?.effects ?? stored?.effects ?? [],
        parameters: heard?.parameters ?? stored?.parameters ?? [],
      };
    });
    change('capture a blend', withCapturedBlend(song, patch.id, id, `Blend ${patch.blends.length + 1}`, captured));
    act(chose({ songId: song.id, patchId: patch.id, blendId: id }));
  };
  const columns: Column[] = song.patches.flatMap((item): Column[] => [
    { patch: item, blend: null },
    ...item.blends.map((inner) => ({ patch: item, blend: inner })),
  ]);
  const duplicatePatch = (): void => {
    if (!patch) return;
    const id = newId<PatchId>('patch');
    change(
      'duplicate a patch',
      withDuplicatedPatch(song, patch.id, id, () => newId<BlendId>('blend')),
    );
    act(chose({ songId: song.id, patchId: id, blendId: null }));
  };
  const row = layer ? song.layers.indexOf(layer) : -1;
  const onKeyDown = useSheetKeys(
    song,
    columns,
    columns.findIndex((column) => column.patch === patch && column.blend === blend),
    row,
    {
      choose,
      addPatch,
      addLayer,
      duplicatePatch,
      captureBlend,
      setPlays: (plays) => {
        if (patch && layer && !isStanding(layer.id) && (part !== null) !== plays)
          change(
            plays ? `let ${layer.name} play in ${patch.name}` : 'take a layer out of a patch',
            plays ? withPart(song, patch.id, layer.id) : withoutPart(song, patch.id, layer.id),
          );
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
    },
  );
  const lower =
    patch?.parts.filter(
      (candidate) =>
        candidate.layerId !== layerId &&
        song.layers.find((item) => item.id === candidate.layerId)?.source.kind === 'midi',
    ) ?? [];
  return (
    <div className="flex min-h-full flex-col px-4 pb-4">
      <AudioInputs />
      <div className="flex flex-wrap items-end gap-x-4 py-3">
        <SheetHeader song={song} onChange={change} />
        <span className="ml-auto flex items-center gap-2 whitespace-nowrap">
          <Button onClick={addPatch}>Add patch</Button>
          <Button disabled={!patch} onClick={addLayer}>
            Add layer
          </Button>
          <Button disabled={!patch} onClick={captureBlend}>
            Capture blend
          </Button>
        </span>
      </div>
      <ScoreGrid
        song={song}
        patchId={patch?.id ?? null}
        blendId={blend?.id ?? null}
        layerId={layerId}
        livePatchId={live.songId === song.id ? live.patchId : null}
        liveBlendId={live.songId === song.id ? live.blendId : null}
        numberOf={numberOf}
        lowest={size.lowest}
        highest={size.highest}
        onChoose={useLatest(choose)}
        onChange={useLatest(change)}
        onKeyDown={useLatest(onKeyDown)}
      />
      {patch && (
        <div className="mt-3 flex min-h-0 flex-1 gap-5">
          <section aria-label="zones" className="min-w-0 flex-[3]">
            <PatchBar
              song={song}
              patch={patch}
              blend={blend}
              onChange={change}
              onChoose={(next) => act(chose({ songId: song.id, ...next }))}
            />
            <KeyRuler
              lowest={size.lowest}
              highest={size.highest}
              zones={zones}
              keys={keys}
              nameOf={nameOf}
              onChoose={(id) => act(chose({ songId: song.id, layerId: id }))}
              onZone={(id, lowKey, highKey) =>
                setPart(
                  id,
                  'change a zone',
                  (current) => ({ ...current, zone: { ...current.zone, lowKey, highKey } }),
                  `zone ${patch.id} ${id}`,
                )
              }
            />
            {zones.length === 0 && (
              <p className="text-ink2">
                No keys play in this patch. Click an empty cell above, or{' '}
                <Button look="plain" onClick={addLayer}>
                  add a layer
                </Button>
              </p>
            )}
            <FoldNote song={song} patch={patch} {...size} middleC={middleC} onChange={change} />
            <p className="flex flex-wrap items-center gap-x-2 text-[13px] text-ink2">
              <span>
                on{' '}
                <Choice
                  label="size of the keyboard"
                  value={String(size.keys)}
                  groups={[
                    {
                      name: '',
                      items: SIZES.map((item) => ({ value: String(item.keys), label: `${item.keys} keys` })),
                    },
                  ]}
                  onChange={(value) => setSize(SIZES.find((item) => String(item.keys) === value) ?? SIZES[0])}
                />
              </span>
              <span>drag an end, or the whole strip</span>
              {lower.length === 1 && layer && part && !isStanding(layer.id) && layer.source.kind === 'midi' && (
                <PlayKeys
                  keys={1}
                  onKeys={([key]) =>
                    change('split by a key', withSplitAt(song, patch.id, lower[0].layerId, layer.id, key))
                  }
                >{`split: ${layer.name} from a key up`}</PlayKeys>
              )}
              <span>{patch.note}</span>
            </p>
            <Capacity song={song} patch={patch} />
            {!blend && (
              <div className="mt-2 text-[13px]">
                {(['entering', 'leaving'] as const).map((when) => (
                  <PatchMessages
                    key={when}
                    when={when}
                    messages={patch[when]}
                    gear={gear}
                    style={{ programsFrom: setlist?.programsFrom ?? 1, middleC }}
                    onChange={(label, messages) =>
                      change(
                        label,
                        changePatch(song, patch.id, (current) => ({ ...current, [when]: messages })),
                        `${when} ${patch.id}`,
                      )
                    }
                  />
                ))}
              </div>
            )}
          </section>
          <section aria-label="signal line" className="min-w-72 flex-[2] border-l border-rule pl-5">
            {layer && part ? (
              <SignalLine
                key={`${patch.id} ${layer.id} ${blend?.id ?? ''}`}
                song={song}
                layer={layer}
                part={part}
                blend={blend}
                middleC={middleC}
                patchId={patch.id}
                stands={isStanding(layer.id)}
                onSong={change}
                onPart={(label, apply, mergeKey) => setPart(layer.id, label, apply, mergeKey)}
                onBalance={(label, values, mergeKey) => setBalance(layer.id, label, values, mergeKey)}
              />
            ) : layer ? (
              <p className="text-ink2">
                <b className="text-ink">{layer.name}</b> is silent in {patch.name}.{' '}
                <Button
                  look="plain"
                  onClick={() => change(`let ${layer.name} play in ${patch.name}`, withPart(song, patch.id, layer.id))}
                >
                  let it play
                </Button>
              </p>
            ) : (
              <p className="text-ink2">No layer chosen.</p>
            )}
          </section>
        </div>
      )}
      {!patch && (
        <p className="py-6 text-lg text-ink2">
          This song has no patches yet.{' '}
          <Button look="plain" onClick={addPatch}>
            Add the first one
          </Button>
        </p>
      )}
    </div>
  );
}

/** What of a blend's values a patch's own part has too. */
const partValues = ({
  levelDb,
  pan,
  mute,
  room,
  echo,
  sends,
  parameters,
}: Omit<Blend['values'][number], 'layerId'>): Partial<Part> =>
  Object.fromEntries(
    Object.entries({ levelDb, pan, mute, room, echo, sends, parameters }).filter(([, value]) => value !== undefined),
  );
