import { sourceConflicts, sourceInWords } from '../../../controls';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** No control plays two roles. */
export const controlTwice: EveningRule = {
  id: 'control-twice',
  group: 'reach',
  sure: 'no control plays two roles',
  per: 'evening',
  counts: counts.controls,
  find: ({ around: { gear }, setlist }) =>
    sourceConflicts(gear.roles).map(([first, second]) => ({
      severity: 'willFail',
      cause: `${first.role} ${second.role} ${JSON.stringify(second.source)}`,
      place: onPage(gear.name, 'gear'),
      message: `“${first.role}” and “${second.role}” have the same control: ${sourceInWords(second.source, { middleC: setlist.middleC, programsFrom: setlist.programsFrom })}`,
      why: `“${second.role}” does not get it.`,
      mend: {
        label: `leave it to “${first.role}”`,
        steps: [
          {
            kind: 'gearLists',
            id: gear.id,
            at: ['roles'],
            was: gear.roles,
            now: gear.roles.filter((role) => role !== second),
          },
        ],
      },
    })),
};
