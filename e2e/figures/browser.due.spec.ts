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
        (globalThis as unknown as { rackleHandOver(): { due: Lateness; ports: Lateness } }).rackleHandOver(),
      );
    await expect.poll(async () => (await late()).due.count).toBeGreaterThan(10);
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
  });
