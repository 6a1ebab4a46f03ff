import { createColumnHelper, tableFeatures, useTable, type ColumnDef } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type ComponentType, type HTMLAttributes } from 'react';

import { useLatest } from './useLatest';
import { useLinePx } from './useLinePx';

const features = tableFeatures({});

/**
 * A column of a `DataTable`. Columns are made once, beside the page: a cell made anew with each rendering would lose
 * what is being typed in it. What cells do, they get from a context of the page.
 */
export interface TableColumn<Row> {
  id: string;
  head?: string;
  /** Classes of its head and its cells: how wide, to which side. */
  width?: string;
  /** Classes of its cells only. */
  look?: string;
  Cell: ComponentType<{ row: Row; at: number }>;
}

interface Props<Row> {
  label: string;
  columns: readonly TableColumn<Row>[];
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  /** Height of a row in px: only rows in sight are drawn. */
  rowPx: number;
  /** What of the page scrolls: the page itself, or a box around the table. */
  scrolls: 'page' | 'box';
  /** Height in px of what stands above the rows within what scrolls. */
  headPx?: number;
  /** Key of a row that is brought into sight when it is another one. */
  seen?: string | null;
  /** Classes and handlers of a row. */
  rowProps?: (row: Row, at: number) => HTMLAttributes<HTMLTableRowElement>;
}

const definitionOf = <Row extends object>({ id, head = '', Cell }: TableColumn<Row>): ColumnDef<typeof features, Row> =>
  createColumnHelper<typeof features, Row>().display({
    id,
    header: head,
    cell: ({ row }) => <Cell row={row.original} at={row.index} />,
  });

const cellClass = <Row,>(column: TableColumn<Row> | undefined): string =>
  `${column?.width ?? ''} ${column?.look ?? ''}`;

/** Rows and columns of the player's data. Ten thousand rows scroll as quickly as ten. */
export function DataTable<Row extends object>({
  label,
  columns,
  rows,
  keyOf,
  rowPx: linePx,
  scrolls,
  headPx = 0,
  seen = null,
  rowProps,
}: Props<Row>) {
  const element = useRef<HTMLTableElement>(null);
  const rowPx = useLinePx(linePx);
  const definitions = useMemo(() => columns.map(definitionOf), [columns]);
  const table = useTable({ features, columns: definitions, data: rows, getRowId: keyOf });
  const model = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: model.length,
    getScrollElement: () =>
      (scrolls === 'page' ? element.current?.closest('main') : element.current?.parentElement) ?? null,
    estimateSize: () => rowPx,
    overscan: 16,
    scrollMargin: headPx,
  });
  const bring = useLatest((key: string): void => {
    const at = rows.findIndex((row) => keyOf(row) === key);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
  });
  useEffect(() => {
    if (seen !== null) bring(seen);
  }, [seen, bring]);
  const items = virtual.getVirtualItems();
  const before = items.length > 0 ? items[0].start - headPx : 0;
  const after = items.length > 0 ? virtual.getTotalSize() - (items[items.length - 1].end - headPx) : 0;
  const columnOf = new Map(columns.map((column) => [column.id, column]));
  const drawn = (
    <table ref={element} aria-label={label} aria-rowcount={rows.length} className="w-full table-fixed text-left">
      <thead className={scrolls === 'box' ? 'sticky top-0 z-10 bg-ground' : ''}>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="text-[13px] text-ink2">
            {group.headers.map((header) => (
              <th key={header.id} scope="col" className={`font-bold ${columnOf.get(header.column.id)?.width ?? ''}`}>
                <table.FlexRender header={header} />
              </th>
            ))}
          </tr>
        ))}
      </thead>
      <tbody>
        {before > 0 && <tr aria-hidden style={{ height: before }} />}
        {items.map(({ index }) => {
          const row = model[index];
          const { className = '', ...props } = rowProps?.(row.original, index) ?? {};
          return (
            <tr key={row.id} data-row={index} style={{ height: rowPx }} className={className} {...props}>
              {row.getAllCells().map((cell) => (
                <td key={cell.id} data-cell={cell.column.id} className={cellClass(columnOf.get(cell.column.id))}>
                  <table.FlexRender cell={cell} />
                </td>
              ))}
            </tr>
          );
        })}
        {after > 0 && <tr aria-hidden style={{ height: after }} />}
      </tbody>
    </table>
  );
  return scrolls === 'page' ? drawn : <div className="min-h-0 flex-1 overflow-y-auto">{drawn}</div>;
}
