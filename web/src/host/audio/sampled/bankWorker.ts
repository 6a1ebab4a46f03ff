import { wrap, type Remote } from 'comlink';
import Worker from './bank.worker?worker';
import type { BankWorker } from './bank.worker';

let running: { worker: Worker; remote: Remote<BankWorker> } | null = null;

/** The worker that reads and opens banks; started when it is first needed. */
export function bankWorker(): Remote<BankWorker> {
  if (running === null) {
    const worker = new Worker();
    running = { worker, remote: wrap<BankWorker>(worker) };
  }
  return running.remote;
}

/** One for a single job, which may be broken off. */
export function ownBankWorker(): { remote: Remote<BankWorker>; end: () => void } {
  const worker = new Worker();
  return { remote: wrap<BankWorker>(worker), end: () => worker.terminate() };
}
