import type { Finding } from '@rackle/core/soundcheck';
import type { GearList, GearPort } from '@rackle/core/show';

/** Ports of tonight's gear that are switched on and not there. What is plugged in only the running side knows. */
export const portFindings = (gear: GearList, isHere: (port: GearPort) => boolean): Finding[] =>
  gear.ports
    .filter((port) => port.on && !isHere(port))
    .map(({ alias, direction }) => ({
      severity: 'willFail',
      rule: 'no-port',
      cause: `${direction} ${alias}`,
      places: [{ words: gear.name, page: 'gear', songId: null, patchId: null }],
      where: gear.name,
      message: `${alias} is not plugged in`,
      why: direction === 'in' ? 'What is played or stepped there is not heard.' : 'Layers that sound there are silent.',
      mend: {
        label: 'do without it tonight',
        steps: [{ kind: 'gearLists', id: gear.id, at: ['ports', { direction, alias }, 'on'], was: true, now: false }],
      },
    }));
