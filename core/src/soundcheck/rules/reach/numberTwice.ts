import { addressFrom, addressNumber, freeBehind, numberText, programConflicts } from '../../../programs';
import type { ProgramLine, Setlist } from '../../../show';
import type { Mend } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';
import { targetNames } from './targetNames';

/**
 * Gives lines numbers that nothing has, each behind where it stood; undefined: there is none left.
 * @param isTaken numbers that cannot be had though no line has them
 */
export function movedOn(
  { id, programs, programsFrom }: Setlist,
  lines: readonly ProgramLine[],
  isTaken: (line: ProgramLine) => boolean = () => false,
): Mend | undefined {
  let next: ProgramLine[] = programs;
  const given: ProgramLine[] = [];
  for (const line of lines) {
    let free = freeBehind(addressNumber(line), next);
    while (free !== null && isTaken({ ...line, ...addressFrom(free) })) free = freeBehind(free, next);
    if (free === null) return undefined;
    const moved = { ...line, ...addressFrom(free) };
    given.push(moved);
    next = next.map((one) => (one === line ? moved : one));
  }
  const numbers = given.map((line) => numberText(line, programsFrom)).join(', ');
  return {
    label: `give ${lines.length === 1 ? 'it' : 'the later ones'} number ${numbers}`,
    steps: [{ kind: 'setlists', id, at: ['programs'], was: programs, now: next }],
  };
}

/** Each number recalls one thing. */
export const numberTwice: EveningRule = {
  id: 'number-twice',
  group: 'reach',
  sure: 'no number stands twice',
  per: 'evening',
  counts: counts.numbers,
  find({ setlist, byId }) {
    const nameOf = targetNames(byId);
    return programConflicts(setlist.programs).map((lines) => ({
      severity: 'willFail',
      cause: lines.map((line) => `${addressNumber(line)} ${JSON.stringify(line.target)}`).join(' '),
      place: onPage(setlist.name, 'numbers'),
      message: `program ${numberText(lines[0], setlist.programsFrom)} (counting from ${setlist.programsFrom}) recalls ${lines.map(nameOf).join(' and ')}`,
      why: 'The foot would get the first of them, whichever was meant.',
      mend: movedOn(setlist, lines.slice(1)),
    }));
  },
};
