import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';
import { loadOffline, type Globals } from './offline';

test('a port message is handed over in under 0.3 ms (median) and 2 ms (99th percentile) while the stage redraws', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/stage');
  await page.keyboard.press('s');
  await page.keyboard.press('b');
  await expect(page.getByTestId('stage')).toContainText('sound');
  // The timeline plays, so that the stage redraws all the while; the keys are struck from within the page, forty a
  // second.
  await page.locator('body').click({ position: { x: 400, y: 300 } });
  await page.keyboard.press('p');
  await expect(page.getByTestId('stage')).toContainText('playing');
  // Between strikes the page measures how long it is itself held up by whatever else the machine does.
  const stalls = await page.evaluate(async () => {
    const overruns: number[] = [];
    const probe = () => {
      const start = performance.now();
      while (performance.now() - start < 0.3);
      overruns.push(performance.now() - start - 0.3);
    };
    const keys = document.querySelector('[data-keys="own"]')!;
    const strike = (type: string, code: string) =>
      keys.dispatchEvent(new KeyboardEvent(type, { code, bubbles: true, cancelable: true }));
    for (let i = 0; i < 400; i++) {
      const code = ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU'][i % 7];
      strike('keydown', code);
      await new Promise((resolve) => setTimeout(resolve, 20));
      probe();
      strike('keyup', code);
      await new Promise((resolve) => setTimeout(resolve, 5));
      probe();
    }
    overruns.sort((a, b) => a - b);
    return { p99Ms: overruns[Math.floor(overruns.length * 0.99)] };
  });
  const handOver = await page.evaluate(() =>
    (
      globalThis as unknown as { rackleHandOver(): { messages: number; medianMs: number; p99Ms: number } }
    ).rackleHandOver(),
  );
  console.log(
    `hand-over over ${handOver.messages} messages: median ${handOver.medianMs.toFixed(3)} ms, 99th percentile ${handOver.p99Ms.toFixed(3)} ms; a bare loop of 0.3 ms is held up by ${stalls.p99Ms.toFixed(3)} ms (99th percentile)`,
  );
  expect(handOver.messages).toBeGreaterThanOrEqual(800);
  expect(handOver.medianMs).toBeLessThan(0.3);
  // On a machine that stalls a bare loop, its stalls are not the application's.
  expect(handOver.p99Ms).toBeLessThan(2 + 2 * stalls.p99Ms);
});

test('the first page is usable within two seconds of the request', async ({ page, demo }) => {
  const started = Date.now();
  await page.goto(demo.address);
  await expect(page.getByTestId('song-row')).toHaveCount(10);
  await expect(page.locator('[data-position="0"]')).toHaveAttribute('aria-current', 'true');
  const took = Date.now() - started;
  console.log(`first page usable after ${took} ms`);
  expect(took).toBeLessThan(2000);
});

test('what the first page fetches is under 250 kB of gzipped script, and nothing comes from elsewhere', async ({
  page,
  demo,
}) => {
  const scripts: Promise<Buffer>[] = [];
  const elsewhere: string[] = [];
  page.on('response', (response) => {
    if (!response.url().startsWith(demo.address) && !/^(data|blob):/.test(response.url()))
      elsewhere.push(response.url());
    if (response.url().endsWith('.js')) scripts.push(response.body());
  });
  await open(page, demo);
  // What comes after the first page is there is not the entry.
  const entry = [...scripts];
  const { gzipSync } = await import('node:zlib');
  const bytes = (await Promise.all(entry)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  console.log(`entry: ${Math.round(bytes / 1000)} kB gzipped`);
  expect(elsewhere).toEqual([]);
  expect(bytes).toBeLessThan(250_000);
});

test('after a reload mid-song the same patch stands, with its addresses, within two seconds', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.getByRole('button', { name: 'Kelp Dance, Undertow', exact: true }).click();
  await page.goto(`${demo.address}/stage`);
  const started = Date.now();
  await page.reload();
  await expect(page.getByTestId('stage-name')).toHaveText('Undertow');
  expect(Date.now() - started).toBeLessThan(2000);
  await page.keyboard.press('b');
  await expect(page.getByRole('region', { name: 'Skerry' })).toContainText('Deep Choir');
});

test('sixteen ports sending two thousand messages a second together: none is lost, each is handed over in under 3 ms (99th percentile), the page answers', async ({
  page,
  demo,
}) => {
  const address = `${demo.address}/api/v1/gear-lists/rehearsal-loft`;
  const { revision, body } = (await (await page.request.get(address)).json()) as {
    revision: number;
    body: { ports: object[] };
  };
  const names = Array.from({ length: 16 }, (_, i) => `Flood ${i + 1}`);
  const ports = [
    ...body.ports,
    ...names.map((name, i) => ({
      direction: 'in',
      alias: name,
      device: name,
      plays: i < 2,
      programs: { kind: 'off' },
    })),
  ];
  expect(
    (await page.request.put(address, { headers: { 'If-Match': `"${revision}"` }, data: { ...body, ports } })).ok(),
  ).toBe(true);
  await open(page, demo, '/stage');
  await page.keyboard.press('s');
  await page.keyboard.press('m');
  await expect(page.getByTestId('stage')).toContainText('sound');
  const result = await page.evaluate(async (devices) => {
    const globals = globalThis as unknown as {
      rackleInput(name: string): { emit(status: number, data1: number, data2: number): void };
      rackleHandOver(): { messages: number; medianMs: number; p99Ms: number };
    };
    const inputs = devices.map((name) => globals.rackleInput(name));
    const before = globals.rackleHandOver().messages;
    let sent = 0;
    let longestFrameMs = 0;
    let lastFrame = performance.now();
    let running = true;
    const frame = (now: number): void => {
      longestFrameMs = Math.max(longestFrameMs, now - lastFrame);
      lastFrame = now;
      if (running) requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
    const overruns: number[] = [];
    const start = performance.now();
    // As many as are due by now, from all ports in turn: notes on and off, controllers, wheels.
    while (performance.now() - start < 6000) {
      for (const due = Math.floor(((performance.now() - start) * 2000) / 1000); sent < due; sent++) {
        const input = inputs[sent % 16];
        const turn = Math.floor(sent / 16);
        if (turn % 4 === 0) input.emit(0x90, 40 + (turn % 48), 80);
        else if (turn % 4 === 1) input.emit(0x80, 40 + ((turn - 1) % 48), 64);
        else if (turn % 4 === 2) input.emit(0xb0, 20 + (sent % 8), turn & 127);
        else input.emit(0xe0, 0, turn & 127);
      }
      await new Promise((resolve) => setTimeout(resolve, 4));
      const probe = performance.now();
      while (performance.now() - probe < 0.3);
      overruns.push(performance.now() - probe - 0.3);
    }
    running = false;
    overruns.sort((a, b) => a - b);
    return {
      sent,
      handled: globals.rackleHandOver().messages - before,
      handOver: globals.rackleHandOver(),
      longestFrameMs,
      stallMs: overruns[Math.floor(overruns.length * 0.99)],
    };
  }, names);
  console.log(
    `16 ports: ${result.sent} sent, ${result.handled} handled; median ${result.handOver.medianMs.toFixed(3)} ms, 99th percentile ${result.handOver.p99Ms.toFixed(3)} ms; longest frame ${result.longestFrameMs.toFixed(0)} ms; a bare loop of 0.3 ms is held up by ${result.stallMs.toFixed(3)} ms`,
  );
  expect(result.sent).toBeGreaterThan(11_500);
  expect(result.handled).toBe(result.sent);
  expect(result.handOver.p99Ms).toBeLessThan(3 + 2 * result.stallMs);
  await expect(page.getByTestId('monitor-count')).toHaveText('10000');
});

test('32 layers over eight instruments with 64 voices are made faster than they sound, and without a drop-out', async ({
  page,
}) => {
  await loadOffline(page);
  const { seconds, tookMs, peak, silentMs } = await page.evaluate(() =>
    (globalThis as unknown as Globals).offline.load(),
  );
  console.log(
    `32 layers, 64 voices: ${seconds} s rendered in ${Math.round(tookMs)} ms (${((100 * tookMs) / 1000 / seconds).toFixed(0)} % of the time that they last)`,
  );
  expect(peak).toBeGreaterThan(0.02);
  expect(silentMs).toBe(0);
  expect(tookMs).toBeLessThan(seconds * 1000);
});

/**
 * Listens for keys: from each to the frame that shows what it did, as the browser itself measures it (Event Timing, in
 * steps of 8 ms).
 */
const timeKeys = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const globals = globalThis as unknown as { took: number[] };
    globals.took = [];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) if (entry.name === 'keydown') globals.took.push(entry.duration);
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
async function tookMs(page: Page): Promise<{ median: number; slowest: number; count: number }> {
  for (let i = 0; i < 15; i++) {
    await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(200);
  }
  const took = (await page.evaluate(() => (globalThis as unknown as { took: number[] }).took)).sort((x, y) => x - y);
  return { median: took[Math.floor(took.length / 2)] ?? 16, slowest: took.at(-1) ?? 16, count: took.length };
}
/** A key in an empty page takes one frame on a quiet machine; what is more is the machine's own. */
const ONE_FRAME_MS = 16;

test('a sheet of 24 layers and 40 patches answers to an edit within 50 ms', async ({ page, demo }) => {
  const song = {
    id: 'wide',
    name: 'Wide',
    layers: Array.from({ length: 24 }, (_, i) => ({
      id: `l${i}`,
      name: `Layer ${i + 1}`,
      tape: 'moss',
      sound: { instrumentId: 'causeway', presetId: 'causeway/late-boat' },
    })),
    patches: Array.from({ length: 40 }, (_, p) => ({
      id: `p${p}`,
      name: `Patch ${p + 1}`,
      parts: Array.from({ length: 24 }, (_, i) => ({ layerId: `l${i}` })),
    })),
  };
  await page.request.put(`${demo.address}/api/v1/songs/wide`, { headers: { 'If-None-Match': '*' }, data: song });
  await open(page, demo, '/songs/wide');
  const level = page.getByLabel('level', { exact: true });
  await level.focus();
  await timeKeys(page);
  const edit = await tookMs(page);
  await expect(level).toHaveValue('−13.5 dB');
  await page.goto('about:blank');
  await page.setContent('<input type="number" value="500" autofocus>');
  await timeKeys(page);
  const empty = await tookMs(page);
  console.log(
    `an edit on the wide sheet: median ${edit.median} ms, slowest ${edit.slowest} ms of ${edit.count}; a key in an empty page ${empty.median} ms`,
  );
  expect(edit.median).toBeLessThan(50 + Math.max(0, empty.median - ONE_FRAME_MS));
});
