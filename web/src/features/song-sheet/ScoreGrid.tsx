import type { KeyboardEvent } from 'react';
import { knownInstrument, withPart, type Blend, type Layer, type Part, type Patch, type Song } from '@rackle/core';
import type { Snapshot } from '../../live/door';
import { useApp } from '../../state/hooks';
import { EditableText } from '../../ui/EditableText';
import { Tape, TapeLetter, letterOf } from '../../ui/Tape';

interface Props {
  song: Song;
  patchId: string | null;
  blendId: string | null;
  layerId: string | null;
  live: Snapshot | null;
  numberOf: (songId: string, patchId: string, blendId: string | null) => string | null;
  lowest: number;
  highest: number;
  onChoose: (next: { patchId?: string; blendId?: string | null; layerId?: string }) => void;
  onChange: (label: string, next: Song) => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

const CLIP_DB = -0.2;

/** Height of a bar by level: −40 dB is low, 0 dB full. */
const heightOf = (levelDb: number): number => Math.max(0.14, Math.min(1, 1 + levelDb / 34));

/** Rows are the song's layers, columns its patches and their blends; a cell is the layer's zone as a bar, its level as height. */
export function ScoreGrid({ song, patchId, blendId, layerId, live, numberOf, lowest, highest, onChoose, onChange, onKeyDown }: Props) {
  const columns = song.patches.flatMap((patch): { patch: Patch; blend: Blend | null }[] => [{ patch, blend: null }, ...patch.blends.map((blend) => ({ patch, blend }))]);
  const isChosen = (patch: Patch, blend: Blend | null): boolean => patch.id === patchId && (blend?.id ?? null) === blendId;
  const isLive = (patch: Patch, blend: Blend | null): boolean => live !== null && patch.id === live.patchId && (blend?.id ?? null) === live.blendId;
  return (
    <div className="overflow-x-auto border-y border-ink focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-ink" tabIndex={0} role="group" aria-label="score of the song" aria-keyshortcuts="ArrowLeft ArrowRight ArrowUp ArrowDown Enter Delete N A D C R" onKeyDown={onKeyDown}>
      <table className="w-full table-fixed border-collapse" style={{ minWidth: 190 + columns.length * 110 }}>
        <thead>
          <tr>
            <th scope="col" className="sticky left-0 z-10 w-[188px] bg-ground px-1 text-left text-[13px] font-bold text-ink2">layers</th>
            {columns.map(({ patch, blend }) => (
              <th key={`${patch.id} ${blend?.id ?? ''}`} scope="col" className={`relative border-l p-0 text-left font-normal ${blend ? 'w-[118px] border-dashed border-rule' : 'border-rule'} ${isChosen(patch, blend) ? 'bg-ground2' : ''}`}>
                {isLive(patch, blend) && <span className="absolute inset-x-0 -top-px h-1 bg-live" data-testid="live-column" />}
                <button type="button" tabIndex={-1} onClick={() => onChoose({ patchId: patch.id, blendId: blend?.id ?? null })} className="flex h-10 w-full items-center gap-2 px-2 text-left">
                  <span className={`named min-w-0 flex-1 truncate text-xl ${blend ? 'italic text-lg font-medium' : ''}`}>{blend ? `… ${blend.name}` : patch.name}</span>
                  <span className={`mono ${isLive(patch, blend) ? 'live-text' : ''}`}>{numberOf(song.id, patch.id, blend?.id ?? null) ?? '·'}</span>
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {song.layers.map((layer, row) => {
            const standing = song.standing.find((part) => part.layerId === layer.id) ?? null;
            return (
              <tr key={layer.id} className={`border-t border-rule ${layer.id === layerId ? 'bg-ground2/60' : ''}`}>
                <th scope="row" className="sticky left-0 z-10 bg-ground px-1 py-1 text-left font-normal">
                  <span className="flex items-center gap-2">
                    <TapeLetter tape={layer.tape} letter={letterOf(row)} />
                    <span className="min-w-0">
                      <EditableText label="name of the layer" value={layer.name} className="named text-base leading-5" onChange={(name) => onChange('rename a layer', { ...song, layers: song.layers.map((item) => (item.id === layer.id ? { ...item, name } : item)) })} />
                      <span className="block truncate text-xs leading-4 text-ink2"><SourceName layer={layer} />{standing ? ', standing' : ''}</span>
                    </span>
                    <LayerMeter layer={layer.name} />
                  </span>
                </th>
                {columns.map(({ patch, blend }, column) => {
                  const plays = (there: Patch | undefined): boolean => there !== undefined && (standing !== null || there.parts.some((candidate) => candidate.layerId === layer.id));
                  const part = patch.parts.find((candidate) => candidate.layerId === layer.id) ?? standing;
                  return (
                    <td key={`${patch.id} ${blend?.id ?? ''}`} className={`h-[46px] border-l p-0 ${blend ? 'border-dashed border-rule' : 'border-rule'} ${isChosen(patch, blend) ? 'bg-ground2' : ''}`}>
                      <button
                        type="button" tabIndex={-1} className="relative block h-[46px] w-full"
                        aria-label={part ? `${layer.name} in ${patch.name}${blend ? `, ${blend.name}` : ''}` : `let ${layer.name} play in ${patch.name}`}
                        onClick={() => {
                          if (!part) onChange(`let ${layer.name} play in ${patch.name}`, withPart(song, patch.id, layer.id));
                          onChoose({ patchId: patch.id, blendId: blend?.id ?? null, layerId: layer.id });
                        }}
                      >
                        <span className="absolute inset-x-2 bottom-1.5 border-b border-rule" />
                        {part && <Run part={part} tape={layer.tape} lowest={lowest} highest={highest} comesIn={plays(columns[column - 1]?.patch)} goesOn={plays(columns[column + 1]?.patch)} />}
                        {part && <Bar part={part} blend={blend} tape={layer.tape} lowest={lowest} highest={highest} />}
                      </button>
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

const PAD_PX = 8;

/** A sound that stays runs on through the columns as a thin line of its tape. */
function Run({ part, tape, lowest, highest, comesIn, goesOn }: { part: Part; tape: string; lowest: number; highest: number; comesIn: boolean; goesOn: boolean }) {
  if (!comesIn && !goesOn) return null;
  const count = highest - lowest + 1;
  const at = (key: number): string => `calc(${PAD_PX}px + (100% - ${2 * PAD_PX}px) * ${(Math.max(lowest, Math.min(highest + 1, key)) - lowest) / count})`;
  return <span aria-hidden data-run className={`tape tape-${tape} absolute bottom-1.5 h-1`} style={{ left: comesIn ? 0 : at(part.zone.lowKey), right: goesOn ? 0 : `calc(100% - ${at(part.zone.highKey + 1)})` }} />;
}

function Bar({ part, blend, tape, lowest, highest }: { part: Part; blend: Blend | null; tape: string; lowest: number; highest: number }) {
  const change = blend?.values.find((value) => value.layerId === part.layerId);
  const level = change?.levelDb ?? part.levelDb;
  const muted = change?.mute ?? part.mute;
  const count = highest - lowest + 1;
  const low = Math.max(lowest, part.zone.lowKey) - lowest;
  const high = Math.min(highest, part.zone.highKey) - lowest;
  if (high < low) return null;
  return (
    <span className="absolute inset-x-2 bottom-1.5 top-1.5">
      <Tape tape={tape} className={`absolute bottom-0 ${muted ? 'opacity-25' : ''} ${change ? 'border-t-2 border-ink' : ''}`} style={{ left: `${(low / count) * 100}%`, width: `max(6px, ${((high - low + 1) / count) * 100}%)`, height: `${heightOf(level) * 100}%` }} />
    </span>
  );
}

function SourceName({ layer }: { layer: Layer }) {
  const stored = useApp(({ show }) => show.working.instruments[layer.sound.instrumentId]);
  if (layer.source.kind === 'live') return <>live: {layer.source.input}</>;
  return <>{knownInstrument(layer.sound.instrumentId, () => stored)?.name ?? 'no instrument'}{layer.effects.length > 0 ? `, ${layer.effects.length} effect${layer.effects.length === 1 ? '' : 's'}` : ''}</>;
}

/** How loud a layer sounds now. */
function LayerMeter({ layer }: { layer: string }) {
  const peakDb = useApp(({ live }) => live.levels?.layers.find((candidate) => candidate.layer === layer)?.peakDb ?? null);
  if (peakDb === null) return null;
  const share = Math.max(0, Math.min(1, (peakDb + 60) / 60));
  return (
    <span role="meter" aria-label={`level of ${layer}`} aria-valuemin={-60} aria-valuemax={0} aria-valuenow={Math.max(-60, peakDb)} className="ml-auto flex shrink-0 items-end gap-1">
      {peakDb > CLIP_DB && <b className="bg-ink px-0.5 text-[10px] leading-4 text-ground">clip</b>}
      <span className="relative h-8 w-1 bg-ground2"><span className="absolute inset-x-0 bottom-0 bg-ink" style={{ height: `${share * 100}%` }} /></span>
    </span>
  );
}
