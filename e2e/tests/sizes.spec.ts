import { PAGES } from './axe';
import { expect, open, test } from './rackle';

/** Windows of players, and 1280 × 800 at 150 and 200 % zoom. */
const SIZES = [
  [1280, 800],
  [1920, 1080],
  [1024, 768],
  [820, 1180],
  [853, 533],
  [640, 400],
] as const;

for (const [width, height] of SIZES)
  test(`at ${width} × ${height} no page scrolls sideways, and panic and lock are on the screen, at the right`, async ({
    page,
    demo,
  }) => {
    await page.setViewportSize({ width, height });
    await open(page, demo);
    for (const path of PAGES) {
      await open(page, demo, path);
      await expect(page.getByRole('main').getByRole('heading').or(page.getByTestId('stage')).first()).toBeVisible();
      // Once its letters are there, and everything stands where it stays.
      const wide = () =>
        page.evaluate(async () => {
          await document.fonts.ready;
          const main = document.querySelector('main')!;
          const over = document.documentElement.scrollWidth - innerWidth;
          return { page: Math.max(0, over), main: main.scrollWidth - main.clientWidth };
        });
      await expect.poll(wide, { message: path }).toEqual({ page: 0, main: 0 });
      const panic = (await page.getByRole('button', { name: 'Panic' }).boundingBox())!;
      const lock = (await page.getByRole('button', { name: 'Lock for the stage' }).boundingBox())!;
      expect.soft(panic.x + panic.width, path).toBeGreaterThan(width - 40);
      expect.soft(panic.x + panic.width, path).toBeLessThanOrEqual(width);
      expect.soft(lock.y + lock.height, path).toBeLessThan(90);
      expect
        .soft(Math.min(panic.height, lock.height, lock.width), path)
        .toBeGreaterThanOrEqual(path === '/stage' ? 64 : 44);
    }
  });
