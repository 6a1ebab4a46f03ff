import type { GearList, GearPort } from '@rackle/core/show';
import type { PortState } from '../protocol';
import type { RootState } from './store';

/** Tonight’s gear list: the setlist's own, or the first there is; null: there is none. */
export function gearIn({ show }: Pick<RootState, 'show'>): GearList | null {
  const setlist = show.setlistId === null ? undefined : show.working.setlists[show.setlistId];
  return (
    (setlist?.gearListId ? show.working.gearLists[setlist.gearListId] : undefined) ??
    Object.values(show.working.gearLists)[0] ??
    null
  );
}

/** Whether what a port of the gear list stands for is among the ports that are here. */
export const isAmong = (ports: readonly PortState[], { device, direction }: GearPort): boolean =>
  ports.some((port) => port.alive && port.name === device && port.direction === direction);
