import { SHOW_VERSION, sameBody, type Change, type Edit } from '@rackle/core/show';
import { baseOf, blockedBy, foldedRow, keyOf, type KeptBody, type Row, type RowItem } from './rows';

// What an edit becomes among those that wait. Pure: rows in, rows out.

type KeptBodies = ReadonlyMap<string, KeptBody>;

const itemsOf = (changes: readonly Change[], baseFor: (change: Change) => RowItem['on']): RowItem[] =>
  changes.map((change) => ({ ...change, on: baseFor(change) }));

/**
 * An edit joins those that wait. A refused one is mended by the next that touches it: both, and what waits behind, go
 * as one.
 * @returns the edit's row (null: with what it mends it comes to nothing), all rows, and the ids of those that are gone
 */
export function taken(
  edit: Edit,
  rows: readonly Row[],
  kept: KeptBodies,
  { dataId, windowId, open }: { dataId: string; windowId: string; open: boolean },
): { row: Row | null; rows: Row[]; gone: string[] } {
  const keys = new Set(edit.changes.map(keyOf));
  const refused = rows.find(
    ({ held, items }) => held?.why === 'refused' && items.some((item) => keys.has(keyOf(item))),
  );
  const behind = refused ? blockedBy(rows.slice(rows.indexOf(refused)), (row) => row === refused) : null;
  const mended = refused ? rows.filter((row) => row === refused || behind!.has(row.id)) : [];
  const others = rows.filter((row) => !mended.includes(row));
  const own: Row = {
    id: edit.id,
    label: edit.label,
    dataId,
    showVersion: SHOW_VERSION,
    windowId,
    sealed: !open,
    sent: false,
    items: itemsOf(edit.changes, (change) => baseOf(kept, rows, dataId, keyOf(change))),
    held: null,
    aside: null,
  };
  const row = mended.length > 0 ? foldedRow([...mended, own], edit) : own;
  return { row, rows: row ? [...others, row] : others, gone: mended.map(({ id }) => id) };
}

/** The row of an edit that has grown. What it touched before still builds on what it built on. */
export function grown(edit: Edit, rows: readonly Row[], kept: KeptBodies, dataId: string): Row {
  const before = rows.find(({ id }) => id === edit.id)!;
  const on = new Map(before.items.map((item) => [keyOf(item), item.on]));
  const others = rows.filter(({ id }) => id !== edit.id);
  const items = itemsOf(edit.changes, (change) => on.get(keyOf(change)) ?? baseOf(kept, others, dataId, keyOf(change)));
  return { ...before, label: edit.label, items };
}

/** The row of an edit that grows no more; null: everything came back to where it was. */
export function sealed(row: Row): Row | null {
  const items = row.items.filter(({ before, after }) => !sameBody(before, after));
  return items.length > 0 ? { ...row, sealed: true, items } : null;
}
