import { fail, ok, type Result } from '../../result';
import { Cursor } from './cursor';
import { withPadding } from './padding';

/** What is wrong with a SoundFont 2 bank. */
export type BankErrorCode = 'not-a-bank' | 'cut-short' | 'broken' | 'empty';

/** Why a bank cannot be used. */
export interface BankError {
  code: BankErrorCode;
  message: string;
}

/** What a bank file contains, as far as it can be told without its samples. */
export interface BankContents {
  /** By the bank's own name; empty where it has none. */
  name: string;
  /** `bank` 128 is the drums. In the order of bank and program. */
  presets: { name: string; bank: number; program: number }[];
  samples: number;
  /** What is odd in it and is put right when it is played. */
  warnings: string[];
}

/** Records of the preset data list (SoundFont 2.04, section 7), with the size of one. */
const RECORDS = { phdr: 38, pbag: 4, pmod: 10, pgen: 4, inst: 22, ibag: 4, imod: 10, igen: 4, shdr: 46 } as const;
type RecordName = keyof typeof RECORDS;
const GENERATOR_INSTRUMENT = 41;
const GENERATOR_SAMPLE = 53;
const COMPRESSED = 0x10;
const ROM = 0x8000;
const MOST_RECORDS = 2_000_000;

interface Chunk {
  at: number;
  bytes: number;
}

/** A sentence about a file whose first twelve bytes cannot be a bank's of this length, or null. */
export function checkBankHead(head: Uint8Array, bytes: number): string | null {
  const cursor = new Cursor(head);
  if (cursor.text(0, 4) !== 'RIFF' || cursor.text(8, 4) !== 'sfbk') return 'This is not a SoundFont 2 bank.';
  const says = (cursor.u32(4) ?? 0) + 8;
  return says > bytes ? `The bank is cut short: it says that it has ${says} bytes, and ${bytes} are there.` : null;
}

/**
 * Checks the structure of a SoundFont 2 bank (.sf2, or .sf3 with compressed samples): every size, index and range that
 * a player of it
 * relies on. Loops and ranges of single samples that lie are told as warnings; anything else that lies is refused.
 * Parts of odd length are read with and without their byte of padding.
 */
export function checkBank(file: Uint8Array): Result<BankContents, BankError> {
  const bytes = withPadding(file);
  const cursor = new Cursor(bytes);
  const head = checkBankHead(bytes.subarray(0, 12), bytes.length);
  if (head !== null) return fail({ code: head.includes('cut short') ? 'cut-short' : 'not-a-bank', message: head });
  const lists = new Map<string, Chunk>();
  const end = (cursor.u32(4) ?? 0) + 8;
  for (const chunk of chunksIn(cursor, 12, end)) {
    if (chunk.end > end)
      return fail({ code: 'cut-short', message: `The part “${chunk.id}” says that it is longer than the bank.` });
    if (chunk.id === 'LIST') lists.set(cursor.text(chunk.at, 4), { at: chunk.at + 4, bytes: chunk.bytes - 4 });
  }
  const sampleData = lists.get('sdta');
  const presetData = lists.get('pdta');
  if (!sampleData || !presetData) return fail({ code: 'broken', message: 'The bank has no samples or no presets.' });
  const samples = [...chunksIn(cursor, sampleData.at, sampleData.at + sampleData.bytes)].find(
    (chunk) => chunk.id === 'smpl',
  );
  if (samples && samples.end > sampleData.at + sampleData.bytes)
    return fail({ code: 'cut-short', message: 'The samples say that they are longer than the bank.' });
  const tables = new Map<string, Chunk>();
  for (const chunk of chunksIn(cursor, presetData.at, presetData.at + presetData.bytes)) {
    if (chunk.end > presetData.at + presetData.bytes)
      return fail({ code: 'cut-short', message: `The table “${chunk.id}” says that it is longer than the bank.` });
    tables.set(chunk.id, chunk);
  }
  const counts = countRecords(tables);
  if (!counts.ok) return counts;
  const tree = checkTree(cursor, tables, counts.value);
  if (tree !== null) return fail({ code: 'broken', message: tree });
  const presets = readPresets(cursor, tables.get('phdr')!, counts.value.phdr);
  if (presets.length === 0) return fail({ code: 'empty', message: 'The bank has no presets.' });
  const info = lists.get('INFO');
  const named = info
    ? [...chunksIn(cursor, info.at, info.at + info.bytes)].find((chunk) => chunk.id === 'INAM')
    : undefined;
  return ok({
    name: named ? tidy(cursor.text(named.at, Math.min(named.bytes, 120))) : '',
    presets,
    samples: counts.value.shdr - 1,
    warnings: checkSamples(cursor, tables.get('shdr')!, counts.value.shdr, samples?.bytes ?? 0),
  });
}

/** Control characters are no part of a name. */
const tidy = (text: string): string =>
  Array.from(text, (letter) => (letter.charCodeAt(0) < 32 || letter.charCodeAt(0) === 127 ? ' ' : letter))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();

/** The chunks from one place to another, as they say that they are; a header that does not fit ends them. */
function* chunksIn(cursor: Cursor, from: number, to: number): Generator<Chunk & { id: string; end: number }> {
  for (let at = from; at + 8 <= Math.min(to, cursor.length);) {
    const bytes = cursor.u32(at + 4) ?? 0;
    yield { id: cursor.text(at, 4), at: at + 8, bytes, end: at + 8 + bytes };
    at += 8 + bytes + (bytes & 1);
  }
}

type Counts = Record<RecordName, number>;

/** Records of each table, the terminal one included. */
function countRecords(tables: ReadonlyMap<string, Chunk>): Result<Counts, BankError> {
  const counts = {} as Counts;
  for (const [name, size] of Object.entries(RECORDS) as [RecordName, number][]) {
    const table = tables.get(name);
    if (!table) return fail({ code: 'broken', message: `The table “${name}” is not there.` });
    if (table.bytes % size !== 0)
      return fail({ code: 'broken', message: `The table “${name}” ends in the middle of an entry.` });
    counts[name] = table.bytes / size;
    if (counts[name] > MOST_RECORDS)
      return fail({ code: 'broken', message: `The table “${name}” is too long to be true.` });
  }
  for (const name of ['phdr', 'inst', 'shdr', 'pbag', 'ibag'] as const)
    if (counts[name] < 1) return fail({ code: 'broken', message: `The table “${name}” has no last entry.` });
  return ok(counts);
}

/**
 * Whether presets lead to bags, bags to generators, generators to instruments and samples that are there; a sentence
 * about the first that does not.
 */
function checkTree(cursor: Cursor, tables: ReadonlyMap<string, Chunk>, counts: Counts): string | null {
  const at = (name: RecordName, record: number): number => tables.get(name)!.at + record * RECORDS[name];
  const rising = (name: RecordName, offset: number, below: number, what: string): string | null => {
    let last = 0;
    for (let record = 0; record < counts[name]; record++) {
      const index = cursor.u16(at(name, record) + offset);
      if (index === null || index < last || index >= below)
        return `Entry ${record + 1} of “${name}” leads to a ${what} that is not there.`;
      last = index;
    }
    return null;
  };
  const names = (name: 'pgen' | 'igen', generator: number, below: number, what: string): string | null => {
    for (let record = 0; record < counts[name] - 1; record++) {
      if (cursor.u16(at(name, record)) === generator && (cursor.u16(at(name, record) + 2) ?? Infinity) >= below)
        return `Entry ${record + 1} of “${name}” plays a ${what} that is not there.`;
    }
    return null;
  };
  return (
    rising('phdr', 24, counts.pbag, 'zone') ??
    rising('pbag', 0, Math.max(1, counts.pgen), 'setting') ??
    rising('inst', 20, counts.ibag, 'zone') ??
    rising('ibag', 0, Math.max(1, counts.igen), 'setting') ??
    names('pgen', GENERATOR_INSTRUMENT, counts.inst - 1, 'instrument') ??
    names('igen', GENERATOR_SAMPLE, counts.shdr - 1, 'sample')
  );
}

function readPresets(cursor: Cursor, table: Chunk, count: number): BankContents['presets'] {
  const presets = Array.from({ length: count - 1 }, (_, i) => {
    const at = table.at + i * RECORDS.phdr;
    return {
      name: tidy(cursor.text(at, 20)) || `Preset ${i + 1}`,
      program: cursor.u16(at + 20) ?? 0,
      bank: cursor.u16(at + 22) ?? 0,
    };
  });
  return presets.filter(({ program }) => program <= 127).sort((a, b) => a.bank - b.bank || a.program - b.program);
}

/** Samples whose ends or loops lie. `dataBytes`: what there is of sample data. */
function checkSamples(cursor: Cursor, table: Chunk, count: number, dataBytes: number): string[] {
  const warnings: string[] = [];
  for (let i = 0; i < count - 1; i++) {
    const at = table.at + i * RECORDS.shdr;
    const name = tidy(cursor.text(at, 20)) || `sample ${i + 1}`;
    const [start, end, loopStart, loopEnd, rate] = [20, 24, 28, 32, 36].map((offset) => cursor.u32(at + offset) ?? 0);
    const type = cursor.u16(at + 44) ?? 0;
    if ((type & ROM) !== 0)
      warnings.push(`“${name}” is in the memory of some hardware, not in the file; it is silent.`);
    else if ((type & COMPRESSED) !== 0) {
      if (end <= start || end > dataBytes) warnings.push(`“${name}” ends outside of the file; it is silent.`);
    } else if (end <= start || end * 2 > dataBytes) warnings.push(`“${name}” ends outside of the file; it is silent.`);
    else if (loopEnd !== 0 && loopEnd > loopStart && (loopStart < start || loopEnd > end))
      warnings.push(`“${name}” loops outside of itself; it plays without a loop.`);
    if (rate === 0) warnings.push(`“${name}” has no sample rate; 44 100 Hz is taken.`);
  }
  return warnings;
}
