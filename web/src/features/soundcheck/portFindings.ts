import type { Finding } from '@rackle/core/soundcheck';
import type { GearList, GearPort } from '@rackle/core/show';

/** Ports of tonight's gear that are switched on and not there. What is plugged in only the running side knows. */
export const portFindings = (gear: GearList, isHere: (port: GearPort) => boolean): Finding[] =>
  gear.ports
    .filter((port) => port.on && !isHere(port))
    .map((port) => ({
      severity: 'error',
      code: 'no-port',
      where: gear.name,
      message: `no ${port.alias}`,
      why:
        port.direction === 'in'
          ? 'What is played or stepped there is not heard. Plug it in, or switch it off on Gear.'
          : 'Layers that sound there are silent. Plug it in, or switch it off on Gear.',
    }));
