/** Does something after a time; the answer calls it off. */
export type After = (delayMs: number, act: () => void) => () => void;

/** Timer of the page's own: for tests, and where there are no workers. */
export const pageTimer: After = (delayMs, act) => {
  const id = setTimeout(act, Math.max(0, delayMs));
  return () => clearTimeout(id);
};

/** Timer on a worker, which is kept on time while the page is hidden. */
export function workerTimer(worker: Worker): After {
  const waiting = new Map<number, () => void>();
  let next = 1;
  worker.onmessage = ({ data }: MessageEvent<number>) => {
    const act = waiting.get(data);
    waiting.delete(data);
    act?.();
  };
  return (delayMs, act) => {
    const number = next++;
    waiting.set(number, act);
    worker.postMessage({ number, delayMs });
    return () => waiting.delete(number);
  };
}
