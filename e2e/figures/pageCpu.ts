import type { Browser, Page } from '@playwright/test';

/** What the page's own thread did meanwhile, by trace: CPU time, so that a busy machine changes little. */
export interface PageCpu {
  /** Of all tasks together, in ms. */
  sumMs: number;
  longestMs: number;
  /** How many took over 50 ms. */
  over50: number;
}

interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  dur?: number;
  tdur?: number;
}

const MARK = 'rackle-measured';

/** @param work is done while the page's thread is traced */
export async function pageCpu(browser: Browser, page: Page, work: () => Promise<void>): Promise<PageCpu> {
  await browser.startTracing(page, {
    categories: ['toplevel', 'blink.user_timing', 'disabled-by-default-devtools.timeline'],
  });
  await work();
  // Which of all threads is the page's: the one in which it makes this mark.
  await page.evaluate((mark) => performance.mark(mark), MARK);
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  const own = traceEvents.find(({ name }) => name === MARK);
  // Each task is told twice, one telling within the other: the outer one counts.
  const tasks = traceEvents
    .filter(
      ({ name, ph, pid, tid, tdur }) =>
        name === 'ThreadControllerImpl::RunTask' &&
        ph === 'X' &&
        pid === own?.pid &&
        tid === own.tid &&
        tdur !== undefined,
    )
    .map(({ tdur }) => tdur! / 1000);
  return {
    sumMs: tasks.reduce((sum, ms) => sum + ms, 0),
    longestMs: Math.max(0, ...tasks),
    over50: tasks.filter((ms) => ms > 50).length,
  };
}

/** “120 ms, longest 34, none over 50”. */
export const cpuWords = ({ sumMs, longestMs, over50 }: PageCpu): string =>
  `${sumMs.toFixed(0)} ms, longest ${longestMs.toFixed(0)}, ${over50 === 0 ? 'none' : over50} over 50 ms`;
