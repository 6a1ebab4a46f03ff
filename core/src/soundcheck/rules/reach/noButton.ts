import { controllerSheets } from '../../../programs';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';
import { directInputs } from './numberUnreachable';

/** The pedal has a button, on one of its pages, for every number. */
export const noButton: EveningRule = {
  id: 'no-button',
  group: 'reach',
  sure: 'every number has a button on the pedals that call them',
  per: 'evening',
  counts: counts.numbers,
  find({ setlist, byId, around }) {
    const direct = directInputs(around.inputs);
    // What has no buttons of its own (a computer, another player) sends any number.
    if (direct.some(({ buttons }) => buttons === null)) return [];
    const least = Math.min(...direct.map(({ buttons }) => buttons!.count * buttons!.pages));
    if (setlist.programs.length <= least) return [];
    return controllerSheets(setlist, new Map(Object.entries(byId)), around.gear)
      .filter(({ left, port }) => left > 0 && direct.some(({ alias }) => alias === port.alias))
      .map(({ left, port }) => ({
        severity: 'mayFail' as const,
        cause: `${port.alias} ${left} ${port.buttons?.count} ${port.buttons?.pages}`,
        place: onPage(around.gear.name, 'gear'),
        message: `${port.alias} has no button for ${left} ${left === 1 ? 'number' : 'numbers'}`,
        why: 'They are on no page of it: what they recall is reached by steps only.',
      }));
  },
};
