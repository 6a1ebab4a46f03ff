import { PAGES } from './axe';
import { withFloodPorts, type FloodGlobals } from './flood';
import { expect, hostOf, open, startSound, test } from './rackle';

/** As the application puts it off (`fetchedLater`). */
const AFTER_FIRST_PAGE_MS = 1500;

test('what the first page fetches is under 250 kB of gzipped script, and nothing comes from elsewhere', async ({
  page,
  demo,
}) => {
  const scripts: Promise<Buffer>[] = [];
  /** Those of the running side, which has a process of its own and holds up no page. */
  const frameScripts: Promise<Buffer>[] = [];
  const elsewhere: string[] = [];
  const hostOrigin =
    /name="rackle-host" content="([^"]+)"/.exec(await (await page.request.get(demo.address)).text())?.[1] ?? null;
  page.on('response', (response) => {
    const isOfFrame = hostOrigin !== null && response.url().startsWith(hostOrigin);
    if (!response.url().startsWith(demo.address) && !isOfFrame && !/^(data|blob):/.test(response.url()))
      elsewhere.push(response.url());
    if (!response.url().endsWith('.js')) return;
    const body = response.body();
    // Those that come after the entry may still be on their way when the test is at its end.
    body.catch(() => undefined);
    (isOfFrame ? frameScripts : scripts).push(body);
  });
  // What is put off until the first page has had its time is no part of it, however long a busy machine takes over that.
  await page.addInitScript((putOffMs) => {
    const inTime = window.setTimeout;
    const held = (act: TimerHandler, ms?: number, ...rest: unknown[]): number =>
      ms === putOffMs ? 0 : inTime(act, ms, ...rest);
    Object.assign(window, { setTimeout: held });
  }, AFTER_FIRST_PAGE_MS);
  await open(page, demo);
  const entry = [...scripts];
  const { gzipSync } = await import('node:zlib');
  const weigh = async (bodies: Promise<Buffer>[]): Promise<number> =>
    (await Promise.all(bodies)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  const bytes = await weigh(entry);
  const frameBytes = await weigh([...frameScripts]);
  console.log(`entry: ${Math.round(bytes / 1000)} kB gzipped; the host's frame ${Math.round(frameBytes / 1000)} kB`);
  expect(frameBytes).toBeLessThan(150_000);
  expect(elsewhere).toEqual([]);
  expect(bytes).toBeLessThan(250_000);
});

test('every page is there at its own address; what is no page is not', async ({ page, demo }) => {
  const status = async (path: string): Promise<number> => (await page.request.get(demo.address + path)).status();
  for (const path of [...PAGES, '/as-it-was/v-1/songs/kelp-dance', '/guide/timeline', '/'])
    expect.soft(await status(path), path).toBe(200);
  expect(await status('/nothing-of-ours')).toBe(404);
});

test('after a reload mid-song the same patch stands, with its addresses', async ({ page, demo }) => {
  await open(page, demo);
  const undertow = page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true });
  await undertow.click();
  // What the page shows it has kept.
  await expect(undertow).toHaveAttribute('aria-current', 'true');
  await page.goto(`${demo.address}/stage`);
  await page.reload();
  await expect(page.getByTestId('stage-name')).toHaveText('Undertow');
  await page.keyboard.press('b');
  await expect(page.getByRole('region', { name: 'Skerry' })).toContainText('Deep Choir');
});

test('sixteen ports sending twelve thousand messages: none is lost, and the page answers', async ({ page, demo }) => {
  const names = await withFloodPorts(page, demo);
  await open(page, demo, '/stage');
  await startSound(page);
  await page.keyboard.press('m');
  await expect(page.getByTestId('stage')).toContainText('sound');
  const handled = await (
    await hostOf(page)
  ).evaluate(async (devices) => {
    const globals = globalThis as unknown as FloodGlobals;
    const inputs = devices.map((name) => globals.rackleInput(name));
    const before = globals.rackleHandOver().messages;
    for (let sent = 0; sent < 12_000; sent++) {
      globals.rackleFlood(inputs, sent);
      // What else the frame has to do has its turn between bursts, as between the tasks in which messages come.
      if (sent % 32 === 31) await new Promise((resolve) => setTimeout(resolve));
    }
    return globals.rackleHandOver().messages - before;
  }, names);
  expect(handled).toBe(12_000);
  await expect(page.getByTestId('monitor-count')).toHaveText('10000');
});
