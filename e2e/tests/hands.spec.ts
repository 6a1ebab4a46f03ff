import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const isLive = (page: Page, position: number) =>
  expect(page.locator(`[data-position="${position}"]`)).toHaveAttribute('aria-current', 'true');
const recall = async (page: Page, position: number): Promise<void> => {
  await page.locator(`[data-position="${position}"]`).click();
  await isLive(page, position);
};
const swell = (page: Page) => page.getByTestId('stage-controls').getByRole('slider', { name: 'value of Swell' });

test('values are taken hold of on stage by pointer and keys, and move what the hardware would move', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/stage');
  await recall(page, 18);
  const box = (await swell(page).boundingBox())!;
  await page.mouse.move(box.x + box.width - 4, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 4, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(swell(page)).toHaveAttribute('aria-valuetext', '−15 dB');
  // It has taken no focus: the player's keys are the player's.
  await page.keyboard.press('ArrowRight');
  await isLive(page, 19);
  await expect(swell(page)).toHaveAttribute('aria-valuetext', '−15 dB');
  await swell(page).focus();
  await page.keyboard.press('Home');
  await expect(swell(page)).toHaveAttribute('aria-valuetext', '−30 dB');
  await isLive(page, 19);
  // The same value on Gear, and on the sheet of what plays.
  await page.getByRole('link', { name: /^Gear/ }).click();
  await expect(page.getByRole('slider', { name: 'value of Swell' })).toHaveAttribute('aria-valuetext', '−30 dB');
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  const sheet = page.getByRole('group', { name: 'what you use here' });
  await sheet.getByRole('slider', { name: 'value of Swell' }).press('End');
  await expect(sheet).toContainText('0 dB');
});

test('eight large faders on demand: roles without a control too, and the levels of the layers until the next recall', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/stage');
  await recall(page, 18);
  await page.getByRole('button', { name: 'faders' }).click();
  const faders = page.getByRole('region', { name: 'faders' });
  const echo = faders.getByRole('slider', { name: 'value of Echo' });
  await echo.press('Home');
  await expect(echo).toHaveAttribute('aria-valuetext', '−40 dB');
  const level = faders.getByRole('slider', { name: 'level of Growl' });
  const before = await level.getAttribute('aria-valuetext');
  await level.press('Home');
  await expect(level).toHaveAttribute('aria-valuetext', '−60 dB');
  await page.keyboard.press('Escape');
  await recall(page, 0);
  await recall(page, 18);
  await expect(level).toHaveAttribute('aria-valuetext', before!);
  await page.getByRole('button', { name: 'faders' }).click();
  await expect(faders).toBeHidden();
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  /** A finger that stays, and goes where it is told meanwhile. */
  async function finger(page: Page, at: { x: number; y: number }) {
    const session = await page.context().newCDPSession(page);
    const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
      session.send('Input.dispatchTouchEvent', { type, touchPoints: points });
    await send('touchStart', [at]);
    return { to: (x: number, y: number) => send('touchMove', [{ x, y }]), up: () => send('touchEnd', []) };
  }
  const middle = async (page: Page, name: string | RegExp): Promise<{ x: number; y: number }> => {
    const { x, y, width, height } = (await page.getByRole('button', { name, exact: true }).boundingBox())!;
    return { x: x + width / 2, y: y + height / 2 };
  };

  test('steps and key; while the stage is locked only what is held does something', async ({ page, demo }) => {
    await open(page, demo, '/stage');
    await recall(page, 0);
    await page.getByRole('button', { name: 'next', exact: true }).tap();
    await isLive(page, 1);
    await page.getByRole('button', { name: 'a semitone up' }).tap();
    await expect(page.getByText('+1 (stage)')).toBeVisible();
    await page.getByRole('button', { name: 'transposition off' }).tap();
    await page.keyboard.press('l');
    await page.getByRole('button', { name: 'next', exact: true }).tap();
    await page.getByRole('button', { name: 'previous', exact: true }).tap();
    await isLive(page, 1);
    const held = await finger(page, await middle(page, 'next'));
    await isLive(page, 2);
    await held.up();
    await isLive(page, 2);
  });

  test('a held finger moves a value on the locked stage; a pointer and a brush of the finger do not', async ({
    page,
    demo,
  }) => {
    await open(page, demo, '/stage');
    await recall(page, 18);
    await page.keyboard.press('l');
    const box = (await swell(page).boundingBox())!;
    const [right, y] = [box.x + box.width - 6, box.y + box.height / 2];
    await page.mouse.move(right, y);
    await page.mouse.down();
    await page.mouse.move(box.x, y, { steps: 3 });
    await page.mouse.up();
    const brush = await finger(page, { x: right, y });
    await brush.to(box.x, y);
    await brush.up();
    await expect(swell(page)).toHaveAttribute('aria-valuetext', '0 dB');
    const held = await finger(page, { x: right, y });
    await expect(swell(page)).toHaveAttribute('data-held', 'true');
    await held.to(right - box.width / 2, y);
    await held.up();
    await expect(swell(page)).toHaveAttribute('aria-valuetext', '−15 dB');
  });

  test('a finger held at the right edge draws the faders in; panic has to be held', async ({ page, demo }) => {
    await open(page, demo, '/stage');
    await recall(page, 18);
    // The strip knows of a recall before the stage has been fetched.
    await expect(page.getByTestId('stage-name')).toHaveText('Undertow');
    const held = await finger(page, { x: 1268, y: 300 });
    await expect(page.getByRole('region', { name: 'faders' })).toBeVisible();
    await held.up();
    await page.keyboard.press('b');
    await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
    await page.keyboard.down('q');
    const down = page.getByTestId('stage').getByTestId(/^held-/);
    await expect(down.first()).toBeVisible();
    await page.getByRole('button', { name: 'Panic' }).tap();
    await expect(down.first()).toBeVisible();
    const panic = await finger(page, await middle(page, 'Panic'));
    await expect(down).toHaveCount(0);
    await panic.up();
    await page.keyboard.up('q');
  });
});
