import { z } from 'zod';
import { MOST_NAMES, isSevenBit, tidyName, type NameRow, type NamesRead, type NotUnderstood } from './nameRows';

/** How the lines of a pasted list are to be read. */
export const PastedReading = z.object({
  /** Where the number stands: before the name, behind it, or nowhere (then it counts up). */
  number: z.enum(['before', 'behind', 'none']),
  /** Whether the numbers count from 0 or from 1. */
  programsFrom: z.union([z.literal(0), z.literal(1)]),
  /**
   * What stands before the number, as “A” in “A01” or “2” in “2-013”: nothing, a bank as a letter, or a bank as a
   * number.
   */
  bank: z.enum(['none', 'letter', 'number']),
  /** Which bank byte the bank goes to. */
  bankByte: z.enum(['msb', 'lsb']),
  /** Lines without a number are headings of folders. */
  headings: z.boolean(),
});
export type PastedReading = z.infer<typeof PastedReading>;

const BEFORE = /^\s*(?:([A-Za-z])|(\d{1,3})\s*[-/.:])?\s*(\d{1,3})\s*[.):\-–\t ]*\s*(\S.*)$/;
const BEHIND = /^(.*\S)\s*[\t :.\-–(]+\s*(?:([A-Za-z])|(\d{1,3})\s*[-/.:])?\s*(\d{1,3})\)?\s*$/;

/** A line that is longer is no name; the patterns above would take long over it. */
const LONGEST_LINE = 400;
/** Blanks in a row say no more than a tab does. */
const linesOf = (text: string): string[] =>
  text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((line) => line.trim().replace(/[ \t\u00a0]{2,}/g, '\t'));

interface Parts {
  name: string;
  number: number | null;
  letter: string | null;
  bank: number | null;
}

function partsOf(line: string, reading: Pick<PastedReading, 'number' | 'bank'>): Parts | null {
  if (reading.number === 'none') return { name: line, number: null, letter: null, bank: null };
  const match = (reading.number === 'before' ? BEFORE : BEHIND).exec(line);
  if (!match) return null;
  const [letter, bank, number, name] =
    reading.number === 'before' ? [match[1], match[2], match[3], match[4]] : [match[2], match[3], match[4], match[1]];
  if ((reading.bank === 'letter') !== (letter !== undefined) && letter !== undefined) return null;
  return {
    name,
    number: Number(number),
    letter: letter?.toUpperCase() ?? null,
    bank: bank === undefined ? null : Number(bank),
  };
}

/** The likeliest reading of a pasted list. */
export function guessPasted(text: string): PastedReading {
  const lines = linesOf(text).filter((line) => line !== '' && line.length <= LONGEST_LINE);
  const share = (pattern: RegExp): number =>
    lines.filter((line) => pattern.test(line)).length / Math.max(1, lines.length);
  const number = share(BEFORE) >= 0.5 ? 'before' : share(BEHIND) >= 0.5 ? 'behind' : 'none';
  const parts =
    number === 'none'
      ? []
      : lines.flatMap((line) => {
          const match = (number === 'before' ? BEFORE : BEHIND).exec(line);
          if (!match) return [];
          return [
            number === 'before'
              ? { letter: match[1], bank: match[2], number: Number(match[3]) }
              : { letter: match[2], bank: match[3], number: Number(match[4]) },
          ];
        });
  const most = (pick: (part: (typeof parts)[number]) => unknown): boolean =>
    parts.filter((part) => pick(part) !== undefined).length > parts.length / 2;
  return {
    number,
    programsFrom: parts.some((part) => part.number === 0) || number === 'none' ? 0 : 1,
    bank: most((part) => part.letter) ? 'letter' : most((part) => part.bank) ? 'number' : 'none',
    bankByte: 'lsb',
    headings: number !== 'none' && parts.length < lines.length,
  };
}

/**
 * Reads a pasted list: which part of a line is bank, number and name is the reading's to say. What was not understood
 * is told line by line.
 */
export function readPasted(text: string, reading: PastedReading): NamesRead {
  const rows: NameRow[] = [];
  const notUnderstood: NotUnderstood[] = [];
  let folder = '';
  let next = 0;
  linesOf(text).forEach((line, i) => {
    if (line.trim() === '') return;
    const leave = (why: string): void => void notUnderstood.push({ line: i + 1, text: line.trim().slice(0, 120), why });
    if (line.length > LONGEST_LINE) return leave('it is too long for a name');
    const parts = partsOf(line, reading);
    if (parts === null && reading.headings) {
      folder = tidyName(line.replace(/[:\-–=*#]+\s*$/, '').replace(/^[-–=*#\s]+/, ''));
      return;
    }
    if (parts === null) return leave('there is no number where one should be');
    const read = rows.length >= MOST_NAMES ? `more than ${MOST_NAMES} names` : readParts(parts, reading, next);
    if (typeof read === 'string') return leave(read);
    rows.push({ ...read, folder });
    next = read.program + 1;
  });
  return { rows, notUnderstood };
}

/** @param next the program of a line without a number. @returns why it is no name, in words, or the name */
function readParts(
  parts: Parts,
  reading: PastedReading,
  next: number,
): { name: string; msb: number | null; lsb: number | null; program: number } | string {
  const { programsFrom, bankByte } = reading;
  const name = tidyName(parts.name);
  if (name === '') return 'it has no name';
  const program = parts.number === null ? next : parts.number - programsFrom;
  if (!isSevenBit(program)) return `its number is not ${programsFrom} to ${127 + programsFrom}`;
  const bank = bankOf(parts, reading);
  if (bank !== null && !isSevenBit(bank)) return 'its bank is not one of 128';
  return { name, msb: bankByte === 'msb' ? bank : null, lsb: bankByte === 'lsb' ? bank : null, program };
}

/** Banks are letters from A, or numbers that count as the programs do. */
function bankOf({ letter, bank }: Parts, reading: PastedReading): number | null {
  if (reading.bank === 'letter' && letter !== null) return letter.charCodeAt(0) - 65;
  return reading.bank === 'number' && bank !== null ? bank - reading.programsFrom : null;
}
