import { useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { changeBlendValue, changePart, changePatch, keyName, withBlend, withDuplicatedPatch, withLayer, withMovedPatch, withoutBlend, withoutPatch, Patch, BUILT_INS, type BlendId, type LayerId, type PatchId, type Part, type Song } from '@rackle/core';
import { useAct, useApp, useDoor, useEdit, useGear, useNumbers, usePlaces, useSetlist, useSong } from '../../state/hooks';
import { newId } from '../../state/ids';
import { chose } from '../../state/uiSlice';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { minutesText, shiftNote } from '../../ui/format';
import { KeyRuler, type RulerZone } from '../../ui/KeyRuler';
import { NumberField } from '../../ui/NumberField';
import { letterOf } from '../../ui/Tape';
import { PatchMessages } from './PatchMessages';
import { ScoreGrid } from './ScoreGrid';
import { SignalLine } from './SignalLine';

const LOWEST = 21;
const HIGHEST = 108;

/** A song laid out like a score: layers down, patches across; under it the key ruler and the chosen layer's signal line. */
export function SongSheetPage() {
  const { songId } = useParams();
  const song = useSong(songId);
  if (!song) return <p className="p-6 text-lg">This song is not there any more. <Link to="/setlist" className="underline">To the setlist</Link></p>;
  return <SongSheet key={song.id} song={song} />;
}

function SongSheet({ song }: { song: Song }) {
  const edit = useEdit();
  const act = useAct();
  const door = useDoor();
  const setlist = useSetlist();
  const gear = useGear();
  const places = usePlaces();
  const numberOf = useNumbers();
  const chosen = useApp(({ ui }) => ui.chosen[song.id]);
  const snapshot = useApp(({ live }) => live.snapshot);
  const { keys } = snapshot;
  const patch = song.patches.find((candidate) => candidate.id === chosen?.patchId) ?? song.patches.find((candidate) => candidate.id === snapshot.patchId) ?? song.patches[0] ?? null;
  const blend = patch?.blends.find((candidate) => candidate.id === chosen?.blendId) ?? null;
  const parts = patch ? [...patch.parts, ...song.standing] : [];
  const layerId = parts.find((part) => part.layerId === chosen?.layerId)?.layerId ?? parts[0]?.layerId ?? null;
  const change = (label: string, next: Song, mergeKey?: string): void => edit({ label, songs: [next], mergeKey });
  const choose = (next: { patchId?: string; blendId?: string | null; layerId?: string }): void => {
    act(chose({ songId: song.id, ...next }));
    if (next.patchId === undefined) return;
    // Choosing a column while standing in this song also plays it; from another song it only looks.
    const place = places.find((candidate) => candidate.entry.id === snapshot.entryId && candidate.song.id === song.id && candidate.patch.id === next.patchId && (candidate.blend?.id ?? null) === (next.blendId ?? null));
    if (place) door.post({ type: 'recall', position: place.position });
  };
  // What the foot recalls is what is looked at.
  useEffect(() => {
    if (snapshot.songId === song.id && snapshot.patchId !== null) act(chose({ songId: song.id, patchId: snapshot.patchId, blendId: snapshot.blendId }));
  }, [act, song.id, snapshot.songId, snapshot.patchId, snapshot.blendId]);
  const isStanding = (id: string): boolean => song.standing.some((part) => part.layerId === id);
  const part = parts.find((candidate) => candidate.layerId === layerId) ?? null;
  const layer = song.layers.find((candidate) => candidate.id === layerId) ?? null;
  const setPart = (id: string, label: string, apply: (part: Part) => Part, mergeKey?: string): void =>
    change(label, changePart(song, isStanding(id) ? null : patch!.id, id, apply), mergeKey);
  const setBalance = (id: LayerId, label: string, values: Partial<Pick<Part, 'levelDb' | 'pan' | 'mute' | 'room' | 'echo'>>, mergeKey: string): void =>
    (blend && patch ? change(label, changeBlendValue(song, patch.id, blend.id, id, values), mergeKey) : setPart(id, label, (current) => ({ ...current, ...values }), mergeKey));
  const zones: RulerZone[] = parts.flatMap((candidate) => {
    const index = song.layers.findIndex((item) => item.id === candidate.layerId);
    const own = song.layers[index];
    return own ? [{ id: own.id, letter: letterOf(index), name: own.name, tape: own.tape, lowKey: candidate.zone.lowKey, highKey: candidate.zone.highKey, note: shiftNote(candidate.shift), chosen: own.id === layerId, dimmed: candidate.mute }] : [];
  });
  const middleC = setlist?.middleC ?? 'C4';
  const addPatch = (): void => {
    const next = Patch.parse({ id: newId('patch'), name: `Patch ${song.patches.length + 1}`, parts: song.layers[0] ? [{ layerId: song.layers[0].id }] : [] });
    change('add a patch', { ...song, patches: [...song.patches, next] });
    act(chose({ songId: song.id, patchId: next.id, blendId: null }));
  };
  const addLayer = (): void => {
    const [instrument] = BUILT_INS;
    const id = newId<LayerId>('layer');
    change('add a layer', withLayer(song, id, patch!.id, instrument.presets[0].name, { instrumentId: instrument.id, presetId: instrument.presets[0].id, channel: null }));
    act(chose({ songId: song.id, layerId: id }));
  };
  const at = patch ? song.patches.indexOf(patch) : -1;
  return (
    <div className="flex min-h-full flex-col px-4 pb-4">
      <div className="flex items-end gap-4 py-3">
        <EditableText label="name of the song" value={song.name} className="named text-4xl leading-tight" width={`${Math.max(5, song.name.length * 0.47)}em`} onChange={(name) => change('rename the song', { ...song, name })} />
        <p className="pb-1.5 text-ink2">
          <EditableText label="key" value={song.key || '—'} width={`${Math.max(2, song.key.length) + 1}ch`} onChange={(key) => change('change the key', { ...song, key: key.slice(0, 24) })} /> · ♩ = <NumberField label="tempo" value={song.tempoBpm} min={20} max={400} className="mono" onChange={(tempoBpm) => change('change the tempo', { ...song, tempoBpm }, `tempo ${song.id}`)} /> · {song.meter.beats}/{song.meter.unit} · <span className="mono">{minutesText(song.durationSeconds)}</span>
          {' '}· key shift <NumberField label="transpose" value={song.transpose} min={-24} max={24} className="mono" onChange={(transpose) => change('transpose the song', { ...song, transpose }, `transpose ${song.id}`)} />
        </p>
        <span className="ml-auto flex items-center gap-2 whitespace-nowrap">
          <Button onClick={addPatch}>Add patch</Button>
          <Button disabled={!patch} onClick={addLayer}>Add layer</Button>
          <Button disabled={!patch} onClick={() => change('add a blend', withBlend(song, patch!.id, newId<BlendId>('blend'), 'quiet'))}>Add blend</Button>
        </span>
      </div>
      <ScoreGrid song={song} patchId={patch?.id ?? null} blendId={blend?.id ?? null} layerId={layerId} live={snapshot.songId === song.id ? snapshot : null} numberOf={numberOf} lowest={LOWEST} highest={HIGHEST} onChoose={choose} onChange={change} />
      {patch && (
        <div className="mt-3 flex min-h-0 flex-1 gap-5">
          <section aria-label="zones" className="min-w-0 flex-[3]">
            <div className="mb-2 flex items-center gap-2">
              <EditableText label="name of the patch" value={blend?.name ?? patch.name} className="named text-2xl" width={`${Math.max(5, (blend?.name ?? patch.name).length * 0.5)}em`}
                onChange={(name) => change('rename', changePatch(song, patch.id, (current) => (blend ? { ...current, blends: current.blends.map((item) => (item.id === blend.id ? { ...item, name } : item)) } : { ...current, name })))} />
              {blend && <span className="text-ink2">blend of {patch.name}, in <NumberField label="time of the blend" value={blend.timeMs} min={0} max={60_000} step={50} unit=" ms" className="mono" onChange={(timeMs) => change('change the time of a blend', changePatch(song, patch.id, (current) => ({ ...current, blends: current.blends.map((item) => (item.id === blend.id ? { ...item, timeMs } : item)) })), `blend ${blend.id}`)} /></span>}
              <span className="ml-auto flex text-[13px]">
                {blend ? <Button look="plain" onClick={() => change('remove a blend', withoutBlend(song, patch.id, blend.id))}>remove blend</Button> : (
                  <>
                    <Button look="plain" disabled={at <= 0} onClick={() => change('move a patch', withMovedPatch(song, at, at - 1))}>earlier</Button>
                    <Button look="plain" disabled={at >= song.patches.length - 1} onClick={() => change('move a patch', withMovedPatch(song, at, at + 1))}>later</Button>
                    <Button look="plain" onClick={() => { const id = newId<PatchId>('patch'); change('duplicate a patch', withDuplicatedPatch(song, patch.id, id, () => newId<BlendId>('blend'))); act(chose({ songId: song.id, patchId: id, blendId: null })); }}>duplicate</Button>
                    <Button look="plain" onClick={() => change('remove a patch', withoutPatch(song, patch.id))}>remove</Button>
                  </>
                )}
              </span>
            </div>
            <KeyRuler lowest={LOWEST} highest={HIGHEST} zones={zones} keys={keys} nameOf={(key) => keyName(key, middleC)} onChoose={(id) => act(chose({ songId: song.id, layerId: id }))}
              onZone={(id, lowKey, highKey) => setPart(id, 'change a zone', (current) => ({ ...current, zone: { ...current.zone, lowKey, highKey } }), `zone ${patch.id} ${id}`)} />
            {zones.length === 0 && <p className="text-ink2">This patch is silent: no layer plays in it. Click an empty cell above, or <Button look="plain" onClick={addLayer}>add a layer</Button></p>}
            <p className="text-[13px] text-ink2">drag an end, or the whole strip · {patch.note}</p>
            {!blend && <div className="mt-2 text-[13px]">{(['entering', 'leaving'] as const).map((when) => <PatchMessages key={when} when={when} messages={patch[when]} gear={gear} style={{ programsFrom: setlist?.programsFrom ?? 1, middleC }} onChange={(label, messages) => change(label, changePatch(song, patch.id, (current) => ({ ...current, [when]: messages })), `${when} ${patch.id}`)} />)}</div>}
          </section>
          <section aria-label="signal line" className="min-w-72 flex-[2] border-l border-rule pl-5">
            {layer && part ? <SignalLine key={`${patch.id} ${layer.id} ${blend?.id ?? ''}`} song={song} layer={layer} part={part} blend={blend} middleC={middleC} onSong={change} onPart={(label, apply, mergeKey) => setPart(layer.id, label, apply, mergeKey)} onBalance={(label, values, mergeKey) => setBalance(layer.id, label, values, mergeKey)} patchId={isStanding(layer.id) ? null : patch.id} /> : <p className="text-ink2">No layer chosen.</p>}
          </section>
        </div>
      )}
      {!patch && <p className="py-6 text-lg text-ink2">This song has no patches yet. <Button look="plain" onClick={addPatch}>Add the first one</Button></p>}
    </div>
  );
}
