import type { GearList } from '../../../show';
import type { Mend } from '../../finding';

/** A port of tonight's gear that is switched off, on again; undefined: there is none such. */
export function switchedOn(gear: GearList, direction: 'in' | 'out', alias: string): Mend | undefined {
  if (!gear.ports.some((port) => port.direction === direction && port.alias === alias && !port.on)) return undefined;
  return {
    label: `switch ${alias} on`,
    steps: [{ kind: 'gearLists', id: gear.id, at: ['ports', { direction, alias }, 'on'], was: false, now: true }],
  };
}
