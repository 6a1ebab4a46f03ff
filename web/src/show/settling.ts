import { folded, type Change } from '@rackle/core/show';
import { blockedBy, keyOf, type KeptBody, type Row } from './rows';

// What the player's word makes of an edit that was changed elsewhere too. Pure: rows in, rows out.

/**
 * Ours counts: the row is made anew, under another id, on what the server has. It keeps its place before what builds on
 * it: those rows are put in again behind it.
 */
export function madeAnew(rows: readonly Row[], row: Row, newId: string, kept: ReadonlyMap<string, KeptBody>): Row[] {
  const items = row.items.map((item) => ({ ...item, on: { revision: kept.get(keyOf(item))?.revision ?? 0 } }));
  const after = rows.slice(rows.indexOf(row) + 1);
  return [
    { ...row, id: newId, items, held: null, sent: false },
    ...after.map((other) => ({
      ...other,
      items: other.items.map((item) =>
        'edit' in item.on && item.on.edit === row.id ? { ...item, on: { edit: newId } } : item,
      ),
    })),
  ];
}

/**
 * Theirs counts: the row, and what waits on it, is set aside under a name.
 * @returns the rows, and what that changes on the pages, as one step
 */
export function setAside(
  rows: readonly Row[],
  row: Row,
  kept: ReadonlyMap<string, KeptBody>,
  atMs: number,
): { rows: Row[]; step: Change[] } {
  const from = rows.slice(rows.indexOf(row));
  const behind = blockedBy(from, (other) => other === row);
  const set = from.filter((other) => other === row || behind.has(other.id));
  const ours = set.reduce<Change[]>((sum, other) => folded(sum, other.items), []);
  const time = new Date(atMs).toTimeString().slice(0, 5);
  return {
    rows: set.map((other) => ({
      ...other,
      sealed: true,
      held: null,
      aside: `not taken at ${time}: ${other.label}`.slice(0, 200),
    })),
    step: ours.map(
      ({ kind, id, after }) => ({ kind, id, before: after, after: kept.get(`${kind} ${id}`)?.body ?? null }) as Change,
    ),
  };
}
