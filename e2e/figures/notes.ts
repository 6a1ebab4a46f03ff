import type { Page } from '@playwright/test';
import { hostOf } from '../tests/rackle';
import type { FloodGlobals } from '../tests/flood';

/** Of notes, from being sent to being handed on. */
export interface Lateness {
  notes: number;
  medianMs: number;
  p99Ms: number;
  worstMs: number;
}

interface Probe {
  /** ms from being sent by a worker to being handed on, one a note. */
  late: number[];
  stop(): void;
}

/** Two hundred notes a second from a worker beside the host, until it is asked for what they took. */
export async function startNotes(page: Page): Promise<() => Promise<Lateness>> {
  const host = await hostOf(page);
  await host.evaluate(async () => {
    const globals = globalThis as unknown as FloodGlobals & {
      probe?: Probe;
      keys?: ReturnType<FloodGlobals['rackleInput']>;
    };
    globals.keys ??= globals.rackleInput('Aster 73');
    const { keys } = globals;
    const source = `
      let at = performance.now();
      const next = () => {
        postMessage(performance.timeOrigin + performance.now());
        at = Math.max(at + 5, performance.now());
        setTimeout(next, at - performance.now());
      };
      next();`;
    const worker = new Worker(URL.createObjectURL(new Blob([source], { type: 'text/javascript' })));
    const probe: Probe = { late: [], stop: () => worker.terminate() };
    let turn = 0;
    worker.onmessage = ({ data }: MessageEvent<number>) => {
      keys.emit(turn % 2 === 0 ? 0x90 : 0x80, 48 + ((turn >> 1) % 24), 70);
      turn++;
      probe.late.push(performance.timeOrigin + performance.now() - data);
    };
    globals.probe = probe;
    // Until it runs evenly.
    while (probe.late.length < 100) await new Promise(requestAnimationFrame);
    probe.late.length = 0;
  });
  return async () => {
    const late = await host.evaluate(() => {
      const { probe } = globalThis as unknown as { probe: Probe };
      probe.stop();
      return probe.late;
    });
    late.sort((a, b) => a - b);
    const at = (share: number): number => late[Math.min(late.length - 1, Math.floor(late.length * share))] ?? 0;
    return { notes: late.length, medianMs: at(0.5), p99Ms: at(0.99), worstMs: late.at(-1) ?? 0 };
  };
}
