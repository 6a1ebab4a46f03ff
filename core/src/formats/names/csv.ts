import { z } from 'zod';
import Papa from 'papaparse';
import {
  MOST_NAMES,
  alsoText,
  isSevenBit,
  parseAlso,
  tidyName,
  type NameRow,
  type NamesRead,
  type NotUnderstood,
} from './nameRows';

const column = z.number().int().min(0);

/** Which column is what, from 0; null: there is none. */
export const NameColumns = z.object({
  name: column,
  folder: column.nullable(),
  msb: column.nullable(),
  lsb: column.nullable(),
  program: column.nullable(),
  /** Further messages, as `alsoText` writes them. */
  also: column.nullable(),
  /** Whether its numbers count from 0 or from 1. */
  programsFrom: z.union([z.literal(0), z.literal(1)]),
  /** Whether the first line is a heading. */
  heading: z.boolean(),
});
export type NameColumns = z.infer<typeof NameColumns>;

/** Separated values, and which of their columns holds what. */
export interface Table {
  cells: string[][];
  columns: NameColumns;
}

const HEADINGS: readonly [keyof NameColumns, RegExp][] = [
  ['also', /^also\b/i],
  ['msb', /msb|cc ?0\b/i],
  ['lsb', /lsb|cc ?32\b/i],
  ['program', /^(prog|program|pc|number|no\.?|nr\.?|#|patch ?(no|number))/i],
  ['folder', /folder|bank|group|category/i],
  ['name', /name|patch|preset|sound|title/i],
];

/** Splits separated values (comma, semicolon, tab or bar; RFC 4180 quoting) and guesses what its columns are. */
export function openTable(text: string): Table {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  return { cells: data, columns: guessColumns(data) };
}

type Found = Partial<Record<keyof NameColumns, number>>;

function guessColumns(cells: readonly string[][]): NameColumns {
  const [first = []] = cells;
  const found = headingsIn(first);
  const heading = found.name !== undefined && !first.some((cell) => /^\d+$/.test(cell.trim()));
  const body = heading ? cells.slice(1) : cells;
  const columns = heading ? columnsBy(found) : columnsLike(body, found);
  const { program } = columns;
  const fromZero =
    program !== null &&
    (/from ?0/i.test(first[program] ?? '') || body.some((row) => /^\s*0+\s*$/.test(row[program] ?? '')));
  return { ...columns, programsFrom: fromZero ? 0 : 1, heading };
}

/** Which cells of a first line are headings that are known. */
function headingsIn(line: readonly string[]): Found {
  const found: Found = {};
  line.forEach((cell, i) => {
    const heading = HEADINGS.find(([name, pattern]) => found[name] === undefined && pattern.test(cell.trim()));
    if (heading) found[heading[0]] = i;
  });
  return found;
}

type Placed = Omit<NameColumns, 'programsFrom' | 'heading'>;

const columnsBy = (found: Found): Placed => ({
  name: found.name ?? 0,
  folder: found.folder ?? null,
  also: found.also ?? null,
  msb: found.msb ?? null,
  lsb: found.lsb ?? null,
  program: found.program ?? null,
});

/** Without headings: numbers are bank and program, the program last; of the words the last is the name. */
function columnsLike(body: readonly string[][], found: Found): Placed {
  const width = Math.max(0, ...body.slice(0, 50).map((row) => row.length));
  const all = Array.from({ length: width }, (_, i) => i);
  const isNumeric = (i: number): boolean =>
    body.length > 0 && body.every((row) => /^\s*\d{1,3}\s*$/.test(row[i] ?? ''));
  const numeric = all.filter(isNumeric);
  const words = all.filter((i) => !numeric.includes(i));
  return {
    name: found.name ?? words.at(-1) ?? 0,
    folder: words.length > 1 ? words[0] : null,
    also: found.also ?? null,
    msb: numeric.length > 2 ? numeric[0] : null,
    lsb: numeric.length > 1 ? numeric[numeric.length - 2] : null,
    program: numeric.at(-1) ?? null,
  };
}

/** Reads the names of a table by its columns. Without a program column the numbers count up, from the first line. */
export function readTable({ cells, columns }: Table): NamesRead {
  const rows: NameRow[] = [];
  const notUnderstood: NotUnderstood[] = [];
  let next = 0;
  cells.forEach((cell, i) => {
    if (columns.heading && i === 0) return;
    const read = rows.length >= MOST_NAMES ? `more than ${MOST_NAMES} names` : readRow(cell, columns, next);
    if (typeof read === 'string')
      return void notUnderstood.push({ line: i + 1, text: cell.join(' ').trim().slice(0, 120), why: read });
    rows.push(read);
    if (read.program !== null) next = read.program + 1;
  });
  return { rows, notUnderstood };
}

/** @param next the program of a line that has none. @returns why it is no name, in words, or the name */
function readRow(cell: readonly string[], columns: NameColumns, next: number): NameRow | string {
  const name = tidyName(cell[columns.name] ?? '');
  if (name === '') return 'it has no name';
  const also = columns.also === null ? [] : parseAlso(cell[columns.also] ?? '');
  if (also === null) return 'what it also sends is not understood';
  const folder = columns.folder === null ? '' : tidyName(cell[columns.folder] ?? '');
  const typed = numberIn(cell, columns.program);
  // With a column of programs and messages of its own, an empty cell is a name that sends no program.
  if (typed === null && columns.program !== null && also.length > 0)
    return { name, folder, msb: null, lsb: null, program: null, also };
  const program = typed === null ? next : typed - columns.programsFrom;
  if (!isSevenBit(program)) return `its program is not ${columns.programsFrom} to ${127 + columns.programsFrom}`;
  const bank = bankIn(cell, columns);
  if (bank === null) return 'its bank is not 0 to 127';
  return { name, folder, ...bank, program, ...(also.length > 0 ? { also } : {}) };
}

/** Both bank bytes of a line; null: one of them is none. */
function bankIn(cell: readonly string[], columns: NameColumns): Pick<NameRow, 'msb' | 'lsb'> | null {
  const [msb, lsb] = [numberIn(cell, columns.msb), numberIn(cell, columns.lsb)];
  return isBankByte(msb) && isBankByte(lsb) ? { msb, lsb } : null;
}

/** A whole number in a column; null: there is none, NaN: it is none. */
function numberIn(cell: readonly string[], column: number | null): number | null {
  const text = column === null ? '' : (cell[column] ?? '').trim();
  if (text === '') return null;
  const value = Number(text);
  return Number.isInteger(value) ? value : NaN;
}

const isBankByte = (value: number | null): boolean => value === null || isSevenBit(value);

/** Writes a name list as comma separated values (RFC 4180), programs as on the wire. */
export const writeNamesCsv = (rows: readonly NameRow[]): string =>
  `${Papa.unparse({ fields: ['folder', 'bank MSB', 'bank LSB', 'program from 0', 'name', 'also'], data: rows.map((row) => [row.folder, row.msb ?? '', row.lsb ?? '', row.program ?? '', row.name, alsoText(row.also ?? [])]) })}\r\n`;
