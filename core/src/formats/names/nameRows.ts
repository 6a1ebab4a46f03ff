import { NameListEntry, type PresetId } from '../../show';

/** One name as a list gives it, before it has an id. Numbers as on the wire; a bank byte of null is not sent. */
export interface NameRow {
  name: string;
  folder: string;
  msb: number | null;
  lsb: number | null;
  program: number;
}

/** A line or element that was not understood, and why. `line` counts from 1; 0 where the format has none. */
export interface NotUnderstood {
  line: number;
  text: string;
  why: string;
}

export interface NamesRead {
  rows: NameRow[];
  notUnderstood: NotUnderstood[];
}

/** At most so many names make a list; more are reported and left out. */
export const MOST_NAMES = 4096;

const LONGEST = 120;

/** A name as it may stand in a list: white space evened out, cut to its longest. */
export const tidyName = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, LONGEST);

export const isSevenBit = (value: number): boolean => Number.isInteger(value) && value >= 0 && value <= 127;

/** Gives rows their ids, as entries of an instrument's name list. Rows that an entry of the present list has already (same address) keep its id. */
export function entriesFrom(rows: readonly NameRow[], present: readonly NameListEntry[], mint: () => PresetId): NameListEntry[] {
  const address = ({ msb, lsb, program }: NameRow): string => `${msb ?? '-'} ${lsb ?? '-'} ${program}`;
  const ids = new Map(present.map((entry) => [address(entry), entry.id]));
  const used = new Set<string>();
  return rows.slice(0, MOST_NAMES).map((row) => {
    const known = ids.get(address(row));
    const id = known !== undefined && !used.has(known) ? known : mint();
    used.add(id);
    return NameListEntry.parse({ ...row, id });
  });
}
