import { readFileSync, readdirSync } from 'node:fs';

const TICKS_A_SECOND = 100;

/** Seconds of CPU that the threads of these names have taken so far, in all processes of the browser. Linux only. */
export function cpuSeconds(names: readonly string[]): number {
  // A thread's name is cut at fifteen letters.
  const wanted = new Set(names.map((name) => name.slice(0, 15)));
  let ticks = 0;
  for (const pid of readdirSync('/proc').filter((entry) => /^\d+$/.test(entry))) {
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'latin1').includes('chromium')) continue;
      for (const thread of readdirSync(`/proc/${pid}/task`)) {
        const stat = readFileSync(`/proc/${pid}/task/${thread}/stat`, 'latin1');
        const end = stat.lastIndexOf(')');
        if (!wanted.has(stat.slice(stat.indexOf('(') + 1, end))) continue;
        const fields = stat.slice(end + 2).split(' ');
        ticks += Number(fields[11]) + Number(fields[12]);
      }
    } catch {
      // It has ended meanwhile.
    }
  }
  return ticks / TICKS_A_SECOND;
}

/** The threads in which the browser works out sound: with a worklet it is the second. */
export const AUDIO_THREADS = ['AudioOutputDevice', 'Realtime AudioWorkletThread', 'Semi-Realtime AudioWorkletThread'];
/** The thread in which it works out sound as fast as it can, with a worklet and without. */
export const OFFLINE_THREADS = ['Offline AudioWorklet Thread', 'OfflineAudioRenderThread'];
/** The threads in which pages and frames run. */
export const PAGE_THREADS = ['CrRendererMain'];
