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

/** “12”, or “2/0/12” with a bank: as the player counts. */
export function programText(line: Pick<ProgramLine, 'msb' | 'lsb' | 'program'>, programsFrom: 0 | 1): string {
  const shown = String(line.program + programsFrom);
  return line.msb === 0 && line.lsb === 0 ? shown : `${line.msb}/${line.lsb}/${shown}`;
}
