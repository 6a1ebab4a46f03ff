import type { SavedShow } from './api';
import { migratedBody } from '@rackle/core/formats';
import {
  KIND_NAMES,
  SHOW_VERSION,
  bodyOf,
  folded,
  sameBody,
  type Bodies,
  type Body,
  type Change,
  type Kind,
} from '@rackle/core/show';

/** What an item's window saw when it was edited: what the server had, or an edit that waits. */
export type Base = { revision: number } | { edit: string };

/** One change of an edit, and what it was made on. */
export type RowItem = Change & { on: Base };

/** An edit that waits in this browser until the server has it; `safety.md` has the rules. */
export interface Row {
  /** The edit's own id. One that was ever sent never changes its content. */
  id: string;
  label: string;
  /** Of the data that it was made for. */
  dataId: string;
  showVersion: number;
  /** The window that made it; only that one may still change it, until it is sealed. */
  windowId: string;
  sealed: boolean;
  /** It may have reached the server, whose answer got lost. */
  sent: boolean;
  items: RowItem[];
  held: null | { why: 'conflict' } | { why: 'refused'; message: string };
  /** It was kept by an earlier Rackle, and cannot be read by this one: raw, to be shown and saved as a file. */
  isUnreadable?: boolean;
  /** It was not taken: to be kept in the history under this name, and nothing more. */
  aside: string | null;
}

/** What the server had when it was last heard of. */
export interface KeptBody {
  kind: Kind;
  id: string;
  /** 0: it is not there. */
  revision: number;
  body: Body | null;
  /** Grows with each change of what is kept: whoever knows an earlier one reads only what came after. */
  tick: number;
}

/** The same, before it is written. */
export type NewBody = Omit<KeptBody, 'tick'>;

/** What the server has, each with its revision; what was kept and is not there any more is gone. */
export function bodiesIn(show: SavedShow, kept: ReadonlyMap<string, KeptBody>): NewBody[] {
  const bodies = KIND_NAMES.flatMap((kind) =>
    show[kind].map(({ revision, body }): NewBody => ({ kind, id: body.id, revision, body })),
  );
  for (const { kind, id, revision } of show.unreadable) bodies.push({ kind, id, revision, body: null });
  return withGone(bodies, [...kept.values()]);
}

/** These, and what was kept and is not among them: it is gone. */
export function withGone(bodies: readonly NewBody[], kept: readonly KeptBody[]): NewBody[] {
  const there = new Set(bodies.map(keyOf));
  const gone = kept.filter((one) => !there.has(keyOf(one)));
  return [...bodies, ...gone.map(({ kind, id }): NewBody => ({ kind, id, revision: 0, body: null }))];
}

/** What the server had, by key. */
export type KeptBodies = ReadonlyMap<string, KeptBody>;

/** Kind and id, as one text. */
export const keyOf = ({ kind, id }: { kind: Kind; id: string }): string => `${kind} ${id}`;

/** Rows that stand on the pages: made for these data, and taken. */
const stands = (row: Row, dataId: string): boolean => isOf(row, dataId) && row.aside === null;
/** Rows that this page can do something with. */
export const isOf = (row: Row, dataId: string): boolean => row.dataId === dataId && row.isUnreadable !== true;

/** The show of a window: what the server had, and what waits, in its order. */
export function showOf(kept: KeptBodies, rows: readonly Row[], dataId: string): Map<string, Change> {
  const shown = new Map<string, Change>();
  for (const [key, { kind, id, body }] of kept) shown.set(key, { kind, id, before: null, after: body } as Change);
  for (const row of rows) if (stands(row, dataId)) for (const item of row.items) shown.set(keyOf(item), item);
  return shown;
}

/** What has to change in a working copy so that it shows this. What is equal keeps its identity. */
export function towards(working: Bodies, shown: ReadonlyMap<string, Change>): Change[] {
  const changes: Change[] = [];
  for (const { kind, id, after } of shown.values()) {
    const before = bodyOf(working, kind, id);
    if (before !== after && !sameBody(before, after)) changes.push({ kind, id, before, after } as Change);
  }
  for (const kind of Object.keys(working) as Kind[])
    for (const [id, before] of Object.entries(working[kind]))
      if (!shown.has(`${kind} ${id}`)) changes.push({ kind, id, before, after: null } as Change);
  return changes;
}

/** What an edit of this id builds on now. */
export function baseOf(kept: KeptBodies, rows: readonly Row[], dataId: string, key: string): Base {
  const last = rows.findLast((row) => stands(row, dataId) && row.items.some((item) => keyOf(item) === key));
  return last ? { edit: last.id } : { revision: kept.get(key)?.revision ?? 0 };
}

/** Whether a body names any of these ids. */
function mentions(value: unknown, ids: ReadonlySet<string>): boolean {
  if (typeof value === 'string') return ids.has(value);
  return typeof value === 'object' && value !== null && Object.values(value).some((inner) => mentions(inner, ids));
}

/**
 * Rows that wait behind others which cannot be sent: those that share an id with them, or point at an id that they
 * create, and those behind these in turn. Everything else goes past them.
 */
export function blockedBy(rows: readonly Row[], isStuck: (row: Row) => boolean): Set<string> {
  const blocked = new Set<string>();
  const ids = new Set<string>();
  const created = new Set<string>();
  for (const row of rows) {
    const behind = row.items.some(
      (item) => ids.has(keyOf(item)) || (created.size > 0 && mentions(item.after, created)),
    );
    if (behind) blocked.add(row.id);
    if (!behind && !isStuck(row)) continue;
    for (const item of row.items) {
      ids.add(keyOf(item));
      if (item.before === null) created.add(item.id);
    }
  }
  return blocked;
}

/** What is to be done with a row. */
export type Next =
  | { kind: 'send'; row: Row; revisions: number[] }
  | { kind: 'setAside'; row: Row }
  /** What it builds on is not what stands there: found without asking. */
  | { kind: 'conflict'; row: Row }
  /** The server has it already, by what it holds. */
  | { kind: 'saved'; row: Row };

/**
 * The next thing to be done for what waits; null: nothing can be now.
 * @param answers what the server answered to edits: revisions by id
 * @param isOpen whether a window still works at a row
 */
export function nextOf(
  rows: readonly Row[],
  kept: KeptBodies,
  dataId: string,
  answers: ReadonlyMap<string, ReadonlyMap<string, number>>,
  isOpen: (row: Row) => boolean,
): Next | null {
  const own = rows.filter((row) => isOf(row, dataId));
  const standing = own.filter((row) => row.aside === null);
  const isStuck = (row: Row): boolean => row.held !== null || isOpen(row);
  const blocked = blockedBy(standing, isStuck);
  for (const row of own) {
    if (row.aside !== null) return { kind: 'setAside', row };
    if (isStuck(row) || blocked.has(row.id)) continue;
    const at = standing.indexOf(row);
    const bases = row.items.map((item) => resolved(item, answers));
    const waiting = row.items.map((item) =>
      standing.slice(0, at).findLast((other) => other.items.some((one) => keyOf(one) === keyOf(item))),
    );
    // What it builds on goes first, and answers with the revision.
    if (waiting.some((other, i) => other !== undefined && isOn(bases[i], other.id))) continue;
    const meets = row.items.every((item, i) => {
      const base = bases[i];
      return waiting[i] === undefined && 'revision' in base && base.revision === (kept.get(keyOf(item))?.revision ?? 0);
    });
    const revisions = bases.map((base) => ('revision' in base ? base.revision : 0));
    // Sent before, it may have been saved: the server knows.
    if (meets || row.sent) return { kind: 'send', row, revisions };
    if (waiting.some((other) => other !== undefined)) return { kind: 'conflict', row };
    const isThere = row.items.every((item) => sameBody(kept.get(keyOf(item))?.body ?? null, item.after));
    return { kind: isThere ? 'saved' : 'conflict', row };
  }
  return null;
}

const isOn = (base: Base, edit: string): boolean => 'edit' in base && base.edit === edit;

function resolved(item: RowItem, answers: ReadonlyMap<string, ReadonlyMap<string, number>>): Base {
  if ('revision' in item.on) return item.on;
  const revision = answers.get(item.on.edit)?.get(keyOf(item));
  return revision === undefined ? item.on : { revision };
}

/** Rows as one under a new id: first `before`, last `after`, each id on what its first change was on. */
export function foldedRow(rows: readonly Row[], as: Pick<Row, 'id' | 'label'>): Row | null {
  const changes = rows.reduce<Change[]>((sum, row) => folded(sum, row.items), []);
  if (changes.length === 0) return null;
  const on = new Map<string, Base>();
  for (const row of rows) for (const item of row.items) if (!on.has(keyOf(item))) on.set(keyOf(item), item.on);
  const last = rows[rows.length - 1];
  const items = changes.map((change): RowItem => ({ ...change, on: on.get(keyOf(change))! }));
  return { ...last, ...as, sent: false, held: null, aside: null, items };
}

/** A row of an earlier show version as this one reads it; what cannot be read stays as it is, and is said. */
export function migratedRow(row: Row): Row {
  if (row.showVersion >= SHOW_VERSION) return row;
  const items: RowItem[] = [];
  for (const item of row.items) {
    const [before, after] = [item.before, item.after].map(
      (body) => body && migratedBody(item.kind, body, row.showVersion),
    );
    if ((item.before && !before) || (item.after && !after)) return { ...row, isUnreadable: true };
    items.push({ ...item, before, after } as RowItem);
  }
  return { ...row, showVersion: SHOW_VERSION, items };
}

/**
 * Rows in a row that touch the same ids and were never sent, as one each: for when more wait than there is room for.
 * @returns what takes the place of what; empty: nothing can be folded
 */
export function foldedTogether(rows: readonly Row[], dataId: string): { gone: string[]; row: Row }[] {
  const found: { gone: string[]; row: Row }[] = [];
  const keysOf = (row: Row): string => row.items.map(keyOf).sort().join('|');
  const canBe = (row: Row): boolean => stands(row, dataId) && row.sealed && !row.sent && row.held === null;
  let run: Row[] = [];
  const close = (): void => {
    const last = run.at(-1);
    const row = run.length > 1 && last ? foldedRow(run, { id: last.id, label: last.label }) : null;
    if (row) found.push({ gone: run.slice(0, -1).map(({ id }) => id), row });
    run = [];
  };
  for (const row of rows) {
    const follows = run.length > 0 && canBe(row) && keysOf(row) === keysOf(run[run.length - 1]);
    if (!follows) close();
    if (canBe(row)) run.push(row);
  }
  close();
  return found;
}
