import { controlOf } from '../../../controls';
import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** Pedals do what their roles take them for. */
export const latching: EveningRule = {
  id: 'latching',
  group: 'reach',
  sure: 'latching pedals are taken as latching, momentary ones as momentary',
  per: 'evening',
  counts: counts.controls,
  find({ around: { gear, inputs }, roles }) {
    const values = new Set(roles.filter(({ isValue }) => isValue === true).map(({ role }) => role));
    const heard = new Set(inputs.map(({ alias }) => alias as string));
    return gear.roles.flatMap((one): Found[] => {
      const { role, source, button } = one;
      const control = controlOf(gear, source);
      if (control === null || control.button === button || values.has(role)) return [];
      if (source.kind !== 'controller' || !heard.has(source.port)) return [];
      return [
        {
          severity: 'willFail',
          cause: `${role} ${source.port} ${control.name} ${button}`,
          place: onPage(gear.name, 'gear'),
          message: `${control.name} of ${source.port} is ${control.button}, and “${role}” takes it for ${button}`,
          why:
            control.button === 'latching'
              ? 'Every second press of it does nothing.'
              : 'It acts when it is pressed, and again when it is let go.',
          mend: {
            label: `take it for ${control.button}`,
            steps: [
              {
                kind: 'gearLists',
                id: gear.id,
                at: ['roles', { role, source }, 'button'],
                was: button,
                now: control.button,
              },
            ],
          },
        },
      ];
    });
  },
};
