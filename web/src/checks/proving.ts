import type { HostConnection } from '../protocol';
import type { Store } from '../state/store';
import { checksWorker } from './checksWorker';
import { feedChecks, type Checking } from './feedChecks';
import { HereKeeper } from './here';
import { leveling, type Leveling } from './leveling';
import { simulating, type Simulating } from './simulating';

/** All that is proven of the show beside the pages. */
export interface Proving extends Checking {
  /** Playing every pair of recalls. */
  simulation: Simulating;
  /** Measuring the levels of all patches. */
  leveling: Leveling;
}

/** Begins to look the show over, in a worker. */
export function proving(store: Store, host: HostConnection): Proving {
  const checker = checksWorker();
  return {
    ...feedChecks(store, checker, new HereKeeper()),
    simulation: simulating(store, checker),
    leveling: leveling(store, host, checker),
  };
}
