import { addressNumber, numberText } from '../../../programs';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';
import { targetNames } from './targetNames';

/** Numbers recall what is played tonight. */
export const numberLeadsNowhere: EveningRule = {
  id: 'number-leads-nowhere',
  group: 'reach',
  sure: 'every number recalls something of tonight',
  per: 'evening',
  counts: counts.numbers,
  find({ setlist, byId }) {
    const nameOf = targetNames(byId);
    const played = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
    const idle = setlist.programs.filter((line) => !played.has(line.target.songId));
    return [...new Set(idle.map(({ target }) => target.songId))].map((songId): Found => {
      const lines = idle.filter(({ target }) => target.songId === songId);
      const numbers = lines.map((line) => numberText(line, setlist.programsFrom)).join(', ');
      return {
        severity: 'mayFail',
        cause: `${songId} ${lines.map(addressNumber).join(' ')}`.slice(0, 500),
        place: lines.map((line) => onPage(`${numberText(line, setlist.programsFrom)}: ${nameOf(line)}`, 'numbers')),
        message: `program ${numbers} ${lines.length === 1 ? 'leads' : 'lead'} to a song that is not in the setlist`,
        why: 'The number does nothing tonight.',
        mend: {
          label: lines.length === 1 ? 'take the number away' : `take the ${lines.length} numbers away`,
          steps: [
            {
              kind: 'setlists',
              id: setlist.id,
              at: ['programs'],
              was: setlist.programs,
              now: setlist.programs.filter((line) => !lines.includes(line)),
            },
          ],
        },
      };
    });
  },
};
