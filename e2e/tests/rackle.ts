import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, expect, type Page } from '@playwright/test';

const ROOT = join(import.meta.dirname, '../..');

/** The built application on a database of its own. */
export class Rackle {
  private child: ChildProcess | null = null;
  address = '';

  constructor(readonly folder = mkdtempSync(join(tmpdir(), 'rackle-e2e-'))) {}

  /** @param port the same again after a restart, so that the page finds it. */
  async start(demo: boolean, port = 0): Promise<void> {
    this.child = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
      env: {
        ...process.env,
        PORT: String(port),
        RACKLE_DATA: this.folder,
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

  kill(): Promise<void> {
    return new Promise((resolve) => {
      this.child!.removeAllListeners('exit');
      this.child!.on('exit', () => resolve());
      this.child!.kill('SIGKILL');
    });
  }

  async end(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
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

function watchErrors(page: Page): void {
  page.on('pageerror', (error) => {
    throw error;
  });
}

export async function open(page: Page, rackle: Rackle, path = '/setlist'): Promise<void> {
  await page.goto(rackle.address + path);
  await expect(page.getByTestId('run-strip').getByRole('button').first()).toBeVisible();
}

export const peak = (page: Page): Promise<number> =>
  page.evaluate(() => (globalThis as unknown as { rackleOutputPeak(): number }).rackleOutputPeak());

/** The loudest of a stretch of time. */
export async function loudest(page: Page, ms: number): Promise<number> {
  return page.evaluate(async (length) => {
    const { rackleOutputPeak } = globalThis as unknown as { rackleOutputPeak(): number };
    let most = 0;
    for (
      const end = performance.now() + length;
      performance.now() < end;
      await new Promise((resolve) => setTimeout(resolve, 10))
    )
      most = Math.max(most, rackleOutputPeak());
    return most;
  }, ms);
}

/** Waits until something sounds that is louder than this; a busy machine may take its time to open its sound. */
export const heard = (page: Page, than = 0.01): Promise<void> =>
  expect.poll(() => loudest(page, 100), { intervals: [0], timeout: 8000 }).toBeGreaterThan(than);

export { expect };
