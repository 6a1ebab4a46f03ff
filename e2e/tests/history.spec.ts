import type { Page } from '@playwright/test';
import { faults } from './axe';
import { expect, open, test } from './rackle';

const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
const typed = async (page: Page, label: string, value: string): Promise<void> => {
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(value);
  await field.press('Enter');
};
const toHistory = (page: Page) => page.getByRole('contentinfo').getByRole('link', { name: 'history' }).click();
const chosen = (page: Page) => page.getByRole('region', { name: 'what is chosen' });
const saves = (page: Page) => page.getByRole('list', { name: /\d{4}$/ });
const differing = (page: Page) => chosen(page).getByRole('list', { name: 'what differs' }).getByRole('listitem');

test('the chorus of before is looked at as it was, and one layer of it is brought back, and nothing else', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/kelp-dance');
  await page.getByRole('button', { name: 'Deep in Undertow', exact: true }).click();
  await typed(page, 'level', '-9');
  await typed(page, 'lowest key', 'E4');
  await typed(page, 'name of the song', 'Kelp Waltz');
  await saved(page);

  await toHistory(page);
  // The save that made the demo is the oldest.
  await saves(page)
    .getByRole('button', { name: /open a show file/ })
    .click();
  await expect(differing(page)).toHaveCount(2);
  await expect(differing(page).first()).toContainText('called Kelp Waltz, was Kelp Dance');
  await expect(differing(page).last()).toContainText(/Undertow: Deep .*dB, from .* → E4/);

  // As it was: the same sheet on a ground of its own, with what differs marked, where nothing can be changed.
  await chosen(page).getByRole('link', { name: 'Look at it as it was' }).click();
  await expect(page.getByRole('textbox', { name: 'name of the song' })).toHaveValue('Kelp Dance');
  await expect(page.locator('[data-past]')).toHaveCSS('background-color', 'rgb(223, 229, 234)');
  await expect(page.locator('[data-differs$="/parts/kelp-dance-deep"], [data-differs*="/parts/"]')).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Deep in Undertow', exact: true })).toContainText('differs from now');
  expect(await faults(page)).toEqual([]);
  await typed(page, 'name of the song', 'Nothing');
  await expect(page.getByRole('main').getByRole('status').filter({ hasText: 'Nothing changes here' })).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();

  await differing(page)
    .last()
    .getByRole('button', { name: /^bring back/ })
    .click();
  await expect(differing(page)).toHaveCount(1);
  await saved(page);
  await page.goto(`${demo.address}/songs/kelp-dance`);
  await expect(page.getByRole('textbox', { name: 'name of the song' })).toHaveValue('Kelp Waltz');
  await page.getByRole('button', { name: 'Deep in Undertow', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'lowest key', exact: true })).not.toHaveValue('E4');
});

test('a save says what it did, takes a note, and comes back whole as one step that undo takes back', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/slow-bell');
  await typed(page, 'name of the song', 'Slower Bell');
  await typed(page, 'key', 'D');
  await saved(page);
  await toHistory(page);
  await saves(page)
    .getByRole('button', { name: /change the key/ })
    .click();
  await chosen(page).getByRole('combobox', { name: 'compared with' }).click();
  await page.getByRole('option', { name: 'the save before it' }).click();
  await expect(chosen(page).getByRole('list', { name: 'what the edit did' })).toContainText(/key .*D/);

  await saves(page)
    .getByRole('button', { name: /open a show file/ })
    .click();
  const note = chosen(page).getByRole('textbox', { name: 'note on this save' });
  await note.fill('before the rehearsal');
  await note.press('Enter');
  await expect(page.getByRole('button', { name: /before the rehearsal/ })).toBeVisible();
  await chosen(page).getByRole('button', { name: 'Bring all of it back' }).click();
  await expect(chosen(page)).toContainText('It stands so now.');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(differing(page)).toHaveCount(2);
});

test('the show under a name: a song is deleted and comes back from the list of deleted things, the rest with the state', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/history?list=states');
  await page.getByRole('textbox', { name: 'name of the show as it stands now' }).fill('as played at Tern Ledge');
  await page.getByRole('button', { name: 'Name the show as it stands' }).click();
  await page.getByRole('button', { name: /as played at Tern Ledge/ }).click();
  await expect(chosen(page)).toContainText('Everything stands so now');

  await page.goto(`${demo.address}/library`);
  await page.getByRole('button', { name: 'delete Slow Bell' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete it everywhere' }).click();
  await saved(page);

  await page.goto(`${demo.address}/history?list=deleted`);
  await page.getByRole('button', { name: /Slow Bell/ }).click();
  await chosen(page).getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('list', { name: 'what was deleted' }).getByRole('listitem')).toHaveCount(0);

  await page.getByRole('navigation', { name: 'what is kept' }).getByRole('button', { name: 'Named states' }).click();
  await page.getByRole('button', { name: /as played at Tern Ledge/ }).click();
  const setlist = chosen(page).getByRole('listitem', { name: 'Midsummer at Tern Ledge' });
  await expect(setlist).toContainText('Slow Bell taken out');
  await chosen(page).getByRole('button', { name: 'Bring the whole show back' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it back' }).click();
  await expect(chosen(page)).toContainText('Everything stands so now');
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(10);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(9);
});

test('the server’s backups are listed and opened; one thing comes back from one; without the server it is said', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/slow-bell');
  await typed(page, 'name of the song', 'Slower Bell');
  await saved(page);
  await page.goto(`${demo.address}/history?list=backups`);
  await page
    .getByRole('list', { name: 'backups' })
    .getByRole('button', { name: /of the day/ })
    .click();
  await expect(chosen(page)).toContainText('npm run restore');
  const bell = chosen(page).getByRole('listitem', { name: 'Slow Bell' });
  await expect(bell).toContainText('called Slower Bell, was Slow Bell');
  await bell.getByRole('button', { name: 'bring back Slow Bell' }).click();
  await expect(chosen(page)).toContainText('Everything stands so now');
  await saved(page);
  await demo.kill();
  await page.getByRole('navigation', { name: 'what is kept' }).getByRole('button', { name: 'Named states' }).click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText('The server does not answer');
});
