import { Beside } from './beside';
import { demoOn, expect, hostOf, inPage, loudest, open, startSound, test, type Rackle } from './rackle';
import type { FloodGlobals } from './flood';
import type { Page } from '@playwright/test';

const isPlaying = (page: Page) => expect(page.locator('[data-position="0"]')).toHaveAttribute('aria-current', 'true');
const gear = async (page: Page, rackle: Rackle) => {
  await page.goto(`${rackle.address}/gear`);
  return page.getByTestId('running-side');
};
/** A key of Aster 73, from within the host's own window. */
const key = async (page: Page, velocity: number): Promise<void> =>
  (await hostOf(page)).evaluate((v) => {
    const globals = globalThis as unknown as FloodGlobals & { hands?: ReturnType<FloodGlobals['rackleInput']> };
    globals.hands ??= globals.rackleInput('Aster 73');
    globals.hands.emit(v > 0 ? 0x90 : 0x80, 60, v);
  }, velocity);

/** A key is struck until the sound, which may still be opening, is heard. */
const playsAndSounds = (page: Page): Promise<void> =>
  expect
    .poll(async () => {
      await key(page, 90);
      const loud = await loudest(page, 6);
      await key(page, 0);
      return loud;
    })
    .toBeGreaterThan(0.01);

test('the running side has a process of its own: with the page stuck for good, notes are still handed on', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await isPlaying(page);
  const host = await hostOf(page);
  expect(new URL(host.url()).pathname).toBe('/host.html');
  expect(new URL(host.url()).origin).not.toBe(demo.address);
  const session = await page.context().newCDPSession(page);
  await session.send('Runtime.enable');
  // The page never comes back by itself.
  const stuck = page.evaluate(() => {
    for (;;);
  });
  stuck.catch(() => undefined);
  const handled = await host.evaluate(async () => {
    const globals = globalThis as unknown as FloodGlobals;
    const input = globals.rackleInput('Aster 73');
    const before = globals.rackleHandOver().messages;
    const { port1, port2 } = new MessageChannel();
    for (let i = 0; i < 500; i++) {
      input.emit(i % 2 === 0 ? 0x90 : 0x80, 60, 80);
      // Each in a task of its own.
      await new Promise((resolve) => {
        port1.onmessage = resolve;
        port2.postMessage(null);
      });
    }
    return globals.rackleHandOver().messages - before;
  });
  expect(handled).toBe(500);
  await session.send('Runtime.terminateExecution');
  await expect(stuck).rejects.toThrow();
  await expect(await gear(page, demo)).toContainText('a process of its own');
});

test('a frame that stops is started again in the same patch, with its sound, and says so', async ({ page, demo }) => {
  await open(page, demo);
  await page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true }).click();
  await startSound(page);
  await playsAndSounds(page);
  const host = await hostOf(page);
  host
    .evaluate(() => {
      for (;;);
    })
    .catch(() => undefined);
  await expect(page.getByText('It is started again in the same patch')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true })).toHaveAttribute(
    'aria-current',
    'true',
  );
  await playsAndSounds(page);
  expect(await hostOf(page)).not.toBe(host);
  await page.getByRole('link', { name: 'Gear' }).click();
  await expect(page.getByTestId('running-side')).toContainText('started again once');
});

test('a frame whose process crashes is started again at once, in the same patch, with what hands have moved', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/stage');
  await page.locator('[data-position="4"]').click();
  await expect(page.locator('[data-position="4"]')).toHaveAttribute('aria-current', 'true');
  const controls = page.getByTestId('stage-controls');
  const host = await hostOf(page);
  const move = (value: number) =>
    host.evaluate((to) => (globalThis as unknown as FloodGlobals).rackleInput('Heel 1').emit(0xb0, 11, to), value);
  // A pedal that is picked up where the value stands, and drawn down.
  await move(127);
  await move(64);
  await expect(controls).toContainText(/level of everything−\d/);
  const moved = await controls.textContent();
  // To the browser's driver the page is gone with its frame; to a player it is not. Who asks in the middle of the crash
  // may never be answered.
  const window = await Beside.page(page.context().browser()!, demo.address);
  const session = await page.context().newCDPSession(host);
  session.send('Page.crash').catch(() => undefined);
  await expect.poll(() => window.text('body')).toContain('It is started again in the same patch');
  await expect.poll(() => window.text('[data-testid="stage-controls"]')).toBe(moved);
  expect(await window.evaluate(`document.querySelector('[data-position="4"]').getAttribute('aria-current')`)).toBe(
    'true',
  );
});

test('a frame that never loads: the page plays itself, and Gear says why', async ({ page, demo }) => {
  await page.route('**/host.html', (route) => route.abort());
  await open(page, demo);
  await isPlaying(page);
  await startSound(page);
  await playsAndSounds(page);
  await expect(await gear(page, demo)).toContainText('its own frame did not answer');
});

test('a frame of another build does not half connect: after one reload of both the page plays itself', async ({
  page,
  demo,
}) => {
  await page.route('**/assets/host-*.js', async (route) => {
    const answer = await route.fetch();
    await route.fulfill({
      response: answer,
      body: 'parent.postMessage({ rackle: "ready", build: "older", protocol: 1 }, "*");',
    });
  });
  await open(page, demo);
  await isPlaying(page);
  await expect(await gear(page, demo)).toContainText('of another version');
});

test('what else speaks to page and frame is not heard', async ({ page, demo }) => {
  await open(page, demo);
  await isPlaying(page);
  const host = await hostOf(page);
  // A page of another origin, a connection that does not come from the parent, nonsense, and a ready from nowhere.
  await host.evaluate(() => {
    const { port1 } = new MessageChannel();
    window.postMessage({ rackle: 'connect', build: 'tests', protocol: 6 }, location.origin, [port1]);
    window.postMessage('connect', location.origin);
  });
  await page.evaluate(() => {
    window.postMessage({ rackle: 'ready', build: 'tests', protocol: 6 }, location.origin);
    window.postMessage(null, location.origin);
  });
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
  // Opened by itself it is an empty document that plays nothing.
  const alone = await page.context().newPage();
  await alone.goto(host.url());
  expect(await alone.evaluate(() => 'rackleHandOver' in globalThis)).toBe(false);
  // And another page may not hold it.
  const answer = await page.request.get(host.url());
  expect(answer.headers()['content-security-policy']).toContain(`frame-ancestors ${demo.address}`);
  expect(answer.headers()['x-frame-options']).toBeUndefined();
  expect(answer.headers()['origin-agent-cluster']).toBe('?1');
});

test('of two windows one plays; the other says so, and takes over when it is asked to', async ({ page, demo }) => {
  await open(page, demo);
  await isPlaying(page);
  const other = await page.context().newPage();
  await other.goto(`${demo.address}/setlist`);
  await expect(other.getByText('Rackle plays in the other window.')).toBeVisible();
  await other.getByRole('button', { name: 'Play here' }).click();
  await isPlaying(other);
  await expect(page.getByText('Rackle plays in the other window.')).toBeVisible();
  await other.keyboard.press('ArrowRight');
  await expect(other.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
  // When the one that plays is closed, the other goes on where it was.
  await other.close();
  await expect(page.getByText('Rackle plays in the other window.')).toBeHidden();
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
});

test('in the page, without a second port, it plays as well', async ({ page }) => {
  const rackle = await demoOn(page);
  await inPage(page);
  await open(page, rackle);
  await isPlaying(page);
  await startSound(page);
  await playsAndSounds(page);
  await expect(await gear(page, rackle)).toContainText('without a second port');
  await rackle.end();
});
