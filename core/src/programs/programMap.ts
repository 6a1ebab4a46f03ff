import type { ProgramLine, RecallTarget, Setlist, Song } from '../show';

/** Wire numbers of a bank are 0–127; past them numbering goes on in the next bank LSB, then MSB. */
const PER_BANK = 128;

/** Tells a target from every other. */
export const targetKey = ({ songId, patchId, blendId }: RecallTarget): string =>
  `${songId} ${patchId ?? ''} ${blendId ?? ''}`;

/** Whether two numbers recall the same. */
export const sameTarget = (a: RecallTarget, b: RecallTarget): boolean =>
  a.songId === b.songId && a.patchId === b.patchId && a.blendId === b.blendId;

/** The address as one number, MSB first: 0–2 097 151. */
export const addressNumber = (line: Pick<ProgramLine, 'msb' | 'lsb' | 'program'>): number =>
  (line.msb * PER_BANK + line.lsb) * PER_BANK + line.program;

/** Bank and program of an address: MSB × 16,384 + LSB × 128 + program. */
export function addressFrom(number: number): Pick<ProgramLine, 'msb' | 'lsb' | 'program'> {
  return {
    msb: Math.floor(number / (PER_BANK * PER_BANK)) % PER_BANK,
    lsb: Math.floor(number / PER_BANK) % PER_BANK,
    program: number % PER_BANK,
  };
}

/** Every patch and blend of the setlist once, in playing order. */
export function targetsInOrder(setlist: Setlist, songs: ReadonlyMap<string, Song>): RecallTarget[] {
  const targets: RecallTarget[] = [];
  const seen = new Set<string>();
  for (const entry of setlist.entries) {
    if (entry.kind !== 'song' || seen.has(entry.songId)) continue;
    seen.add(entry.songId);
    for (const patch of songs.get(entry.songId)?.patches ?? []) {
      targets.push({ songId: entry.songId, patchId: patch.id, blendId: null });
      for (const blend of patch.blends) targets.push({ songId: entry.songId, patchId: patch.id, blendId: blend.id });
    }
  }
  return targets;
}

/** The patch or blend of a song that an address recalls by a setlist's numbers; null: none of that song. */
export function recallOfNumber(
  setlist: Pick<Setlist, 'programs'> | null,
  songId: string,
  address: Pick<ProgramLine, 'msb' | 'lsb' | 'program'>,
): { patchId: string; blendId: string | null } | null {
  const target = setlist?.programs.find((line) => addressNumber(line) === addressNumber(address))?.target;
  return target?.songId === songId && target.patchId !== null
    ? { patchId: target.patchId, blendId: target.blendId }
    : null;
}

/** Groups of lines that the same program change would reach. */
export function programConflicts(programs: readonly ProgramLine[]): ProgramLine[][] {
  const byAddress = new Map<number, ProgramLine[]>();
  for (const line of programs) {
    const address = addressNumber(line);
    byAddress.set(address, [...(byAddress.get(address) ?? []), line]);
  }
  return [...byAddress.values()]
    .map((lines) => lines.filter((line) => lines.some((other) => other !== line && overlaps(line, other))))
    .filter((lines) => lines.length > 1);
}

const overlaps = (a: ProgramLine, b: ProgramLine): boolean => a.port === b.port && a.channel === b.channel;

/** Which bank it is, from 0: MSB × 128 + LSB. */
export const bankNumber = ({ msb, lsb }: Pick<ProgramLine, 'msb' | 'lsb'>): number => msb * PER_BANK + lsb;

/** As a player reads a number of the program map: “12”, in another bank than the first “B2 · 12”; both count alike. */
export function numberText(line: Pick<ProgramLine, 'msb' | 'lsb' | 'program'>, programsFrom: 0 | 1): string {
  const shown = String(line.program + programsFrom);
  const bank = bankNumber(line);
  return bank === 0 ? shown : `B${bank + programsFrom} · ${shown}`;
}

/**
 * Reads a number as it is typed: “12” stays in the bank it had, “B2 · 12” (or “b2 12”) names one, “1/12” and “0/1/12”
 * give LSB, or MSB and LSB, as they go over the wire.
 * @returns the address number; null: it is none of these, or out of range
 */
export function readNumber(text: string, programsFrom: 0 | 1, had: Pick<ProgramLine, 'msb' | 'lsb'>): number | null {
  const named = /^\s*b\s*(\d{1,5})\s*[·.,:/ ]\s*(\d{1,3})\s*$/i.exec(text);
  const wire = /^\s*(?:(?:(\d{1,3})\s*\/\s*)?(\d{1,3})\s*\/\s*)?(\d{1,3})\s*$/.exec(text);
  if (!named && !wire) return null;
  const program = Number(named ? named[2] : wire![3]) - programsFrom;
  const bank = named
    ? Number(named[1]) - programsFrom
    : wire![2] === undefined
      ? bankNumber(had)
      : Number(wire![1] ?? 0) * PER_BANK + Number(wire![2]);
  const isThere = [wire?.[1], wire?.[2]].every((part) => part === undefined || Number(part) < PER_BANK);
  if (!isThere || program < 0 || program >= PER_BANK || bank < 0 || bank >= PER_BANK * PER_BANK) return null;
  return bank * PER_BANK + program;
}

/** The first address that nothing has, behind the one of a neighbour; null: none is left there. */
export function freeBehind(address: number, programs: readonly ProgramLine[]): number | null {
  const taken = new Set(programs.map(addressNumber));
  let free = address + 1;
  while (taken.has(free)) free++;
  return free < PER_BANK * PER_BANK * PER_BANK ? free : null;
}

/** “12”, or “2/0/12” with a bank, MSB and LSB as on the wire: for addresses of instruments. */
export function programText(line: Pick<ProgramLine, 'msb' | 'lsb' | 'program'>, programsFrom: 0 | 1): string {
  const shown = String(line.program + programsFrom);
  return line.msb === 0 && line.lsb === 0 ? shown : `${line.msb}/${line.lsb}/${shown}`;
}
