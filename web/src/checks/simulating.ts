import type { CaseRoll, FailedCase, SimulatedFinding, SimulatedProgress } from '@rackle/core/soundcheck';
import type { Store } from '../state/store';
import { simulated } from './checksSlice';

/** What the worker answers; null: it was called off, or there is nothing to play. */
export type Simulated = { findings: SimulatedFinding[]; cases: number; pairs: number } | null;

/** The worker's end of the simulation. */
export interface Simulator {
  simulate(all: boolean, onProgress: (progress: SimulatedProgress) => void): Promise<Simulated>;
  callOff(): unknown;
  roll(of: FailedCase): CaseRoll | null | Promise<CaseRoll | null>;
}

/** Has the engine play every pair of recalls beside the pages, which may call it off. */
export interface Simulating {
  start(all: boolean): void;
  callOff(): void;
  /** A case once more; null: the show is another one by now. */
  roll(of: FailedCase): Promise<CaseRoll | null>;
}

export function simulating(store: Store, simulator: Simulator): Simulating {
  const start = async (all: boolean): Promise<void> => {
    if (store.getState().checks.simulation.state === 'running') return;
    store.dispatch(simulated({ state: 'running', done: 0, of: 0 }));
    const before = store.getState().show.working;
    try {
      const result = await simulator.simulate(all, ({ done, of }) => {
        if (store.getState().checks.simulation.state === 'running')
          store.dispatch(simulated({ state: 'running', done, of }));
      });
      const isStale = store.getState().show.working !== before;
      store.dispatch(simulated(result === null ? { state: 'none' } : { state: 'done', ...result, isStale }));
    } catch (cause) {
      console.warn('the simulation could not be made', cause);
      store.dispatch(simulated({ state: 'none' }));
    }
  };
  return {
    start: (all) => void start(all),
    callOff: () => void simulator.callOff(),
    roll: async (of) => simulator.roll(of),
  };
}
