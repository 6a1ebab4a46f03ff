import { wrap } from 'comlink';
import Worker from './checks.worker?worker';
import type { Checker } from './feedChecks';

/** Starts the worker that looks the show over. */
export const checksWorker = (): Checker => wrap<Checker>(new Worker()) as Checker;
