import { proxy, wrap } from 'comlink';
import Worker from './checks.worker?worker';
import type { Checker } from './feedChecks';
import type { Simulator } from './simulating';

/** Starts the worker that looks the show over. */
export function checksWorker(): Checker & Simulator {
  const worker = wrap<Checker & Simulator>(new Worker()) as unknown as Checker & Simulator;
  return {
    start: (show, setlistId) => worker.start(show, setlistId),
    take: (news, setlistId) => worker.take(news, setlistId),
    learn: (here) => worker.learn(here),
    check: () => worker.check(),
    plan: (wishes) => worker.plan(wishes),
    simulate: (all, onProgress) => worker.simulate(all, proxy(onProgress)),
    callOff: () => worker.callOff(),
    roll: (of) => worker.roll(of),
  };
}
