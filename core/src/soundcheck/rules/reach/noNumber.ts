import { targetKey, withoutNumber } from '../../../programs';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';
import { directInputs } from './numberUnreachable';

/** Where tonight's gear calls by number, everything has one. */
export const noNumber: EveningRule = {
  id: 'no-number',
  group: 'reach',
  sure: 'every patch has a number, where the gear calls by number',
  per: 'evening',
  counts: counts.patches,
  find({ setlist, byId, around }) {
    const missing = withoutNumber(setlist, new Map(Object.entries(byId)));
    if (missing.length === 0 || directInputs(around.inputs).length === 0) return [];
    return [
      {
        severity: 'toKnow',
        cause: missing.map(targetKey).join(' ').slice(0, 500),
        place: onPage(setlist.name, 'numbers'),
        message:
          setlist.programs.length === 0
            ? 'no patch has a number yet'
            : `${missing.length} ${missing.length === 1 ? 'patch or blend has' : 'patches and blends have'} no number`,
        why: 'They are reached by steps only, not by a program change.',
      },
    ];
  },
};
