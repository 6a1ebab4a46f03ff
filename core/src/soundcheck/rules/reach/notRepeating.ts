import { sourceInWords } from '../../../controls';
import type { PlainAction } from '../../../show';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { inSong, onPage } from '../../tonight';
import { directInputs } from './numberUnreachable';

/** What is pressed again and again. */
const AGAIN: ReadonlySet<string> = new Set<PlainAction>([
  'nextStep',
  'previousStep',
  'nextSong',
  'previousSong',
  'cursorNext',
  'cursorPrevious',
  'tapTempo',
  'hold',
  'play',
  'transposeUp',
  'transposeDown',
]);

/** Pedals that send a program only when it is another one are not pressed twice. */
export const notRepeating: EveningRule = {
  id: 'not-repeating',
  group: 'reach',
  sure: 'no pedal that does not repeat itself has to send the same program twice',
  per: 'evening',
  counts: counts.steps,
  find({ around: { gear, inputs }, roles, steps, setlist }) {
    const quiet = inputs.filter(({ buttons }) => buttons?.repeats === false);
    const pressedAgain = gear.roles.flatMap(({ role, source }): Found[] => {
      if (source.kind !== 'program' || !quiet.some(({ alias }) => alias === source.port)) return [];
      const uses = roles.find((one) => one.role === role)?.uses ?? [];
      if (!uses.some(({ binding }) => AGAIN.has(binding.action.kind))) return [];
      return [
        {
          severity: 'mayFail',
          cause: `${role} ${JSON.stringify(source)}`,
          place: onPage(gear.name, 'gear'),
          message: `“${role}” is ${sourceInWords(source, setlist)} of ${source.port}, which does not send it twice`,
          why: 'The second press in a row does nothing: give it a controller, or a second program in turn.',
        },
      ];
    });
    const calling = directInputs(quiet);
    const others = directInputs(inputs).length > calling.length;
    if (calling.length === 0 || others) return pressedAgain;
    const neighbours = steps.flatMap(({ song, patch }, i): Found[] => {
      const next = steps[i + 1];
      if (next === undefined || next.song !== song || next.patch !== patch) return [];
      return [
        {
          severity: 'mayFail',
          cause: `${song.id} ${patch.id}`,
          place: { ...inSong(song, patch), page: 'numbers' },
          message: `${song.name}: ${patch.name} comes twice in a row, and ${calling[0].alias} does not send its number twice`,
          why: 'The second time has to be reached by a step.',
        },
      ];
    });
    return [...pressedAgain, ...neighbours];
  },
};
