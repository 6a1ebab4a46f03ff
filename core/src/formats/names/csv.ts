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

function guessColumns(cells: readonly string[][]): NameColumns {
  const [first = []] = cells;
  const found: Partial<Record<keyof NameColumns, number>> = {};
  first.forEach((cell, i) => {
    const heading = HEADINGS.find(([name, pattern]) => found[name] === undefined && pattern.test(cell.trim()));
    if (heading) found[heading[0]] = i;
  });
  const heading = found.name !== undefined && !first.some((cell) => /^\d+$/.test(cell.trim()));
  const body = heading ? cells.slice(1) : cells;
  const isNumeric = (column: number): boolean =>
    body.length > 0 && body.every((row) => /^\s*\d{1,3}\s*$/.test(row[column] ?? ''));
  const width = Math.max(0, ...cells.slice(0, 50).map((row) => row.length));
  const numeric = Array.from({ length: width }, (_, i) => i).filter(isNumeric);
  const words = Array.from({ length: width }, (_, i) => i).filter((i) => !numeric.includes(i));
  const program = heading ? (found.program ?? null) : (numeric.at(-1) ?? null);
  const numbers = program === null ? [] : body.map((row) => Number(row[program]));
  return {
    name: found.name ?? words.at(-1) ?? 0,
    folder: heading ? (found.folder ?? null) : words.length > 1 ? words[0] : null,
    also: found.also ?? null,
    msb: heading ? (found.msb ?? null) : numeric.length > 2 ? numeric[0] : null,
    lsb: heading ? (found.lsb ?? null) : numeric.length > 1 ? numeric[numeric.length - 2] : null,
    program,
    programsFrom: /from ?0/i.test(first[program ?? -1] ?? '') ? 0 : numbers.includes(0) ? 0 : 1,
    heading,
  };
}

/** Reads the names of a table by its columns. Without a program column the numbers count up, from the first line. */
export function readTable({ cells, columns }: Table): NamesRead {
  const rows: NameRow[] = [];
  const notUnderstood: NotUnderstood[] = [];
  let next = 0;
  cells.forEach((cell, i) => {
    if (columns.heading && i === 0) return;
    const text = cell.join(' ').trim();
    const leave = (why: string): void => void notUnderstood.push({ line: i + 1, text: text.slice(0, 120), why });
    const name = tidyName(cell[columns.name] ?? '');
    if (name === '') return leave('it has no name');
    const number = (column: number | null): number | null | undefined => {
      if (column === null || (cell[column] ?? '').trim() === '') return null;
      const value = Number(cell[column]);
      return Number.isInteger(value) ? value : undefined;
    };
    const [msb, lsb] = [number(columns.msb), number(columns.lsb)];
    const typed = number(columns.program);
    const also = columns.also === null ? [] : parseAlso(cell[columns.also] ?? '');
    if (also === null) return leave('what it also sends is not understood');
    // With a column of programs and messages of its own, an empty cell is a name that sends no program.
    if (typed === null && columns.program !== null && also.length > 0)
      return void rows.push({
        name,
        folder: columns.folder === null ? '' : tidyName(cell[columns.folder] ?? ''),
        msb: null,
        lsb: null,
        program: null,
        also,
      });
    const program = typed === undefined ? NaN : typed === null ? next : typed - columns.programsFrom;
    if (!isSevenBit(program))
      return leave(`its program is not ${columns.programsFrom} to ${127 + columns.programsFrom}`);
    if (
      msb === undefined ||
      lsb === undefined ||
      (msb !== null && !isSevenBit(msb)) ||
      (lsb !== null && !isSevenBit(lsb))
    )
      return leave('its bank is not 0 to 127');
    if (rows.length >= MOST_NAMES) return leave(`more than ${MOST_NAMES} names`);
    next = program + 1;
    rows.push({
      name,
      folder: columns.folder === null ? '' : tidyName(cell[columns.folder] ?? ''),
      msb,
      lsb,
      program,
      ...(also.length > 0 ? { also } : {}),
    });
  });
  return { rows, notUnderstood };
}

/** Writes a name list as comma separated values (RFC 4180), programs as on the wire. */
export const writeNamesCsv = (rows: readonly NameRow[]): string =>
  `${Papa.unparse({ fields: ['folder', 'bank MSB', 'bank LSB', 'program from 0', 'name', 'also'], data: rows.map((row) => [row.folder, row.msb ?? '', row.lsb ?? '', row.program ?? '', row.name, alsoText(row.also ?? [])]) })}\r\n`;
