import { proxy, transfer, wrap } from 'comlink';
import Worker from './checks.worker?worker';
import type { Checker } from './feedChecks';
import type { LevelChecker } from './leveling';
import type { Simulator } from './simulating';

/** Starts the worker that looks the show over. */
export function checksWorker(): Checker & Simulator & LevelChecker {
  const worker = wrap<Checker & Simulator & LevelChecker>(new Worker()) as unknown as Checker &
    Simulator &
    LevelChecker;
  return {
    start: (show, setlistId) => worker.start(show, setlistId),
    take: (news, setlistId) => worker.take(news, setlistId),
    learn: (here) => worker.learn(here),
    check: () => worker.check(),
    plan: (wishes, loads) => worker.plan(wishes, loads),
    planFrom: (jump, wishes, loads) => worker.planFrom(jump, wishes, loads),
    simulate: (all, onProgress) => worker.simulate(all, proxy(onProgress)),
    callOff: () => worker.callOff(),
    roll: (of) => worker.roll(of),
    recordTakes: (played) => worker.recordTakes(played),
    recall: () => worker.recall(),
    measure: (key, sound) => worker.measure(key, transfer(sound, [sound.left.buffer, sound.right.buffer])),
    levels: (jumpLu) => worker.levels(jumpLu),
  };
}
