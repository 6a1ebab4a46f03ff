import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type Frame, type Locator, type Page } from '@playwright/test';

const ROOT = join(import.meta.dirname, '../..');

/** The built application on a database of its own. */
export class Rackle {
  private child: ChildProcess | null = null;
  address = '';

  constructor(readonly folder = mkdtempSync(join(tmpdir(), 'rackle-e2e-'))) {}

  /**
   * @param port the same again after a restart, so that the page finds it
   * @param pages another build of the interface
   */
  async start(demo: boolean, port = 0, pages = ''): Promise<void> {
    this.child = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
      env: {
        ...process.env,
        PORT: String(port),
        RACKLE_DATA: this.folder,
        ...(pages === '' ? {} : { RACKLE_PAGES: pages }),
        RACKLE_SHOW: demo ? join(ROOT, 'demo/tern-ledge.json') : '',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.address = await new Promise<string>((resolve, reject) => {
      let said = '';
      this.child!.stdout!.on('data', (chunk: Buffer) => {
        said += chunk.toString();
        const found = /http:\/\/127\.0\.0\.1:\d+/.exec(said);
        if (found) resolve(found[0]);
      });
      this.child!.on('exit', () => reject(new Error(`the server ended: ${said}`)));
    });
  }

  get port(): number {
    return Number(new URL(this.address).port);
  }

  /** Ends it as a crash would; one that has ended already stays so. */
  kill(): Promise<void> {
    return new Promise((resolve) => {
      const child = this.child!;
      child.removeAllListeners('exit');
      if (child.exitCode !== null || child.signalCode !== null) return resolve();
      child.on('exit', () => resolve());
      child.kill('SIGKILL');
    });
  }

  async end(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Ends a browser as a crash would: every process that was started with its profile. */
export function crashBrowser(profile: string): void {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid)) {
    try {
      if (readFileSync(`/proc/${pid}/cmdline`, 'latin1').includes(profile)) process.kill(Number(pid), 'SIGKILL');
    } catch {
      // It has ended by itself meanwhile.
    }
  }
}

/** `demo`: a fresh server with the demo show; `empty`: with nothing. */
export const test = base.extend<{ demo: Rackle; empty: Rackle }>({
  demo: async ({ page }, use) => {
    const rackle = new Rackle();
    await rackle.start(true);
    watchErrors(page);
    await use(rackle);
    await rackle.end();
  },
  empty: async ({ page }, use) => {
    const rackle = new Rackle();
    await rackle.start(false);
    watchErrors(page);
    await use(rackle);
    await rackle.end();
  },
});

/** The demo on a server of its own, to be ended by whoever asked. */
export async function demoOn(page: Page): Promise<Rackle> {
  const rackle = new Rackle();
  await rackle.start(true);
  watchErrors(page);
  return rackle;
}

/** Takes the second port away from a page, so that the running side lives in the page itself. */
export async function inPage(page: Page): Promise<void> {
  await page.route('**/*', async (route) => {
    if (route.request().resourceType() !== 'document') return route.fallback();
    const answer = await route.fetch();
    const body = (await answer.text()).replace(/(name="rackle-host" content=")[^"]*/, '$1');
    await route.fulfill({ response: answer, body });
  });
}

function watchErrors(page: Page): void {
  page.on('pageerror', (error) => {
    throw error;
  });
}

export async function open(page: Page, rackle: Rackle, path = '/setlist'): Promise<void> {
  await page.goto(rackle.address + path);
  await expect(page.getByTestId('run-strip').getByRole('button').first()).toBeVisible();
}

/** Where the running side lives: its frame, or the page. What it leaves for tests is reached there. */
export async function hostOf(page: Page): Promise<Frame> {
  const found: { frame: Frame | null } = { frame: null };
  const look = async (): Promise<boolean> => {
    for (const frame of page.frames()) {
      const isIt = await frame.evaluate(() => 'rackleHandOver' in globalThis).catch(() => false);
      if (isIt) found.frame = frame;
    }
    return found.frame !== null;
  };
  await expect.poll(look, { intervals: [20] }).toBe(true);
  return found.frame!;
}

export const peak = async (page: Page): Promise<number> =>
  (await hostOf(page)).evaluate(() => (globalThis as unknown as { rackleOutputPeak(): number }).rackleOutputPeak());

/** The loudest of as many looks, one a frame. */
export async function loudest(page: Page, looks: number): Promise<number> {
  return (await hostOf(page)).evaluate(async (count) => {
    const globals = globalThis as unknown as { rackleOutputPeak?(): number };
    let most = 0;
    for (let look = 0; look < count; look++) {
      await new Promise(requestAnimationFrame);
      most = Math.max(most, globals.rackleOutputPeak?.() ?? 0);
    }
    return most;
  }, looks);
}

/** A step switch that may be hit again at once, so that no test has to wait for its guard time. */
export async function withoutGuards(page: Page, rackle: Rackle): Promise<void> {
  const address = `${rackle.address}/api/v1/gear-lists/rehearsal-loft`;
  const { revision, body } = (await (await page.request.get(address)).json()) as {
    revision: number;
    body: { roles: object[]; ports: { programs?: { kind: string } }[] };
  };
  const roles = body.roles.map((role) => ({ ...role, guardMs: 0 }));
  const ports = body.ports.map((port) =>
    port.programs?.kind === 'counter' ? { ...port, programs: { ...port.programs, guardMs: 0 } } : port,
  );
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.put(address, { headers, data: { ...body, roles, ports } })).ok()).toBe(true);
}

/** How many layers that are near do not stand yet as they will sound. */
export async function unfinished(page: Page): Promise<number> {
  return (await hostOf(page)).evaluate(() =>
    (globalThis as unknown as { rackleUnfinished(): number }).rackleUnfinished(),
  );
}

/** Waits until something sounds that is louder than this; a busy machine may take its time to open its sound. */
export const heard = (page: Page, than = 0.01): Promise<void> =>
  expect.poll(() => loudest(page, 6), { intervals: [0] }).toBeGreaterThan(than);

interface Listening {
  rackleOutputPeak?(): number;
  loudestSince: number;
  listening: ReturnType<typeof setInterval>;
}

/**
 * Listens before it is struck, and all the time until it is heard: what dies away by itself may be over when a busy machine
 * comes to look.
 */
export async function strikes(page: Page, than: number, strike: () => Promise<unknown>): Promise<void> {
  const host = await hostOf(page);
  await host.evaluate(() => {
    const listening = globalThis as unknown as Listening;
    listening.loudestSince = 0;
    listening.listening = setInterval(() => {
      listening.loudestSince = Math.max(listening.loudestSince, listening.rackleOutputPeak?.() ?? 0);
    }, 10);
  });
  await strike();
  await expect.poll(() => host.evaluate(() => (globalThis as unknown as Listening).loudestSince)).toBeGreaterThan(than);
  await host.evaluate(() => clearInterval((globalThis as unknown as Listening).listening));
}

interface Reading {
  isRead?: boolean;
}

/**
 * Reads along from before something is done until words have stood there: what goes away by itself may be over when a busy
 * machine comes to look.
 * @param within a selector of what is read; only what can be seen in it counts
 */
export async function tells(page: Page, within: string, words: RegExp, act: () => Promise<unknown>): Promise<void> {
  await page.evaluate(
    ([parts, source]) => {
      const reading = globalThis as unknown as Reading;
      reading.isRead = false;
      const read = (_: unknown, observer: MutationObserver): void => {
        const seen = [...document.querySelectorAll<HTMLElement>(parts)].map(({ innerText }) => innerText);
        if (!new RegExp(source).test(seen.join('\n'))) return;
        reading.isRead = true;
        observer.disconnect();
      };
      new MutationObserver(read).observe(document.body, { childList: true, characterData: true, subtree: true });
    },
    [within, words.source] as const,
  );
  await act();
  await expect.poll(() => page.evaluate(() => (globalThis as unknown as Reading).isRead)).toBe(true);
}

/**
 * Starts the sound by its key, and waits until it is on: what is played before that is not heard, then or later. A busy
 * machine may take seconds over it.
 */
export async function startSound(page: Page): Promise<void> {
  await page.keyboard.press('s');
  await expect(page.getByRole('meter', { name: 'output level' })).toBeVisible();
}

/** Opens Sounds with the sound on, to hear something in the place of a layer. @returns the search field */
export async function soundsInPlaceOf(page: Page, rackle: Rackle, layer: RegExp): Promise<Locator> {
  await open(page, rackle);
  await startSound(page);
  await page.locator('[data-position="0"]').click();
  await page.getByRole('link', { name: 'Sounds', exact: true }).click();
  await page.getByRole('complementary').getByRole('button', { name: layer }).click();
  return page.getByRole('combobox', { name: 'find a sound' });
}

/** A layer that other patches play too is changed in all of them. */
export const meantEverywhere = (page: Page): Promise<void> =>
  page
    .getByRole('dialog')
    .getByRole('button', { name: /^In (both|all) .*patches$/ })
    .click();

export { expect };
