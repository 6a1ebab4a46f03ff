import { sourceInWords } from '../../../controls';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage, type Tonight } from '../../tonight';

/** Controls send on a channel that their input listens to. */
export const controlChannel: EveningRule = {
  id: 'control-channel',
  group: 'reach',
  sure: 'controls and program changes come on channels that are listened to',
  per: 'evening',
  counts: counts.controls,
  find: (tonight) => [...unheardControls(tonight), ...unheardPrograms(tonight)],
};

function unheardControls({ around: { gear, inputs }, setlist }: Tonight): Found[] {
  return inputs.flatMap(({ alias, channels: heard }): Found[] => {
    const unheard = gear.roles.filter(
      ({ source }) =>
        source.kind !== 'computerKey' &&
        source.port === alias &&
        source.channel !== null &&
        heard?.includes(source.channel) === false,
    );
    if (heard === null || unheard.length === 0) return [];
    const missing = [...new Set(unheard.flatMap(({ source }) => ('channel' in source ? (source.channel ?? []) : [])))];
    return [
      {
        severity: 'willFail',
        cause: `${alias} ${missing.join(' ')} / ${heard.join(' ')}`,
        place: unheard.map(({ role, source }) => onPage(`“${role}” (${sourceInWords(source, setlist)})`, 'gear')),
        message: `controls of ${alias} send on channel ${missing.join(', ')}, and only channel ${heard.join(', ')} of it is heard`,
        why: unheard.length === 1 ? 'The control does nothing.' : 'The controls do nothing.',
        mend: {
          label: `hear channel ${missing.join(', ')} of ${alias} too`,
          steps: [
            {
              kind: 'gearLists',
              id: gear.id,
              at: ['ports', { direction: 'in', alias }, 'channels'],
              was: heard,
              now: [...heard, ...missing].sort((a, b) => a - b),
            },
          ],
        },
      },
    ];
  });
}

function unheardPrograms({ around: { gear, inputs } }: Tonight): Found[] {
  return inputs.flatMap(({ alias, channels, programs }): Found[] => {
    if (programs.kind === 'off' || programs.channels === null || channels === null) return [];
    if (programs.channels.some((channel) => channels.includes(channel))) return [];
    return [
      {
        severity: 'willFail',
        cause: `${alias} ${programs.channels.join(' ')} / ${channels.join(' ')}`,
        place: onPage(gear.name, 'gear'),
        message: `programs of ${alias} are listened to on channel ${programs.channels.join(', ')}, and only channel ${channels.join(', ')} of it is heard`,
        why: 'No program change from there does anything.',
        mend: {
          label: 'listen to programs on every channel',
          steps: [
            {
              kind: 'gearLists',
              id: gear.id,
              at: ['ports', { direction: 'in', alias }, 'programs', 'channels'],
              was: programs.channels,
              now: null,
            },
          ],
        },
      },
    ];
  });
}
