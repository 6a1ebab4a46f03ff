import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';
import { directInputs, reachedBy } from './numberUnreachable';

/** Hands or feet can go on. */
export const noStep: EveningRule = {
  id: 'no-step',
  group: 'reach',
  sure: 'something goes to the next patch',
  per: 'evening',
  counts: counts.roles,
  find({ setlist, around, roles }) {
    if (setlist.entries.length === 0) return [];
    const steps = roles.some(
      ({ role, uses }) => around.played.has(role) && uses.some(({ binding }) => binding.action.kind === 'nextStep'),
    );
    if (steps || around.inputs.some(({ programs }) => programs.kind === 'counter')) return [];
    if (directInputs(around.inputs).some((input) => reachedBy(input, setlist.programs, around).size > 0)) return [];
    return [
      {
        severity: 'mayFail',
        cause: around.gear.id,
        place: onPage(setlist.name, 'gear'),
        message: `nothing of ${around.gear.name} goes to the next patch`,
        why: 'Only the computer’s own keys do: give “next patch” a control on Gear.',
      },
    ];
  },
};
