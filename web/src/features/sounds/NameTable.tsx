import { createContext, use, useMemo, type KeyboardEvent } from 'react';
import { alsoText, parseAlso } from '@rackle/core/formats';
import { programText } from '@rackle/core/programs';
import type { NameListEntry } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { DataTable, type TableColumn } from '../../ui/DataTable';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { useLatest } from '../../ui/useLatest';

const ROW_PX = 34;
const NONE = '—';

interface Props {
  names: readonly NameListEntry[];
  programsFrom: 0 | 1;
  onChange: (label: string, names: NameListEntry[], mergeKey?: string) => void;
  /** Selects the name on the instrument itself, to hear it. */
  onTry: (entry: NameListEntry) => void;
}

/** What the cells of a name list know and do. */
interface NameList {
  programsFrom: 0 | 1;
  change: (entry: NameListEntry, next: Partial<NameListEntry>) => void;
  remove: (entry: NameListEntry) => void;
  tryOut: (entry: NameListEntry) => void;
}
const ListContext = createContext<NameList | null>(null);
const useList = (): NameList => use(ListContext)!;

type CellProps = { row: NameListEntry; at: number };

const isNone = (text: string): boolean => /^\s*[–-]?\s*$/.test(text);
/** A number, or “–” for none, which stands for `none`. */
const readNumber =
  (none: number) =>
  (text: string): number | null =>
    isNone(text) ? none : /^\d{1,3}$/.test(text.trim()) ? Number(text) : null;

function FolderCell({ row }: CellProps) {
  const { change } = useList();
  return (
    <EditableText
      width="100%"
      label={`folder of ${row.name}`}
      value={row.folder || NONE}
      onChange={(folder) => change(row, { folder: folder === NONE ? '' : folder })}
      className="text-ink2"
    />
  );
}

function BankCell({ row, byte }: CellProps & { byte: 'msb' | 'lsb' }) {
  const { change } = useList();
  return (
    <NumberField
      label={`bank ${byte.toUpperCase()} of ${row.name}`}
      value={row[byte] ?? -1}
      min={-1}
      max={127}
      show={(value) => (value < 0 ? '–' : String(value))}
      read={readNumber(-1)}
      className="mono"
      onChange={(value) => change(row, { [byte]: value < 0 ? null : value })}
    />
  );
}

const MsbCell = (props: CellProps) => <BankCell {...props} byte="msb" />;
const LsbCell = (props: CellProps) => <BankCell {...props} byte="lsb" />;

function ProgramCell({ row }: CellProps) {
  const { programsFrom, change } = useList();
  const none = programsFrom - 1;
  return (
    <NumberField
      label={`program of ${row.name}`}
      value={row.program === null ? none : row.program + programsFrom}
      min={none}
      max={127 + programsFrom}
      show={(number) => (number < programsFrom ? '–' : String(number))}
      read={readNumber(none)}
      className="mono"
      onChange={(program) => change(row, { program: program < programsFrom ? null : program - programsFrom })}
    />
  );
}

function NameCell({ row, at }: CellProps) {
  const { programsFrom, change } = useList();
  return (
    <EditableText
      width="100%"
      label={
        row.program === null
          ? `name ${at + 1}`
          : `name ${programText({ msb: 0, lsb: 0, program: row.program }, programsFrom)}`
      }
      value={row.name}
      className="named text-lg"
      onChange={(name) => change(row, { name })}
    />
  );
}

function AlsoCell({ row }: CellProps) {
  const { change } = useList();
  return (
    <EditableText
      width="100%"
      label={`what ${row.name} also sends`}
      value={alsoText(row.also) || NONE}
      check={(text) => (text.trim() === NONE || parseAlso(text) ? null : '“key 24 velocity 100; controller 32 = 5”')}
      onChange={(text) => change(row, { also: text === NONE ? [] : (parseAlso(text) ?? row.also) })}
      className="text-[13px] text-ink2"
    />
  );
}

function CommandsCell({ row }: CellProps) {
  const { tryOut, remove } = useList();
  return (
    <>
      <Button look="plain" onClick={() => tryOut(row)}>
        try it
      </Button>
      <Button look="plain" aria-label={`take ${row.name} away`} onClick={() => remove(row)}>
        ×
      </Button>
    </>
  );
}

const columnsFrom = (programsFrom: 0 | 1): readonly TableColumn<NameListEntry>[] => [
  { id: 'folder', head: 'folder', width: 'w-40 pr-3', Cell: FolderCell },
  { id: 'msb', head: 'MSB', width: 'w-[3.25rem] pr-3', look: 'mono', Cell: MsbCell },
  { id: 'lsb', head: 'LSB', width: 'w-[3.25rem] pr-3', look: 'mono', Cell: LsbCell },
  { id: 'program', head: `from ${programsFrom}`, width: 'w-[3.75rem] pr-3', Cell: ProgramCell },
  { id: 'name', head: 'name', width: 'pr-3', Cell: NameCell },
  { id: 'also', head: 'and sends', width: 'w-64 pr-3', Cell: AlsoCell },
  { id: 'commands', width: 'w-28 text-right', look: 'whitespace-nowrap', Cell: CommandsCell },
];
/** By the number from which programs count. */
const COLUMNS = [columnsFrom(0), columnsFrom(1)] as const;
const idOf = (entry: NameListEntry): string => entry.id;
const rowProps = (_entry: NameListEntry, at: number) => ({
  className: 'border-b border-rule',
  onKeyDown: (event: KeyboardEvent<HTMLTableRowElement>) => goOn(event, at),
});

/** Up and down in a name go to the name above and below. */
function goOn(event: KeyboardEvent<HTMLTableRowElement>, at: number): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  const isName = event.target instanceof Element && event.target.closest('[data-cell="name"]') !== null;
  if (by === 0 || !isName) return;
  const next = event.currentTarget.parentElement?.querySelector<HTMLInputElement>(
    `[data-row="${at + by}"] [data-cell="name"] input`,
  );
  next?.focus();
}

/** A name list, edited in place: folder, bank bytes, program, name, and what else is sent. */
export function NameTable({ names, programsFrom, onChange, onTry }: Props) {
  const change = useLatest((entry: NameListEntry, next: Partial<NameListEntry>) =>
    onChange(
      'change a name',
      names.map((other) => (other === entry ? { ...other, ...next } : other)),
      `name ${entry.id} ${Object.keys(next).join()}`,
    ),
  );
  const remove = useLatest((entry: NameListEntry) =>
    onChange(
      'take a name away',
      names.filter((other) => other !== entry),
    ),
  );
  const tryOut = useLatest(onTry);
  const list = useMemo(() => ({ programsFrom, change, remove, tryOut }), [programsFrom, change, remove, tryOut]);
  return (
    <ListContext value={list}>
      <DataTable
        label="names"
        columns={COLUMNS[programsFrom]}
        rows={names}
        keyOf={idOf}
        rowPx={ROW_PX}
        scrolls="box"
        rowProps={rowProps}
      />
    </ListContext>
  );
}
