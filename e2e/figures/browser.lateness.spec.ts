import type { Page } from '@playwright/test';
import { expect, hostOf, inPage, open, test } from '../tests/rackle';
import { openManySongs } from './manySongs';
import { startNotes, type Lateness } from './notes';
import { AUDIO_THREADS, cpuSeconds } from './threads';

// How late notes are handed on while a player works on the pages, two hundred of them a second; and which tasks of the
// page take longer than 50 ms meanwhile.

type Work = [what: string, start: (page: Page) => Promise<void>, work: (page: Page) => Promise<void>];

const PAGES = ['Gear', 'Sounds', 'Songs', 'Setlist', 'Numbers', 'Timeline', 'Soundcheck', 'Stage'];
const link = (page: Page, name: string) => page.getByRole('link', { name: new RegExp(`^${name}`) }).click();
const nothing = (): Promise<void> => Promise.resolve();

const WORKS: Work[] = [
  ['nothing', nothing, (page) => page.waitForTimeout(3000)],
  [
    'walking through all pages',
    nothing,
    async (page) => {
      for (const name of PAGES) {
        await link(page, name);
        await page.waitForTimeout(300);
      }
    },
  ],
  [
    'typing in the palette',
    (page) => link(page, 'Setlist'),
    async (page) => {
      await page.keyboard.press('Control+k');
      await page.keyboard.type('kelp dance un', { delay: 60 });
      await page.waitForTimeout(300);
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toBeHidden();
    },
  ],
  [
    'renaming the setlist',
    (page) => link(page, 'Setlist'),
    async (page) => {
      const name = page.getByRole('main').getByLabel('name of the setlist');
      await name.click();
      await page.keyboard.type(' and on', { delay: 60 });
      await page.keyboard.press('Enter');
      await page.waitForTimeout(800);
    },
  ],
  [
    'dragging a zone, twelve moves',
    async (page) => {
      await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).click();
      await link(page, 'Songs');
      await page.getByRole('button', { name: 'Late Boat in Quay' }).click();
    },
    async (page) => {
      const box = (await page.getByRole('button', { name: 'zone of Late Boat' }).boundingBox())!;
      await page.mouse.move(box.x + 4, box.y + 10);
      await page.mouse.down();
      for (let move = 1; move <= 12; move++) await page.mouse.move(box.x + 4 + 9 * move, box.y + 10);
      await page.mouse.up();
      await page.waitForTimeout(800);
    },
  ],
  ['nothing, in the same patch', nothing, (page) => page.waitForTimeout(3000)],
  [
    'twenty recalls on the song sheet',
    nothing,
    async (page) => {
      for (let recall = 0; recall < 20; recall++) {
        await page.locator(`[data-position="${3 + recall}"]`).click();
        await page.waitForTimeout(60);
      }
    },
  ],
  [
    'a page that stands still for five seconds',
    nothing,
    (page) =>
      page.evaluate(() => {
        const end = performance.now() + 5000;
        while (performance.now() < end);
      }),
  ],
  [
    'a page that scripts 18 ms in every frame',
    nothing,
    (page) =>
      page.evaluate(async () => {
        for (let frame = 0; frame < 150; frame++) {
          const end = performance.now() + 18;
          while (performance.now() < end);
          await new Promise(requestAnimationFrame);
        }
      }),
  ],
];

const watchTasks = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const globals = globalThis as unknown as { tasks?: number[] };
    if (globals.tasks) return void (globals.tasks.length = 0);
    const tasks: number[] = (globals.tasks = []);
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) tasks.push(duration);
    }).observe({ type: 'longtask' });
  });

// With sound the two hundred notes a second keep all voices of a patch busy, which takes most of a core by itself: on a
// machine of two cores the page, the sound and the notes then wait for each other. Both are printed.
const RUNS = [
  { way: 'frame', sound: false },
  { way: 'frame', sound: true },
  { way: 'page', sound: false },
] as const;

for (const songs of [10, 200])
  for (const { way, sound } of RUNS)
    test(`lateness of notes: ${songs} songs, host in its ${way}, ${sound ? 'with' : 'without'} sound`, async ({
      page,
      demo,
    }) => {
      if (way === 'page') await inPage(page);
      if (songs > 10) await openManySongs(page, demo, songs);
      await open(page, demo);
      if (sound) {
        await page.keyboard.press('s');
        await expect(page.getByRole('meter', { name: 'output level' })).toBeVisible();
      }
      // What is fetched and looked over after the first page is done by then.
      await expect(page.locator('html')).toHaveAttribute('data-fetched', 'all');
      await page.waitForTimeout(3000);
      for (const [what, start, work] of WORKS) {
        await start(page);
        await hostOf(page);
        await page.waitForTimeout(1500);
        const end = await startNotes(page);
        const [cpu, startMs] = [cpuSeconds(AUDIO_THREADS), performance.now()];
        await watchTasks(page);
        await work(page);
        await page.waitForTimeout(100);
        const late = await end();
        const tasks = await page.evaluate(() => (globalThis as unknown as { tasks: number[] }).tasks);
        const audio = (100_000 * (cpuSeconds(AUDIO_THREADS) - cpu)) / (performance.now() - startMs);
        console.log(line(what, late, tasks, audio));
      }
      const slice = await (
        await hostOf(page)
      ).evaluate(
        () =>
          (globalThis as unknown as { rackleHandOver(): { longestSliceMs: number } }).rackleHandOver().longestSliceMs,
      );
      console.log(`  longest slice of getting sounds ready ${slice.toFixed(1)} ms`);
    });

function line(what: string, { notes, medianMs, p99Ms, worstMs }: Lateness, tasks: number[], audio: number): string {
  const long = tasks.length === 0 ? 'none' : `${tasks.length}, longest ${Math.max(...tasks).toFixed(0)} ms`;
  return `  ${what}: ${notes} notes, median ${medianMs.toFixed(2)}, 99th percentile ${p99Ms.toFixed(1)}, worst ${worstMs.toFixed(1)} ms; tasks of the page over 50 ms: ${long}; the sound took ${audio.toFixed(0)} % of a core`;
}
