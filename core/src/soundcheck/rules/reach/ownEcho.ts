import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** What is sent to a device does not come back from it, or sound there twice. */
export const ownEcho: EveningRule = {
  id: 'own-echo',
  group: 'reach',
  sure: 'no device is played twice over, and none sends back what it gets',
  per: 'evening',
  counts: counts.ports,
  find({ songs, setlist, around: { gear, inputs, outputs, instruments } }) {
    const used = new Set(
      [...songs.flatMap(({ song }) => song.layers), ...setlist.layers].map(({ sound }) => sound.instrumentId as string),
    );
    return outputs.flatMap((output): Found[] => {
      const input = inputs.find(({ device }) => device === output.device);
      const there = [...instruments.values()].filter(
        ({ id, ...instrument }) => instrument.kind === 'outboard' && instrument.port === output.alias && used.has(id),
      );
      if (input === undefined || there.length === 0) return [];
      const place = onPage(gear.name, 'gear');
      if (input.plays)
        return [
          {
            severity: 'mayFail',
            cause: `local ${output.device}`,
            place,
            message: `${output.device} is played by its own keys, and by Rackle as well`,
            why: 'With its local control on, each key sounds twice there: switch local control off on the device.',
          },
        ];
      if (input.programs.kind === 'off') return [];
      return [
        {
          severity: 'mayFail',
          cause: `loop ${output.device}`,
          place,
          message: `${output.device} gets programs from Rackle, and is listened to for programs`,
          why: 'If it passes on what it gets, each recall comes back and recalls again.',
          mend: {
            label: `do not listen to programs of ${input.alias}`,
            steps: [
              {
                kind: 'gearLists',
                id: gear.id,
                at: ['ports', { direction: 'in', alias: input.alias }, 'programs'],
                was: input.programs,
                now: { kind: 'off' },
              },
            ],
          },
        },
      ];
    });
  },
};
