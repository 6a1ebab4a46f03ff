import { withLearned, type GearList } from '../show';
import type { Learned } from './learn';
import { sameSource } from './sources';

/** A control plays a role from now on; the role that had it loses it. */
export const withTakenOver = (gear: GearList, role: string, from: string | null, learned: Learned): GearList =>
  withLearned(
    from === null
      ? gear
      : {
          ...gear,
          roles: gear.roles.filter((entry) => entry.role !== from || !sameSource(entry.source, learned.source)),
        },
    role,
    learned,
  );
