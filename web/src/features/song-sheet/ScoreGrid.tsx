import { memo, useEffect, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import {
  changeLayer,
  knownInstrument,
  withPart,
  type Layer,
  type LayerId,
  type Part,
  type Patch,
  type Song,
} from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { useChangeLayer } from '../shared-layers';
import { useWaits, waitWords } from '../../state/useWaits';
import { useLayersNow } from '../../state/useLayersNow';
import { useLatest } from '../../ui/useLatest';
import { DiffersMark } from './DiffersMark';
import { EveningRows } from './EveningRows';
import { Bar, Run, isMuted as isMutedIn } from './ScoreBars';
import { ScoreHead } from './ScoreHead';
import { scoreWidthPx, useSeen } from './useSeen';
import type { Column } from './useSheetKeys';
import { EditableText } from '../../ui/EditableText';
import { TapeLetter, letterOf } from '../../ui/Tape';

interface Props {
  song: Song;
  patchId: string | null;
  blendId: string | null;
  layerId: string | null;
  /** What is played, when it is of this song. */
  livePatchId: string | null;
  liveBlendId: string | null;
  numberOf: (songId: string, patchId: string, blendId: string | null) => string | null;
  lowest: number;
  highest: number;
  /** Stays the same from one rendering to the next. */
  onChoose: (next: { patchId?: string; blendId?: string | null; layerId?: string }) => void;
  /** Plays it; also the same from one rendering to the next. */
  onRecall: (patchId: string, blendId: string | null) => void;
  onChange: (label: string, next: Song) => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

const CLIP_DB = -0.2;

/** Where a column is in its song, for marks on a version of the past. */
const placeOf = (patch: Patch, blend: { id: string } | null): string =>
  `patches/${patch.id}${blend ? `/blends/${blend.id}` : ''}`;

const partsByPatch = new WeakMap<Patch, ReadonlyMap<string, Part>>();

/** A patch's parts by layer; worked out once for as long as it does not change. */
function partsOf(patch: Patch): ReadonlyMap<string, Part> {
  const known = partsByPatch.get(patch) ?? new Map(patch.parts.map((part) => [part.layerId as string, part]));
  partsByPatch.set(patch, known);
  return known;
}

/**
 * Rows are the song's layers, columns its patches and their blends; a cell is the layer's zone as a bar, its level as
 * height.
 * A row is drawn anew only when something in it changes, so that forty patches of twenty-four layers answer at once.
 */
export const ScoreGrid = memo(function ScoreGrid({
  song,
  patchId,
  blendId,
  layerId,
  livePatchId,
  liveBlendId,
  numberOf,
  lowest,
  highest,
  onChoose,
  onRecall,
  onChange,
  onKeyDown,
}: Props) {
  const columns = useMemo(
    () =>
      song.patches.flatMap((patch): Column[] => [
        { patch, blend: null },
        ...patch.blends.map((blend) => ({ patch, blend })),
      ]),
    [song.patches],
  );
  const chosen = columns.findIndex(({ patch, blend }) => patch.id === patchId && (blend?.id ?? null) === blendId);
  const live = columns.findIndex(({ patch, blend }) => patch.id === livePatchId && (blend?.id ?? null) === liveBlendId);
  const layersNow = useLayersNow(song.id);
  const waits = useWaits();
  const waitOf = (id: string): string | null => {
    const wait = waits.find(({ layerId }) => layerId === id);
    return wait ? waitWords(wait) : null;
  };
  const box = useRef<HTMLDivElement>(null);
  const seen = useSeen(
    box,
    useMemo(() => columns.map(({ blend }) => blend !== null), [columns]),
    song.layers.length,
  );
  const chosenRow = song.layers.findIndex((layer) => layer.id === layerId);
  // What is chosen, by key or by foot, is brought into sight.
  useEffect(() => {
    box.current?.querySelector(`th[data-head="${chosen}"]`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    box.current?.querySelector(`tr[data-row="${chosenRow}"]`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen, chosenRow]);
  const changeShared = useChangeLayer();
  const rename = useLatest((layerId: LayerId, name: string) =>
    changeShared({
      song,
      patchId,
      layerId,
      label: 'rename the layer',
      apply: (of, id) => changeLayer(of, id, (layer) => ({ ...layer, name: name as Layer['name'] })),
    }),
  );
  /** One handler for all cells: which it was stands on the cell. */
  const onClick = (event: MouseEvent): void => {
    if (!(event.target instanceof Element)) return;
    const number = event.target.closest<HTMLElement>('[data-recalls]');
    const recalled = number ? columns[Number(number.dataset.recalls)] : undefined;
    if (recalled) return onRecall(recalled.patch.id, recalled.blend?.id ?? null);
    const cell = event.target.closest<HTMLElement>('[data-column]');
    const column = cell ? columns[Number(cell.dataset.column)] : undefined;
    if (!cell || !column) return;
    const layer = cell.dataset.layer === undefined ? null : song.layers[Number(cell.dataset.layer)];
    if (layer && cell.dataset.silent !== undefined)
      onChange(`let ${layer.name} play in ${column.patch.name}`, withPart(song, column.patch.id, layer.id));
    onChoose({ patchId: column.patch.id, blendId: column.blend?.id ?? null, ...(layer ? { layerId: layer.id } : {}) });
  };
  return (
    <div
      ref={box}
      className="max-h-[46vh] shrink-0 overflow-auto border-y border-ink focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-ink"
      tabIndex={0}
      role="group"
      data-keys="score"
      aria-label="score of the song"
      aria-keyshortcuts="ArrowLeft ArrowRight ArrowUp ArrowDown Enter Delete N A D C R"
      onKeyDown={onKeyDown}
    >
      <table
        className="w-full table-fixed border-collapse"
        style={{ minWidth: scoreWidthPx(columns.length) }}
        onClick={onClick}
      >
        <thead className="sticky top-0 z-20 bg-ground">
          <tr>
            <th
              scope="col"
              className="sticky left-0 z-10 w-[188px] bg-ground px-1 text-left text-[13px] font-bold text-ink2"
            >
              layers
            </th>
            {columns.map(({ patch, blend }, i) => (
              <ScoreHead
                key={`${patch.id} ${blend?.id ?? ''}`}
                at={i}
                place={placeOf(patch, blend)}
                name={blend ? `… ${blend.name}` : patch.name}
                isBlend={blend !== null}
                isChosen={i === chosen}
                isLive={i === live}
                number={numberOf(song.id, patch.id, blend?.id ?? null) ?? '·'}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {song.layers.map((layer, row) => {
            const standing = song.standing.find((part) => part.layerId === layer.id) ?? null;
            return (
              <Row
                key={layer.id}
                layer={layer}
                row={row}
                isChosen={layer.id === layerId}
                stands={standing !== null}
                isMuted={layersNow.get(layer.id)?.isMuted ?? false}
                wait={waitOf(layer.id)}
                live={live}
                chosen={chosen}
                fromColumn={seen.fromColumn}
                toColumn={row < seen.fromRow || row > seen.toRow ? -1 : seen.toColumn}
                lowest={lowest}
                highest={highest}
                onRename={rename}
                parts={columns.map(({ patch }) => partsOf(patch).get(layer.id) ?? standing)}
                columns={columns}
              />
            );
          })}
          <EveningRows song={song} columns={columns} live={live} lowest={lowest} highest={highest} />
        </tbody>
      </table>
    </div>
  );
});

interface RowProps {
  layer: Layer;
  row: number;
  isChosen: boolean;
  stands: boolean;
  /** Silent now, in the column that plays (−1: none of this song). */
  isMuted: boolean;
  /** What it waits for, in words. */
  wait: string | null;
  live: number;
  /** Column that is looked at. */
  chosen: number;
  /** Only columns between these are drawn, both included. */
  fromColumn: number;
  toColumn: number;
  lowest: number;
  highest: number;
  columns: readonly Column[];
  /** By column. */
  parts: readonly (Part | null)[];
  onRename: (id: LayerId, name: string) => void;
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);
const sameColumns = (a: readonly Column[], b: readonly Column[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every(
      ({ patch, blend }, i) => blend === b[i].blend && patch.id === b[i].patch.id && patch.name === b[i].patch.name,
    ));

/** “Strings in Chorus”, with what is written in the cell. */
function cellLabel(layer: Layer, { patch, blend }: Column, part: Part | null, mutedNow: boolean | null): string {
  if (!part) return `let ${layer.name} play in ${patch.name}`;
  const muted = part.keys !== 'none' && isMutedIn(part, blend, mutedNow);
  return `${layer.name} in ${patch.name}${blend ? `, ${blend.name}` : ''}${muted ? ', muted' : ''}`;
}

const Row = memo(
  function Row({
    layer,
    row,
    isChosen,
    stands,
    isMuted,
    wait,
    live,
    chosen,
    fromColumn,
    toColumn,
    lowest,
    highest,
    columns,
    parts,
    onRename,
  }: RowProps) {
    return (
      <tr data-row={row} className={`scroll-mt-12 border-t border-rule ${isChosen ? 'bg-ground2/60' : ''}`}>
        <th scope="row" className="sticky left-0 z-10 bg-ground px-1 py-1 text-left font-normal">
          <span className="flex items-center gap-2">
            <TapeLetter tape={layer.tape} letter={letterOf(row)} />
            <span className="min-w-0">
              <EditableText
                width="100%"
                label="name of the layer"
                value={layer.name}
                className="named text-base leading-5"
                onChange={(name) => onRename(layer.id, name)}
              />
              <span className="block truncate text-xs leading-4 text-ink2">
                {wait ?? (
                  <>
                    <SourceName layer={layer} />
                    {stands ? ', standing' : ''}
                  </>
                )}
              </span>
            </span>
            <LayerMeter layer={layer} />
          </span>
          <DiffersMark at={`layers/${layer.id}`} />
        </th>
        {columns.map(({ patch, blend }, i) => {
          const part = parts[i];
          if (i < fromColumn || i > toColumn)
            return <td key={`${patch.id} ${blend?.id ?? ''}`} className="h-[46px] border-l border-rule p-0" />;
          return (
            <td
              key={`${patch.id} ${blend?.id ?? ''}`}
              className={`h-[46px] border-l p-0 ${blend ? 'border-dashed border-rule' : 'border-rule'} ${i === chosen ? 'bg-ground2' : ''}`}
            >
              <button
                type="button"
                tabIndex={-1}
                className="relative block h-[46px] w-full [contain:size_layout_style]"
                data-column={i}
                data-layer={row}
                data-silent={part ? undefined : ''}
                aria-label={cellLabel(layer, { patch, blend }, part, i === live ? isMuted : null)}
              >
                <span className="absolute inset-x-2 bottom-1.5 border-b border-rule" />
                <DiffersMark at={`${placeOf(patch, blend)}/parts/${layer.id}`} />
                {part && (
                  <Run
                    part={part}
                    tape={layer.tape}
                    lowest={lowest}
                    highest={highest}
                    comesIn={parts[i - 1] != null}
                    goesOn={parts[i + 1] != null}
                  />
                )}
                {part && (
                  <Bar
                    part={part}
                    blend={blend}
                    tape={layer.tape}
                    lowest={lowest}
                    highest={highest}
                    mutedNow={i === live ? isMuted : null}
                  />
                )}
              </button>
            </td>
          );
        })}
      </tr>
    );
  },
  (before, after) =>
    before.layer === after.layer &&
    before.row === after.row &&
    before.isChosen === after.isChosen &&
    before.stands === after.stands &&
    before.isMuted === after.isMuted &&
    before.wait === after.wait &&
    before.live === after.live &&
    before.chosen === after.chosen &&
    before.fromColumn === after.fromColumn &&
    before.toColumn === after.toColumn &&
    before.lowest === after.lowest &&
    before.highest === after.highest &&
    before.onRename === after.onRename &&
    sameColumns(before.columns, after.columns) &&
    sameItems(before.parts, after.parts),
);

function SourceName({ layer }: { layer: Layer }) {
  const stored = useApp(({ show }) => show.working.instruments[layer.sound.instrumentId]);
  if (layer.source.kind === 'live') return <>live: {layer.source.input}</>;
  return (
    <>
      {knownInstrument(layer.sound.instrumentId, () => stored)?.name ?? 'no instrument'}
      {layer.effects.length > 0 ? `, ${layer.effects.length} effect${layer.effects.length === 1 ? '' : 's'}` : ''}
    </>
  );
}

/** How loud a layer sounds now. */
function LayerMeter({ layer }: { layer: Layer }) {
  const peakDb = useApp(
    ({ live }) => live.levels?.layers.find((candidate) => candidate.layerId === layer.id)?.peakDb ?? null,
  );
  if (peakDb === null) return null;
  const share = Math.max(0, Math.min(1, (peakDb + 60) / 60));
  return (
    <span
      role="meter"
      aria-label={`level of ${layer.name}`}
      aria-valuemin={-60}
      aria-valuemax={0}
      aria-valuenow={Math.max(-60, peakDb)}
      className="ml-auto flex shrink-0 items-end gap-1"
    >
      {peakDb > CLIP_DB && <b className="bg-ink px-0.5 text-[10px] leading-4 text-ground">clip</b>}
      <span className="relative h-8 w-1 bg-ground2">
        <span className="absolute inset-x-0 bottom-0 bg-ink" style={{ height: `${share * 100}%` }} />
      </span>
    </span>
  );
}
