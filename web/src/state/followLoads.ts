import { loadsMeasured } from '../checks/checksSlice';
import { areOthers, keepLoadTimes, readLoadTimes, withLoads } from '../live/loadTimes';
import type { HostConnection } from '../protocol';
import type { Store } from './store';

/** Learns from the running side how long sounds take to load on this machine; kept by this browser. */
export function followLoads(store: Store, host: Pick<HostConnection, 'listen'>): void {
  let times = readLoadTimes();
  if (Object.keys(times).length > 0) store.dispatch(loadsMeasured(times));
  host.listen((event) => {
    if (event.type !== 'loads') return;
    times = withLoads(times, event.loads);
    keepLoadTimes(times);
    if (areOthers(store.getState().checks.loads, times)) store.dispatch(loadsMeasured(times));
  });
}
