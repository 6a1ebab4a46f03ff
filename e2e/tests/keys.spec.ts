import type { Locator, Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const live = (page: Page) => page.getByTestId('run-strip').locator('[aria-current="true"]');
const isLive = (page: Page, position: number) => expect(live(page)).toHaveAttribute('data-position', String(position));

test('after a click anywhere Space and Enter are the player’s, and never press what was clicked', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="2"]').click();
  await isLive(page, 2);
  await page.keyboard.press('Space');
  await isLive(page, 3);
  // The lock: clicked on, and Space does not take it off.
  await page.getByRole('button', { name: 'Lock for the stage' }).click();
  await page.keyboard.press('Space');
  await isLive(page, 4);
  const unlock = page.getByRole('button', { name: 'Unlock the stage' });
  await expect(unlock).toBeVisible();
  // Locked, a click on the strip moves the cursor, and Enter goes there.
  await page.locator('[data-position="7"]').click();
  await isLive(page, 4);
  await page.keyboard.press('Enter');
  await isLive(page, 7);
  await unlock.click();
  // What the foot opens, Space does not close.
  await page.getByRole('contentinfo').getByRole('button', { name: 'bench' }).click();
  await expect(page.getByTestId('bench')).toBeVisible();
  await page.keyboard.press('Space');
  await isLive(page, 8);
  await expect(page.getByTestId('bench')).toBeVisible();
  // A button of a page as well; what it was clicked for is done once.
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await page.getByRole('button', { name: 'Add patch' }).click();
  const patches = await page.locator('[data-head]').count();
  await page.keyboard.press('Space');
  await isLive(page, 9);
  await expect(page.locator('[data-head]')).toHaveCount(patches);
});

test('keys that belong to what has the focus stay there: a button reached by Tab, a choice, a song’s row', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="0"]').click();
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: /Lock for the stage/ }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Unlock the stage' })).toBeVisible();
  await page.keyboard.press('Space');
  await isLive(page, 0);
  // Backspace on a button of a row is no wish to lose the song; on the row itself it is.
  const rows = page.getByTestId('song-row');
  await rows.nth(1).getByRole('button', { name: /^move/ }).focus();
  await page.keyboard.press('Backspace');
  await expect(rows).toHaveCount(10);
  await rows.nth(1).focus();
  await page.keyboard.press('Backspace');
  await expect(rows).toHaveCount(9);
});

test('single letters can be switched off, and stay off; the list of keys opens by Shift and the key with the question mark', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.keyboard.press('Shift+Slash');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await sheet.getByRole('button', { name: 'single letters are shortcuts' }).click();
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  await page.keyboard.press('l');
  await page.reload();
  await expect(page.getByTestId('run-strip').getByRole('button').first()).toBeVisible();
  await page.keyboard.press('l');
  await page.keyboard.press('Space');
  await isLive(page, 1);
  await expect(page.getByRole('button', { name: 'Lock for the stage' })).toBeVisible();
  // A layout on which the question mark is elsewhere.
  const keyboard = await page.context().newCDPSession(page);
  const key = { key: '?', code: 'Minus', text: '?', modifiers: 8, windowsVirtualKeyCode: 219 };
  await keyboard.send('Input.dispatchKeyEvent', { type: 'keyDown', ...key });
  await keyboard.send('Input.dispatchKeyEvent', { type: 'keyUp', ...key });
  await expect(sheet).toBeVisible();
});

test('what is typed while a page is on its way reaches neither it nor a shortcut', async ({ page, demo }) => {
  let go = (): void => undefined;
  const may = new Promise<void>((resolve) => (go = resolve));
  await page.route('**/SoundsPage*.js', async (route) => {
    await may;
    await route.continue();
  });
  await open(page, demo, '/gear');
  await page.locator('[data-position="0"]').click();
  await isLive(page, 0);
  await page.getByRole('link', { name: 'Sounds', exact: true }).click();
  await page.keyboard.type('blm');
  // The player's own keys are the player's all the while, and so are those that were given to roles.
  await page.keyboard.press('ArrowRight');
  await isLive(page, 1);
  go();
  await expect(page.getByRole('combobox', { name: 'find a sound' })).toHaveValue('');
  await expect(page.getByRole('button', { name: 'Lock for the stage' })).toBeVisible();
  await expect(page.getByTestId('bench')).toBeHidden();
});

test('a zone is moved by its own keys: both ends and the whole, and the player’s arrows step elsewhere only', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/third-ferry-home');
  await page.locator('[data-position="8"]').click();
  await page.keyboard.press('Tab');
  const low = page.getByRole('slider', { name: 'low end of Late Boat' });
  const before = Number(await low.getAttribute('aria-valuenow'));
  await low.focus();
  await page.keyboard.press('ArrowRight');
  await expect(low).toHaveAttribute('aria-valuenow', String(before + 1));
  await page.keyboard.press('PageDown');
  await expect(low).toHaveAttribute('aria-valuenow', String(before - 11));
  await isLive(page, 8);
  const high = page.getByRole('slider', { name: 'high end of Late Boat' });
  const end = Number(await high.getAttribute('aria-valuenow'));
  await page.getByRole('button', { name: 'zone of Late Boat' }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(high).toHaveAttribute('aria-valuenow', String(end - 1));
  await expect(low).toHaveAttribute('aria-valuenow', String(before - 12));
  await expect(high).toHaveAttribute('aria-valuetext', /^[A-G][♯♭]?-?\d$/);
});

test('by keyboard the page is one press away, the strip is one stop with arrows inside, and recalls are said', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'skip to the page' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main')).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('name of the setlist')).toBeFocused();
  // Back into the strip: the tick that is live; arrows go on from there, and Enter recalls.
  await page.keyboard.press('Shift+Tab');
  await page.locator('[data-position="0"]').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('[data-position="2"]')).toBeFocused();
  await isLive(page, 0);
  await page.keyboard.press('Enter');
  await isLive(page, 2);
  await expect(page.getByTestId('said')).toHaveText('Regatta, Biscuit Tin Regatta');
  await expect(page.getByTestId('run-strip').locator('[tabindex="0"]')).toHaveCount(1);
});

/** What opens over a page by keys, and from where. */
const OPENED_BY: [path: string, from: (page: Page) => Locator, press: string][] = [
  ['/setlist', (page) => page.getByTestId('song-row').nth(2), 'Control+k'],
  ['/setlist', (page) => page.getByTestId('song-row').nth(2), 'Shift+Slash'],
  ['/setlist', (page) => page.getByRole('button', { name: 'Add song' }), 'Enter'],
  ['/setlists', (page) => page.getByRole('button', { name: /^delete Midsummer/ }), 'Enter'],
  ['/gear', (page) => page.getByRole('button', { name: /^Updown 2/ }), 'Enter'],
  ['/numbers', (page) => page.getByRole('button', { name: 'Number anew' }), 'Enter'],
];

test('the focus comes back where it came from, after the palette and after every sheet', async ({ page, demo }) => {
  for (const [path, from, press] of OPENED_BY) {
    await open(page, demo, path);
    await from(page).focus();
    await page.keyboard.press(press);
    await expect(page.getByRole('dialog')).toBeVisible();
    await expect(page.locator('[role="dialog"]:focus-within')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
    await expect(from(page), `${press} on ${path}`).toBeFocused();
  }
});

test('what a click opened leaves the keys to the player when it is closed', async ({ page, demo }) => {
  await open(page, demo, '/gear');
  await page.getByRole('button', { name: /^Updown 2/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.keyboard.press('Space');
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
  await expect(page.getByRole('dialog')).toBeHidden();
});

test('a new instrument’s name has the focus', async ({ page, demo }) => {
  await open(page, demo, '/sounds');
  await page.getByRole('button', { name: 'Add outboard gear' }).press('Enter');
  await expect(page.getByRole('textbox', { name: 'name of the instrument' })).toBeFocused();
});
