import { addressNumber, numberText } from '../../../programs';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** So many calls that went nowhere tell a pattern. */
const ENOUGH = 2;
/** So many entries of a name list do. */
const ENOUGH_NAMES = 8;

/** Neither side counts from 0 where the other counts from 1. */
export const offByOne: EveningRule = {
  id: 'off-by-one',
  group: 'reach',
  sure: 'senders and receivers count from the same number',
  per: 'evening',
  counts: counts.ports,
  find: (tonight) => [...heardBeside(tonight), ...listsFromOne(tonight)],
};

/** Calls that came in, recalled nothing, and each lie one beside a number: the highest is one too high, or the lowest too low. */
function heardBeside({ setlist, around }: Parameters<EveningRule['find']>[0]): Found[] {
  const numbers = new Set(setlist.programs.map(addressNumber));
  return [...new Set(around.here.unanswered.map(({ port }) => port))].flatMap((port): Found[] => {
    const heard = [
      ...new Map(
        around.here.unanswered
          // What has a number by now is answered.
          .filter((one) => one.port === port && !numbers.has(addressNumber(one)))
          .map((one) => [addressNumber(one), one]),
      ).values(),
    ];
    const by = [1, -1].find((away) => heard.every((one) => numbers.has(addressNumber(one) + away)));
    if (by === undefined) return [];
    // Where the map has no gaps, of all calls that are one off only the very first recalls nothing.
    const isBelowAll = heard.some((one) => addressNumber(one) === 0) && !numbers.has(0) && numbers.has(1);
    if (heard.length < ENOUGH && !isBelowAll) return [];
    const words = heard.map((one) => numberText(one, setlist.programsFrom)).join(', ');
    return [
      {
        severity: 'mayFail',
        cause: `${port} ${by} ${words}`,
        place: onPage(around.gear.name, 'numbers'),
        message: `${port} called ${words}, and nothing came: the numbers one ${by > 0 ? 'above' : 'below'} are there`,
        why: 'It seems to count from 0 where the setlist counts from 1, or the other way round: everything is one off.',
      },
    ];
  });
}

/** Name lists whose programs run from 1 without 0: written off a panel that counts from 1. */
function listsFromOne({ songs, around, setlist }: Parameters<EveningRule['find']>[0]): Found[] {
  const used = new Set(
    [...songs.flatMap(({ song }) => song.layers), ...setlist.layers].map(({ sound }) => sound.instrumentId as string),
  );
  return [...around.instruments.values()].flatMap((instrument): Found[] => {
    if (instrument.kind !== 'outboard' || instrument.counted !== null || !used.has(instrument.id)) return [];
    const programs = new Set(instrument.names.flatMap(({ program }) => program ?? []));
    const isFromOne =
      programs.size >= ENOUGH_NAMES &&
      !programs.has(0) &&
      Math.min(...programs) === 1 &&
      Math.max(...programs) === programs.size;
    if (!isFromOne) return [];
    return [
      {
        severity: 'mayFail',
        cause: `${instrument.id} ${programs.size}`,
        place: onPage(instrument.name, 'sounds'),
        message: `the name list of ${instrument.name} begins with program 1 on the wire, and has no 0`,
        why: 'If it was typed off a panel that counts from 1, every preset comes one too late.',
        mend: {
          label: 'count the whole list from 0',
          steps: [
            {
              kind: 'instruments',
              id: instrument.id,
              at: ['names'],
              was: instrument.names,
              now: instrument.names.map((entry) => ({
                ...entry,
                program: entry.program === null ? null : entry.program - 1,
              })),
            },
          ],
        },
      },
    ];
  });
}
