import { readFileSync, readdirSync } from 'node:fs';

const TICKS_A_SECOND = 100;

/** Seconds of CPU that the threads of this name have taken so far, in all processes of the browser. Linux only. */
export function cpuSeconds(name: string): number {
  let ticks = 0;
  for (const pid of readdirSync('/proc').filter((entry) => /^\d+$/.test(entry))) {
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'latin1').includes('chromium')) continue;
      for (const thread of readdirSync(`/proc/${pid}/task`)) {
        const stat = readFileSync(`/proc/${pid}/task/${thread}/stat`, 'latin1');
        const end = stat.lastIndexOf(')');
        // A thread's name is cut at fifteen letters.
        if (stat.slice(stat.indexOf('(') + 1, end) !== name.slice(0, 15)) continue;
        const fields = stat.slice(end + 2).split(' ');
        ticks += Number(fields[11]) + Number(fields[12]);
      }
    } catch {
      // It has ended meanwhile.
    }
  }
  return ticks / TICKS_A_SECOND;
}

/** The thread in which the browser works out sound. */
export const AUDIO_THREAD = 'AudioOutputDevice';
/** The threads in which pages and frames run. */
export const PAGE_THREADS = 'CrRendererMain';
