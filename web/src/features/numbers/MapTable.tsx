import { addressFrom } from '@rackle/core/programs';
import type { ProgramLine, RecallTarget } from '@rackle/core/show';
import { createContext, use, useMemo } from 'react';
import { useHost } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { Button } from '../../ui/Button';
import { DataTable, type TableColumn } from '../../ui/DataTable';
import { Stamp } from '../../ui/Stamp';
import { Tape } from '../../ui/Tape';
import { useLatest } from '../../ui/useLatest';
import { AddressField } from './AddressField';
import type { MapRow } from './useProgramMap';

const ROW_PX = 40;
/** What stands above the rows. */
const HEAD_PX = 82;

interface Actions {
  programsFrom: 0 | 1;
  liveLine: ProgramLine | null;
  nameOf: (target: RecallTarget) => string;
  setLine: (label: string, line: ProgramLine, next: Partial<ProgramLine>) => void;
  give: (target: RecallTarget) => void;
}
const MapContext = createContext<Actions | null>(null);
const useMap = (): Actions => use(MapContext)!;

type CellProps = { row: MapRow };

function NumberCell({ row: { line, target, isTwice } }: CellProps) {
  const { programsFrom, liveLine, nameOf, setLine, give } = useMap();
  if (!line)
    return (
      <Button look="plain" onClick={() => give(target)}>
        give one
      </Button>
    );
  return (
    <span className={line === liveLine ? 'live-text' : ''}>
      <AddressField
        line={line}
        from={programsFrom}
        label={`program of ${nameOf(target)}`}
        onChange={(address) => setLine('change a number', line, addressFrom(address))}
      />
      {isTwice && (
        <>
          {' '}
          <Stamp>twice</Stamp>
        </>
      )}
    </span>
  );
}

const TapesCell = ({ row: { isSong, place } }: CellProps) => (
  <span className="flex h-4 w-9">
    {!isSong && tapesOf(place.song, place.patch.id).map((tape, t) => <Tape key={t} tape={tape} className="flex-1" />)}
  </span>
);

const SongCell = ({ row: { startsSong, place } }: CellProps) => <>{startsSong ? place.song.name : ''}</>;

function PatchCell({ row: { isSong, place } }: CellProps) {
  if (isSong) return <span className="italic text-ink2">the song itself</span>;
  return place.blend ? <span className="pl-3 italic">… {place.blend.name}</span> : <>{place.patch.name}</>;
}

function PinCell({ row: { line } }: CellProps) {
  const { setLine } = useMap();
  if (!line) return null;
  return (
    <button
      type="button"
      aria-pressed={line.pinned}
      className={`min-h-9 px-2 ${line.pinned ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted'}`}
      onClick={() => setLine('pin a number', line, { pinned: !line.pinned })}
    >
      {line.pinned ? 'pinned' : 'pin'}
    </button>
  );
}

function ButtonCell({ row: { button } }: CellProps) {
  if (!button) return null;
  const { port, page, pages, takenBy } = button;
  const words = `${port} · ${pages > 1 ? `page ${page}, ` : ''}${button.button}`;
  if (takenBy === null) return <>{words}</>;
  return (
    <span title={`${words}: the role “${takenBy}” has this button, so the number gets nowhere from it`}>
      <Stamp>taken</Stamp> by {takenBy}
    </span>
  );
}

function TryCell({ row: { place } }: CellProps) {
  const host = useHost();
  return (
    <Button look="plain" onClick={() => host.post({ type: 'recall', position: place.position })}>
      try it
    </Button>
  );
}

const COLUMNS: readonly TableColumn<MapRow>[] = [
  { id: 'number', head: 'number', width: 'w-28', look: 'mono whitespace-nowrap text-lg', Cell: NumberCell },
  { id: 'tapes', width: 'w-11', Cell: TapesCell },
  { id: 'song', head: 'song', width: 'w-[19%]', look: 'truncate text-ink2', Cell: SongCell },
  { id: 'patch', head: 'patch', look: 'named truncate text-xl', Cell: PatchCell },
  { id: 'pin', width: 'w-14', Cell: PinCell },
  { id: 'button', head: 'sent by', width: 'w-36', look: 'truncate text-[13px] text-ink2', Cell: ButtonCell },
  { id: 'try', width: 'w-14 text-right', Cell: TryCell },
];
const keyOf = ({ key }: MapRow): string => key;

/** Every number of the map, in playing order. */
export function MapTable({
  rows,
  chosen,
  seen,
  onChoose,
  ...actions
}: Actions & {
  rows: readonly MapRow[];
  chosen: string | null;
  /** Brought into sight when it changes. */
  seen: string | null;
  onChoose: (key: string) => void;
}) {
  const { programsFrom, liveLine } = actions;
  const nameOf = useLatest(actions.nameOf);
  const setLine = useLatest(actions.setLine);
  const give = useLatest(actions.give);
  const map = useMemo(
    () => ({ programsFrom, liveLine, nameOf, setLine, give }),
    [programsFrom, liveLine, nameOf, setLine, give],
  );
  return (
    <MapContext value={map}>
      <DataTable
        label="numbers"
        columns={COLUMNS}
        rows={rows}
        keyOf={keyOf}
        rowPx={ROW_PX}
        headPx={HEAD_PX}
        scrolls="page"
        seen={seen}
        rowProps={({ key, startsSong }) => ({
          'aria-selected': key === chosen,
          className: `border-t ${startsSong ? 'border-ink2' : 'border-rule'} ${key === chosen ? 'bg-ground2' : ''}`,
          onClick: () => onChoose(key),
        })}
      />
    </MapContext>
  );
}
