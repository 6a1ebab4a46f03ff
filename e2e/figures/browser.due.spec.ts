import { expect, hostOf, open, test } from '../tests/rackle';
import { openManyCues } from './manyCues';

// How late the running side is awake for cues and clock pulses while a song of two thousand cues plays for ten minutes
// and somebody walks through the pages, which have the same song in the chart.

const MINUTES = Number(process.env.MINUTES ?? 10);
const PAGES = ['Gear', 'Sounds', 'Songs', 'Setlist', 'Timeline', 'Stage'];

interface Lateness {
  count: number;
  medianMs: number;
  p999Ms: number;
  longestMs: number;
}

/** How late a worker is that does nothing but wake: what this machine makes of any timer. */
async function startBare(host: Awaited<ReturnType<typeof hostOf>>): Promise<() => Promise<Lateness>> {
  await host.evaluate(() => {
    const source = `
      let at = performance.now();
      const next = () => {
        postMessage(performance.now() - at);
        at = Math.max(at + 50, performance.now());
        setTimeout(next, at - performance.now());
      };
      next();`;
    const globals = globalThis as unknown as { bareLate: number[] };
    globals.bareLate = [];
    const worker = new Worker(URL.createObjectURL(new Blob([source], { type: 'text/javascript' })));
    worker.onmessage = ({ data }: MessageEvent<number>) => void globals.bareLate.push(data);
  });
  return async () => {
    const late = await host.evaluate(() => (globalThis as unknown as { bareLate: number[] }).bareLate);
    late.sort((a, b) => a - b);
    const at = (share: number): number => late[Math.min(late.length - 1, Math.floor(late.length * share))] ?? 0;
    return { count: late.length, medianMs: at(0.5), p999Ms: at(0.999), longestMs: at(1) };
  };
}

for (const way of ['pages stand still', 'pages are walked through'] as const)
  test(`lateness of what falls due: ${way}`, async ({ page, demo }) => {
    await openManyCues(page, demo);
    await open(page, demo);
    await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
    await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).click();
    await page.getByRole('link', { name: /^Timeline/ }).click();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    const host = await hostOf(page);
    const late = (): Promise<{ due: Lateness; ports: Lateness }> =>
      host.evaluate(() =>
        (globalThis as unknown as { rackleLateness(): { due: Lateness; ports: Lateness } }).rackleLateness(),
      );
    await expect.poll(async () => (await late()).due.count).toBeGreaterThan(10);
    const bare = await startBare(host);
    const end = Date.now() + MINUTES * 60_000;
    for (let turn = 0; Date.now() < end; turn++) {
      if (way === 'pages are walked through')
        await page.getByRole('link', { name: new RegExp(`^${PAGES[turn % PAGES.length]}`) }).click();
      await page.waitForTimeout(1000);
    }
    const { due: moments, ports } = await late();
    const words = ({ count, medianMs, p999Ms, longestMs }: Lateness): string =>
      `${count} times, median ${medianMs.toFixed(3)} ms, 99.9th percentile ${p999Ms.toFixed(2)} ms, longest ${longestMs.toFixed(1)} ms`;
    console.log(`  ${way}, ${MINUTES} minutes: awake for what falls due: ${words(moments)}`);
    console.log(`  messages to ports, beside their time: ${words(ports)}`);
    console.log(`  a bare worker beside it, asked to wake every 50 ms: ${words(await bare())}`);
  });
