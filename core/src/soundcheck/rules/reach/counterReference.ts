import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** What counts up and down has a counter that is followed. */
export const counterReference: EveningRule = {
  id: 'counter-reference',
  group: 'reach',
  sure: 'controls that count belong to an input whose counter is followed',
  per: 'evening',
  counts: counts.controls,
  find: ({ around: { gear, inputs } }) =>
    gear.roles.flatMap(({ role, source }): Found[] => {
      if (source.kind !== 'count') return [];
      const input = inputs.find(({ alias }) => alias === source.port);
      if (input === undefined || input.programs.kind === 'counter') return [];
      return [
        {
          severity: 'willFail',
          cause: `${source.port} ${input.programs.kind}`,
          place: onPage(`${gear.name}: ${role}`, 'gear'),
          message: `“${role}” counts with ${source.port}, whose counter is not followed`,
          why: 'Without a number to count from, no press of it has a direction.',
          mend: {
            label: `follow the counter of ${source.port}`,
            steps: [
              {
                kind: 'gearLists',
                id: gear.id,
                at: ['ports', { direction: 'in', alias: source.port }, 'programs'],
                was: input.programs,
                now: { kind: 'counter', channels: null, lowest: 0, highest: 127, guardMs: 120 },
              },
            ],
          },
        },
      ];
    }),
};
