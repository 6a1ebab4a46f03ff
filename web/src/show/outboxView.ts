import type { Body, Kind } from '@rackle/core/show';
import type { About } from './kept';
import { isOf, type KeptBody, type Row } from './rows';

/** What the frame says of saving. */
export interface SaveState {
  kind: 'saved' | 'saving' | 'waiting' | 'conflict' | 'refused';
  /** ms since 1970, of the last save; null before the first. */
  at: number | null;
  /** Of the server's newest save that is known here. */
  serial: number;
  /** The server does not answer. */
  isAway: boolean;
  /** Edits that wait. */
  waiting: number;
  message: string | null;
  /** The browser keeps nothing: what waits is nowhere but in this window. */
  isOnlyHere: boolean;
}

/** An edit that is held until the player has settled it, or that was made for another data folder. */
export interface HeldEdit {
  id: string;
  label: string;
  why: 'conflict' | 'refused' | 'otherData';
  message: string | null;
  items: { kind: Kind; id: string; before: Body | null; ours: Body | null; theirs: Body | null }[];
}

/** The outbox as the pages see it. */
export interface OutboxView {
  saveState: SaveState;
  held: HeldEdit[];
}

/** What the outbox knows when it is looked at. */
interface Known {
  rows: readonly Row[];
  kept: ReadonlyMap<string, KeptBody>;
  about: About;
  /** Why the server does not answer; null: it does. */
  away: string | null;
  /** The server has said what it has. */
  isMet: boolean;
  savedAt: number | null;
  isOnlyHere: boolean;
}

const NOTHING_HELD: HeldEdit[] = [];

/** How saving stands, and what the player has to settle. */
export function viewOf({ rows, kept, about, away, isMet, savedAt, isOnlyHere }: Known): OutboxView {
  const { dataId, serial } = about;
  const held = rows.flatMap((row) => heldOf(row, kept, dataId));
  const waiting = rows.filter((row) => isOf(row, dataId) && row.held === null).length;
  const refused = held.find(({ why }) => why === 'refused');
  return {
    saveState: {
      kind: kindOf(held, waiting, away !== null),
      at: savedAt,
      serial,
      isAway: away !== null || !isMet,
      waiting,
      message: away ?? refused?.message ?? null,
      isOnlyHere,
    },
    held: held.length > 0 ? held : NOTHING_HELD,
  };
}

function kindOf(held: readonly HeldEdit[], waiting: number, isAway: boolean): SaveState['kind'] {
  if (held.some(({ why }) => why === 'conflict')) return 'conflict';
  if (held.some(({ why }) => why === 'refused')) return 'refused';
  if (waiting === 0) return 'saved';
  return isAway ? 'waiting' : 'saving';
}

function heldOf(row: Row, kept: Known['kept'], dataId: string): HeldEdit[] {
  const why = isOf(row, dataId) ? (row.held?.why ?? null) : 'otherData';
  if (why === null || row.aside !== null) return [];
  const items = row.items.map(({ kind, id, before, after }) => ({
    kind,
    id,
    before,
    ours: after,
    theirs: kept.get(`${kind} ${id}`)?.body ?? null,
  }));
  const message = row.held?.why === 'refused' ? row.held.message : null;
  return [{ id: row.id, label: row.label, why, message, items }];
}
