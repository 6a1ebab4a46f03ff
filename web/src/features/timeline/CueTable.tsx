import { changeCue, withoutCue, type Blend, type Cue, type Patch, type Song } from '@rackle/core/show';
import { tempoMapOf } from '@rackle/core/timeline';
import { createContext, use, useMemo } from 'react';
import { useApp, useNumbers } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { DataTable, type TableColumn } from '../../ui/DataTable';
import { useNewRow } from '../../ui/newRow';
import { NumberField } from '../../ui/NumberField';
import { useLatest } from '../../ui/useLatest';

const ROW_PX = 40;
const HEAD_PX = 500;
const TICKS_PER_BEAT = 960;

/** What a cue can recall. */
export interface CueTarget {
  key: string;
  patch: Patch;
  blend: Blend | null;
  label: string;
}

const keyOf = (patchId: string, blendId: string | null): string => `${patchId}|${blendId ?? ''}`;

/** Every patch of a song and each of its blends. */
export const cueTargets = (song: Song): CueTarget[] =>
  song.patches.flatMap((patch): CueTarget[] => [
    { key: keyOf(patch.id, null), patch, blend: null, label: patch.name },
    ...patch.blends.map((blend) => ({
      key: keyOf(patch.id, blend.id),
      patch,
      blend,
      label: `${patch.name}, ${blend.name}`,
    })),
  ]);

interface Props {
  song: Song;
  showTick: (tick: number) => string;
  readTick: (text: string) => number | null;
  onChange: (label: string, next: Song, mergeKey?: string) => void;
}

const CueContext = createContext<(Props & { targets: readonly CueTarget[] }) | null>(null);
const useCues = () => use(CueContext)!;

type CellProps = { row: Cue };

function PositionCell({ row }: CellProps) {
  const { song, showTick, readTick, onChange } = useCues();
  const ref = useNewRow(row.id);
  return (
    <span ref={ref}>
      <NumberField
        label="position of the cue"
        value={row.atTick}
        min={0}
        max={tempoMapOf(song.map).endTick - 1}
        step={TICKS_PER_BEAT}
        show={showTick}
        read={readTick}
        form="bar : beat + ticks"
        className="mono"
        onChange={(atTick) =>
          onChange(
            'move a cue',
            changeCue(song, row.id, (current) => ({ ...current, atTick })),
            `cue ${row.id}`,
          )
        }
      />
    </span>
  );
}

function NumberCell({ row }: CellProps) {
  const { song } = useCues();
  const numberOf = useNumbers();
  return <>{numberOf(song.id, row.patchId, row.blendId) ?? '·'}</>;
}

function RecallsCell({ row }: CellProps) {
  const { song, targets, onChange } = useCues();
  return (
    <Choice
      label="patch of the cue"
      className="named text-lg"
      value={keyOf(row.patchId, row.blendId)}
      items={targets.map(({ key, label }) => ({ value: key, label }))}
      onChange={(key) => {
        const target = targets.find((other) => other.key === key);
        if (!target) return;
        const { patch, blend } = target;
        onChange(
          'change a cue',
          changeCue(song, row.id, (current) => ({ ...current, patchId: patch.id, blendId: blend?.id ?? null })),
        );
      }}
    />
  );
}

function RemoveCell({ row }: CellProps) {
  const { song, onChange } = useCues();
  return (
    <Button look="plain" onClick={() => onChange('remove a cue', withoutCue(song, row.id))}>
      remove
    </Button>
  );
}

const COLUMNS: readonly TableColumn<Cue>[] = [
  { id: 'position', head: 'at (bar : beat + ticks)', width: 'w-44', Cell: PositionCell },
  { id: 'number', head: 'number', width: 'w-24', look: 'mono', Cell: NumberCell },
  { id: 'recalls', head: 'recalls', Cell: RecallsCell },
  { id: 'remove', width: 'w-32 text-right', Cell: RemoveCell },
];
const idOf = (cue: Cue): string => cue.id;

/** The cues of a song: where each stands and what it recalls. */
export function CueTable(props: Props) {
  const { song, showTick, readTick } = props;
  const place = useApp(({ live }) => live.place);
  const onChange = useLatest(props.onChange);
  const cues = useMemo(
    () => ({ song, targets: cueTargets(song), showTick, readTick, onChange }),
    [song, showTick, readTick, onChange],
  );
  const plays = (cue: Cue): boolean =>
    place.songId === song.id && place.patchId === cue.patchId && place.blendId === cue.blendId;
  return (
    <CueContext value={cues}>
      <DataTable
        label="cues"
        columns={COLUMNS}
        rows={song.cues}
        keyOf={idOf}
        rowPx={ROW_PX}
        headPx={HEAD_PX}
        scrolls="page"
        rowProps={(cue) => ({ className: `border-t border-rule ${plays(cue) ? 'bg-ground2' : ''}` })}
      />
    </CueContext>
  );
}
