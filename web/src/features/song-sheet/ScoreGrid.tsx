import { memo, useEffect, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import { knownInstrument, withPart, type Blend, type Layer, type Part, type Patch, type Song } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { useLatest } from '../../ui/useLatest';
import { scoreWidthPx, useSeen } from './useSeen';
import type { Column } from './useSheetKeys';
import { EditableText } from '../../ui/EditableText';
import { Tape, TapeLetter, letterOf } from '../../ui/Tape';

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
  onChange: (label: string, next: Song) => void;
  onKeyDown: (event: KeyboardEvent) => void;
}

const CLIP_DB = -0.2;

/** Height of a bar by level: −40 dB is low, 0 dB full. */
const heightOf = (levelDb: number): number => Math.max(0.14, Math.min(1, 1 + levelDb / 34));

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
  const rename = useLatest((id: string, name: string) =>
    onChange('rename a layer', {
      ...song,
      layers: song.layers.map((item) => (item.id === id ? { ...item, name: name as Layer['name'] } : item)),
    }),
  );
  /** One handler for all cells: which it was stands on the cell. */
  const onClick = (event: MouseEvent): void => {
    const cell = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-column]') : null;
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
              <Head
                key={`${patch.id} ${blend?.id ?? ''}`}
                at={i}
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
        </tbody>
      </table>
    </div>
  );
});

const Head = memo(function Head({
  at,
  name,
  isBlend,
  isChosen,
  isLive,
  number,
}: {
  at: number;
  name: string;
  isBlend: boolean;
  isChosen: boolean;
  isLive: boolean;
  number: string;
}) {
  return (
    <th
      scope="col"
      data-head={at}
      className={`relative scroll-ml-[190px] border-l p-0 text-left font-normal ${isBlend ? 'w-[118px] border-dashed border-rule' : 'border-rule'} ${isChosen ? 'bg-ground2' : ''}`}
    >
      {isLive && <span className="absolute inset-x-0 -top-px h-1 bg-live" data-testid="live-column" />}
      <button
        type="button"
        tabIndex={-1}
        data-column={at}
        className="flex h-10 w-full items-center gap-2 px-2 text-left"
      >
        <span className={`named min-w-0 flex-1 truncate text-xl ${isBlend ? 'italic text-lg font-medium' : ''}`}>
          {name}
        </span>
        <span className={`mono ${isLive ? 'live-text' : ''}`}>{number}</span>
      </button>
    </th>
  );
});

interface RowProps {
  layer: Layer;
  row: number;
  isChosen: boolean;
  stands: boolean;
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
  onRename: (id: string, name: string) => void;
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);
const sameColumns = (a: readonly Column[], b: readonly Column[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every(
      ({ patch, blend }, i) => blend === b[i].blend && patch.id === b[i].patch.id && patch.name === b[i].patch.name,
    ));

const Row = memo(
  function Row({
    layer,
    row,
    isChosen,
    stands,
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
                <SourceName layer={layer} />
                {stands ? ', standing' : ''}
              </span>
            </span>
            <LayerMeter layer={layer} />
          </span>
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
                aria-label={
                  part
                    ? `${layer.name} in ${patch.name}${blend ? `, ${blend.name}` : ''}`
                    : `let ${layer.name} play in ${patch.name}`
                }
              >
                <span className="absolute inset-x-2 bottom-1.5 border-b border-rule" />
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
                {part && <Bar part={part} blend={blend} tape={layer.tape} lowest={lowest} highest={highest} />}
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
    before.chosen === after.chosen &&
    before.fromColumn === after.fromColumn &&
    before.toColumn === after.toColumn &&
    before.lowest === after.lowest &&
    before.highest === after.highest &&
    before.onRename === after.onRename &&
    sameColumns(before.columns, after.columns) &&
    sameItems(before.parts, after.parts),
);

const PAD_PX = 8;

/** A sound that stays runs on through the columns as a thin line of its tape. */
function Run({
  part,
  tape,
  lowest,
  highest,
  comesIn,
  goesOn,
}: {
  part: Part;
  tape: string;
  lowest: number;
  highest: number;
  comesIn: boolean;
  goesOn: boolean;
}) {
  if (!comesIn && !goesOn) return null;
  const count = highest - lowest + 1;
  const at = (key: number): string =>
    `calc(${PAD_PX}px + (100% - ${2 * PAD_PX}px) * ${(Math.max(lowest, Math.min(highest + 1, key)) - lowest) / count})`;
  return (
    <span
      aria-hidden
      data-run
      className={`tape tape-${tape} absolute bottom-1.5 h-1`}
      style={{
        left: comesIn ? 0 : at(part.zone.lowKey),
        right: goesOn ? 0 : `calc(100% - ${at(part.zone.highKey + 1)})`,
      }}
    />
  );
}

function Bar({
  part,
  blend,
  tape,
  lowest,
  highest,
}: {
  part: Part;
  blend: Blend | null;
  tape: string;
  lowest: number;
  highest: number;
}) {
  const change = blend?.values.find(
    (value) =>
      value.layerId === part.layerId &&
      Object.values(value).some((item) => item !== undefined && item !== part.layerId),
  );
  const level = change?.levelDb ?? part.levelDb;
  const muted = change?.mute ?? part.mute;
  const count = highest - lowest + 1;
  const low = Math.max(lowest, part.zone.lowKey) - lowest;
  const high = Math.min(highest, part.zone.highKey) - lowest;
  if (high < low) return null;
  return (
    <span className="absolute inset-x-2 bottom-1.5 top-1.5">
      <Tape
        tape={tape}
        className={`absolute bottom-0 ${muted ? 'opacity-25' : ''} ${change ? 'border-t-2 border-ink' : ''}`}
        style={{
          left: `${(low / count) * 100}%`,
          width: `max(6px, ${((high - low + 1) / count) * 100}%)`,
          height: `${heightOf(level) * 100}%`,
        }}
      />
    </span>
  );
}

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
      aria-label={`level of ${layer}`}
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
