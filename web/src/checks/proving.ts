import type { HostConnection } from '../protocol';
import type { Store } from '../state/store';
import type { LoadingChecks } from './checks';
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
  const checking = feedChecks(store, checker, new HereKeeper());
  const levels = leveling(store, host, checker);
  let recalled: string | null = null;
  let planned: LoadingChecks | null = null;
  // Once a setlist has been looked over there is time for it.
  store.subscribe(() => {
    const { checks, show } = store.getState();
    if (checks.loading === null || show.setlistId === recalled || checks.loading === planned) return;
    planned = checks.loading;
    recalled = show.setlistId;
    void levels.recall();
  });
  return { ...checking, simulation: simulating(store, checker), leveling: levels };
}
