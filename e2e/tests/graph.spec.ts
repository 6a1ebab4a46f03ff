import type { Page } from '@playwright/test';
import { AudioGraph } from './audioGraph';
import type { FloodGlobals } from './flood';
import { expect, hostOf, open, startSound, test, unfinished, withoutGuards } from './rackle';

/** How many nodes there are when all that is near has its sound, and their number has come to rest. */
async function atRest(page: Page, graph: AudioGraph): Promise<number> {
  let last = -1;
  await expect
    .poll(async () => {
      const before = last;
      last = await graph.live();
      return (await unfinished(page)) === 0 && last === before;
    })
    .toBe(true);
  return last;
}

test('the audio graph stays small: a walk through all songs and back leaves no more than was there at the start', async ({
  page,
  demo,
}) => {
  await withoutGuards(page, demo);
  await open(page, demo, '/stage');
  const graph = await AudioGraph.watch(page);
  await startSound(page);
  const places = page.getByTestId('run-strip').locator('[data-position]');
  const isAt = (position: number) =>
    expect(page.locator(`[data-position="${position}"]`)).toHaveAttribute('aria-current', 'true');
  const count = await places.count();
  const start = await atRest(page, graph);
  let most = start;
  for (let position = 1; position < count; position++) {
    await page.keyboard.press('ArrowRight');
    await isAt(position);
    if (position % 5 === 0) most = Math.max(most, await graph.live());
  }
  for (let position = count - 2; position >= 0; position--) {
    await page.keyboard.press('ArrowLeft');
    await isAt(position);
  }
  await expect.poll(() => graph.live()).toBeLessThanOrEqual(start * 1.2);
  console.log(`nodes: ${start} at the start, ${most} at most under way, ${await graph.live()} back at the start`);
  // What a song needs of them differs, but they do not pile up.
  expect(most).toBeLessThan(start * 3);
  expect(graph.contexts).toHaveLength(1);
});

test('ten thousand notes leave no node behind', async ({ page, demo }) => {
  await open(page, demo, '/stage');
  const graph = await AudioGraph.watch(page);
  await startSound(page);
  // The room has been made, and nothing has sounded yet.
  const before = await atRest(page, graph);
  const host = await hostOf(page);
  const loudest = await host.evaluate(async () => {
    const globals = globalThis as unknown as FloodGlobals &
      Record<'rackleOutputPeak' | 'rackleSoundSeconds', () => number>;
    const { rackleInput, rackleOutputPeak, rackleSoundSeconds } = globals;
    const keys = rackleInput('Aster 73');
    let most = 0;
    for (let i = 0; i < 10_000; i++) {
      keys.emit(0x90, 36 + (i % 60), 40 + (i % 80));
      keys.emit(0x80, 36 + (i % 60), 64);
      // What has been sent begins to sound before more comes, and what else the frame has to do is not held up: on a
      // machine so busy that the sound has gone on meanwhile, that has its turn all the same.
      const sentAt = rackleSoundSeconds();
      if (i % 25 === 24)
        do await new Promise((resolve) => setTimeout(resolve));
        while (rackleSoundSeconds() === sentAt);
      most = Math.max(most, rackleOutputPeak());
    }
    return most;
  });
  expect(loudest).toBeGreaterThan(0.01);
  await expect.poll(() => graph.live()).toBeLessThanOrEqual(before);
  console.log(`nodes: ${before} before, ${await graph.live()} after ten thousand notes`);
});
