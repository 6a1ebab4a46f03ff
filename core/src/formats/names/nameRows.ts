import { EntryMessage, NameListEntry, type PresetId } from '../../show';

/**
 * One name as a list gives it, before it has an id. Numbers as on the wire; a bank byte or a program of null is not
 * sent.
 */
export interface NameRow {
  name: string;
  folder: string;
  msb: number | null;
  lsb: number | null;
  program: number | null;
  /** Key switches and controllers that belong to it. */
  also?: readonly EntryMessage[];
}

/** A line or element that was not understood, and why. `line` counts from 1; 0 where the format has none. */
export interface NotUnderstood {
  line: number;
  text: string;
  why: string;
}

/** Names that were understood, and the lines that were not. */
export interface NamesRead {
  rows: NameRow[];
  notUnderstood: NotUnderstood[];
}

/** At most so many names make a list; more are reported and left out. */
export const MOST_NAMES = 4096;

const LONGEST = 120;

/** A name as it may stand in a list: white space evened out, cut to its longest. */
export const tidyName = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, LONGEST);

/** Whether a number is a data byte of MIDI. */
export const isSevenBit = (value: number): boolean => Number.isInteger(value) && value >= 0 && value <= 127;

/** Further messages of an entry as text: “key 24 velocity 100; controller 32 = 5”. */
export const alsoText = (also: readonly EntryMessage[]): string =>
  also
    .map((message) =>
      message.kind === 'note'
        ? `key ${message.key} velocity ${message.velocity}`
        : `controller ${message.controller} = ${message.value}`,
    )
    .join('; ');

/**
 * Reads what `alsoText` writes, also “key 24” alone; null when any of it is not understood. Keys are numbers, 60 is
 * middle C.
 */
export function parseAlso(text: string): EntryMessage[] | null {
  const messages = text
    .split(';')
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const key = /^key\s+(\d{1,3})(?:\s+velocity\s+(\d{1,3}))?$/i.exec(part);
      const controller = /^(?:controller|cc)\s+(\d{1,3})\s*=\s*(\d{1,3})$/i.exec(part);
      const parsed = key
        ? EntryMessage.safeParse({
            kind: 'note',
            key: Number(key[1]),
            ...(key[2] === undefined ? {} : { velocity: Number(key[2]) }),
          })
        : controller
          ? EntryMessage.safeParse({
              kind: 'controller',
              controller: Number(controller[1]),
              value: Number(controller[2]),
            })
          : null;
      return parsed?.success ? parsed.data : null;
    });
  return messages.length > 16 || messages.includes(null) ? null : (messages as EntryMessage[]);
}

/** All that is sent for a name, as text: equal for equal messages. */
export const addressText = ({ msb, lsb, program, also = [] }: NameRow): string =>
  `${msb ?? '-'} ${lsb ?? '-'} ${program ?? '-'} ${alsoText(also)}`.trimEnd();

/**
 * Gives rows their ids, as entries of an instrument's name list. Rows that an entry of the present list has already
 * (same address) keep its id.
 */
export function entriesFrom(
  rows: readonly NameRow[],
  present: readonly NameListEntry[],
  mint: () => PresetId,
): NameListEntry[] {
  const ids = new Map(present.map((entry) => [addressText(entry), entry.id]));
  const used = new Set<string>();
  return rows.slice(0, MOST_NAMES).map((row) => {
    const known = ids.get(addressText(row));
    const id = known !== undefined && !used.has(known) ? known : mint();
    used.add(id);
    return NameListEntry.parse({ ...row, id });
  });
}
