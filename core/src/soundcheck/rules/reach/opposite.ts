import type { Action } from '../../../show';
import type { RoleInUse } from '../../../controls';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage, type Step } from '../../tonight';

const PAIRS: readonly (readonly [string, string])[] = [
  ['nextStep', 'previousStep'],
  ['nextSong', 'previousSong'],
  ['nextStep', 'previousSong'],
  ['nextSong', 'previousStep'],
  ['cursorNext', 'cursorPrevious'],
  ['play', 'stop'],
  ['transposeUp', 'transposeDown'],
];
const STEPS: ReadonlySet<string> = new Set(['nextStep', 'previousStep', 'firstStep', 'patch', 'blend']);
/** What is bad to have where a step was meant. */
const AGAINST_STEPS: ReadonlySet<string> = new Set([
  'panic',
  'play',
  'stop',
  'song',
  'nextSong',
  'previousSong',
  'firstSong',
]);

/** Whether two actions of one control are contrary to each other. */
function areContrary(a: Action, b: Action): boolean {
  if (a.kind === 'presetStep' && b.kind === 'presetStep') return a.layerId === b.layerId && a.by !== b.by;
  return (
    PAIRS.some(([one, other]) => (a.kind === one && b.kind === other) || (a.kind === other && b.kind === one)) ||
    (STEPS.has(a.kind) && AGAINST_STEPS.has(b.kind)) ||
    (STEPS.has(b.kind) && AGAINST_STEPS.has(a.kind))
  );
}

/** What a role does where the evening really gets to, and the first step at which it does. */
function actionsOf({ uses }: RoleInUse, steps: readonly Step[]): { action: Action; step: Step }[] {
  const wide = uses.find(({ scope }) => scope === 'setlist');
  const byPlace = new Map(
    uses.flatMap(({ songId, patchId, binding }) =>
      songId === null ? [] : [[`${songId} ${patchId ?? ''}`, binding.action] as const],
    ),
  );
  const found = new Map<string, { action: Action; step: Step }>();
  for (const step of steps) {
    const action =
      byPlace.get(`${step.song.id} ${step.patch.id}`) ?? byPlace.get(`${step.song.id} `) ?? wide?.binding.action;
    if (action && !found.has(JSON.stringify(action))) found.set(JSON.stringify(action), { action, step });
  }
  return [...found.values()];
}

/** One control does not do a thing here and its contrary there. */
export const opposite: EveningRule = {
  id: 'opposite',
  group: 'reach',
  sure: 'no control does a thing in one place and its contrary in another',
  per: 'evening',
  counts: counts.roles,
  find: ({ roles, around, steps }) =>
    roles
      .filter(({ role, uses }) => around.played.has(role) && uses.length > 1)
      .flatMap((role): Found[] => {
        const actions = actionsOf(role, steps);
        for (const [i, a] of actions.entries()) {
          const b = actions.slice(i + 1).find((other) => areContrary(a.action, other.action));
          if (b === undefined) continue;
          const words = ({ action, step }: typeof a): string =>
            `${ACTION_WORDS[action.kind] ?? action.kind} in ${step.song.name}: ${step.patch.name}`;
          return [
            {
              severity: 'mayFail',
              cause: `${role.role} ${JSON.stringify(a.action)} ${JSON.stringify(b.action)}`,
              place: onPage(around.gear.name, 'gear'),
              message: `“${role.role}” is ${words(a)}, and ${words(b)}`,
              why: 'One control, and the foot does the contrary of what it did a patch before.',
            },
          ];
        }
        return [];
      }),
};

const ACTION_WORDS: Readonly<Record<string, string>> = {
  nextStep: '“next patch”',
  previousStep: '“previous patch”',
  firstStep: '“first patch”',
  nextSong: '“next song”',
  previousSong: '“previous song”',
  firstSong: '“first song”',
  cursorNext: '“cursor on”',
  cursorPrevious: '“cursor back”',
  play: '“play”',
  stop: '“stop”',
  panic: '“everything off”',
  patch: 'a patch by its number',
  blend: 'a blend',
  song: 'another song',
  presetStep: 'a step through presets',
  transposeUp: '“up”',
  transposeDown: '“down”',
};
