import type { Numbering, ProgramLine, RecallTarget, Setlist, Song } from '../show';
import { addressFrom, addressNumber, targetKey, targetsInOrder } from './programMap';

/** What numbering anew would change of one target; null: no number. */
export interface NumberChange {
  target: RecallTarget;
  before: number | null;
  after: number | null;
}

/** Numbers given anew, before they are taken. */
export interface NumberingPlan {
  lines: ProgramLine[];
  changes: NumberChange[];
}

const wholeMap = (line: ProgramLine): boolean => line.port === null && line.channel === null;

/**
 * Works out a numbering of the whole setlist, and what it changes. Pinned lines keep their address and are numbered
 * around.
 * In order: one after the other. In blocks: each song starts at the next multiple of the block's size, so that a song
 * can grow without
 * moving the others. By hand: only what has no number gets one, behind the highest there is. A song's own line goes
 * with its first patch.
 */
export function planNumbering(setlist: Setlist, songs: ReadonlyMap<string, Song>, numbering: Numbering): NumberingPlan {
  const isKept = (line: ProgramLine): boolean => line.pinned || !wholeMap(line);
  const pinned = setlist.programs.filter(isKept);
  const own = setlist.programs.filter((line) => !isKept(line));
  const byTarget = (lines: readonly ProgramLine[]): Map<string, ProgramLine> =>
    new Map([...lines].reverse().map((line) => [targetKey(line.target), line]));
  const [pinnedByTarget, ownByTarget] = [byTarget(pinned), byTarget(own)];
  const taken = new Set([...pinned, ...(numbering.kind === 'byHand' ? own : [])].map(addressNumber));
  let next = numbering.kind === 'byHand' ? Math.max(-1, ...setlist.programs.map(addressNumber)) + 1 : numbering.startAt;
  let songId: string | null = null;
  const numbered = targetsInOrder(setlist, songs).map((target): ProgramLine => {
    if (numbering.kind === 'blocks' && target.songId !== songId && songId !== null)
      next = numbering.startAt + Math.ceil((next - numbering.startAt) / numbering.size) * numbering.size;
    songId = target.songId;
    const kept =
      pinnedByTarget.get(targetKey(target)) ??
      (numbering.kind === 'byHand' ? ownByTarget.get(targetKey(target)) : undefined);
    if (kept) return kept;
    while (taken.has(next)) next++;
    return { target, ...addressFrom(next++), pinned: false, port: null, channel: null };
  });
  const songLines = numbering.kind === 'byHand' ? own.filter((line) => line.target.patchId === null) : [];
  const inOrder = new Set(numbered);
  const lines = [...numbered, ...[...pinned, ...songLines].filter((line) => !inOrder.has(line))];
  return { lines, changes: changesBetween(setlist.programs, lines) };
}

function changesBetween(before: readonly ProgramLine[], after: readonly ProgramLine[]): NumberChange[] {
  const targets = new Map([...after, ...before].map(({ target }) => [targetKey(target), target]));
  const numbers = (lines: readonly ProgramLine[]): Map<string, number> =>
    new Map([...lines].reverse().map((line) => [targetKey(line.target), addressNumber(line)]));
  const [was, is] = [numbers(before), numbers(after)];
  return [...targets]
    .map(([at, target]) => ({ target, before: was.get(at) ?? null, after: is.get(at) ?? null }))
    .filter((change) => change.before !== change.after);
}

/** Patches and blends of the setlist that no number recalls. */
export const withoutNumber = (setlist: Setlist, songs: ReadonlyMap<string, Song>): RecallTarget[] =>
  unnumbered(setlist, targetsInOrder(setlist, songs));

function unnumbered(setlist: Setlist, targets: readonly RecallTarget[]): RecallTarget[] {
  const numbered = new Set(setlist.programs.map((line) => targetKey(line.target)));
  return targets.filter((target) => !numbered.has(targetKey(target)));
}
