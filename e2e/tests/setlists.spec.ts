import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const isLive = (page: Page, position: number) =>
  expect(page.locator(`[data-position="${position}"]`)).toHaveAttribute('aria-current', 'true');

test('the next gig starts as a copy: a song dropped, a break put in, a key for tonight’s singer; its pedals work', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.getByRole('link', { name: 'All setlists' }).click();
  await page.getByRole('textbox', { name: 'name of a new setlist' }).fill('Harvest at the Low Barn');
  await expect(page.getByRole('combobox', { name: 'start it as' })).toHaveText('a copy of Midsummer at Tern Ledge');
  await page.getByRole('button', { name: 'Start a setlist' }).click();
  await expect(page.getByRole('textbox', { name: 'name of the setlist' })).toHaveValue('Harvest at the Low Barn');
  const rows = page.getByTestId('song-row');
  await page.getByRole('button', { name: 'take out Tin Roof Waltz' }).click();
  await expect(rows).toHaveCount(9);
  await page.getByRole('button', { name: 'Add break' }).click();
  await expect(page.getByTestId('break')).toHaveCount(2);
  const shift = page.getByRole('textbox', { name: 'key shift of Biscuit Tin Regatta tonight' });
  await shift.fill('2');
  await shift.press('Enter');
  // What the feet always do is done here too, though it was said nowhere.
  await page.locator('[data-position="0"]').click();
  await isLive(page, 0);
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'Clack pedal 1' }).press('Enter');
  await isLive(page, 1);
  await page.locator('[data-position="0"]').click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByText('+2 (tonight +2)')).toBeVisible();
  // The first gig is what it was.
  await page.getByRole('link', { name: /Harvest at the Low Barn/ }).click();
  await page.getByRole('button', { name: 'make Midsummer at Tern Ledge tonight’s' }).click();
  await page.getByRole('link', { name: 'tonight’s', exact: true }).click();
  await expect(rows).toHaveCount(10);
  await expect(page.getByRole('textbox', { name: 'key shift of Biscuit Tin Regatta tonight' })).toHaveValue('±0');
});

test('gigs have a day, a place, a start and a curfew; one is deleted after a question, and undo brings it back', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/setlists');
  await page.getByRole('combobox', { name: 'start it as' }).click();
  await page.getByRole('option', { name: 'empty' }).click();
  await page.getByRole('textbox', { name: 'name of a new setlist' }).fill('Low Barn');
  await page.getByRole('button', { name: 'Start a setlist' }).click();
  await expect(page.getByText('No songs yet')).toBeVisible();
  await page.getByRole('link', { name: 'All setlists' }).click();
  await page.getByLabel('day of Low Barn').fill('2099-10-03');
  await page.getByRole('textbox', { name: 'place of Low Barn' }).fill('The barn');
  const start = page.getByRole('textbox', { name: 'start of Low Barn' });
  await start.fill('8 pm');
  await start.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'a time reads 20:30' })).toBeVisible();
  await start.fill('19:45');
  await start.press('Enter');
  const saved = async (): Promise<unknown> => {
    const show = await page.request.get(`${demo.address}/api/v1/show/file`);
    const { setlists } = (await show.json()) as {
      setlists: { name: string; date: string; place: string; startsAt: string }[];
    };
    const found = setlists.find(({ name }) => name === 'Low Barn');
    return found && [found.date, found.place, found.startsAt];
  };
  await expect.poll(saved).toEqual(['2099-10-03', 'The barn', '19:45']);
  await page.getByRole('button', { name: 'delete Low Barn' }).click();
  await expect(page.getByRole('dialog')).toContainText('Tonight’s is then Midsummer at Tern Ledge');
  await page.getByRole('dialog').getByRole('button', { name: 'Delete it' }).click();
  await expect(page.getByRole('listitem', { name: 'Low Barn' })).toBeHidden();
  await expect.poll(saved).toBe(undefined);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('listitem', { name: 'Low Barn' })).toBeVisible();
  await expect.poll(saved).toEqual(['2099-10-03', 'The barn', '19:45']);
});

test('what a role does in every setlist is let be of one only, and back again', async ({ page, demo }) => {
  await open(page, demo, '/gear');
  await page.getByRole('button', { name: 'Echo', exact: true }).click();
  const uses = page.getByRole('region', { name: 'what Echo does' });
  await expect(uses).toContainText('every setlist: echo of everything');
  await uses.getByRole('button', { name: 'let it do so in Midsummer at Tern Ledge only' }).click();
  await expect(uses).toContainText('Midsummer at Tern Ledge: echo of everything');
  await uses.getByRole('button', { name: 'let it do so in every setlist' }).click();
  await expect(uses).toContainText('every setlist: echo of everything');
});

test('a song is skipped tonight and takes no time; an evening that is too long says what to skip', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/setlist');
  const row = page.getByRole('listitem', { name: 'Kelp Dance' });
  await row.getByRole('button', { name: 'skip Kelp Dance tonight' }).click();
  await expect(row.getByRole('button', { name: 'skip Kelp Dance tonight', pressed: true })).toBeVisible();
  await expect(page.getByText(/over at 21:29/)).toBeVisible();
  await expect(
    page.getByRole('img', { name: 'the evening: 9 songs from 20:30 to 21:29, tempo 42 to 176' }),
  ).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/over at 21:33/)).toBeVisible();
  await page.getByRole('link', { name: 'All setlists' }).click();
  await page.getByLabel('curfew of Midsummer at Tern Ledge').fill('21:30');
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'pages' }).getByRole('link', { name: 'Setlist', exact: true }).click();
  await page.getByRole('button', { name: /^skip .* to end in time$/ }).click();
  await expect(page.getByText('late', { exact: true })).toHaveCount(0);
});

test('songs that are really played longer say so, and their lengths are taken as one step', async ({ page, demo }) => {
  await page.addInitScript(() =>
    localStorage.setItem('rackle.lengths', JSON.stringify({ 'kelp-dance': [262, 250, 255], 'slow-bell': [301] })),
  );
  await open(page, demo);
  const played = page.getByRole('region', { name: 'lengths as played' });
  await expect(played.getByRole('listitem')).toHaveText(['Kelp Dance3:54 → 4:15']);
  await played.getByRole('button', { name: 'Take them' }).click();
  await expect(page.getByRole('listitem', { name: 'Kelp Dance' }).getByRole('textbox', { name: 'length' })).toHaveValue(
    '4:15',
  );
  await expect(played).toBeHidden();
  await page.getByRole('button', { name: 'Undo: take the lengths as played' }).click();
  await expect(played).toBeVisible();
});

test('a tempo for tonight is played by, stands on the sheet, and goes when the song’s own is typed', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  const tempo = page.getByRole('textbox', { name: 'tempo of Tin Roof Waltz tonight' });
  await tempo.fill('9999');
  await tempo.press('Enter');
  await expect(page.getByRole('alert')).toBeVisible();
  await tempo.press('Escape');
  await tempo.fill('150');
  await tempo.press('Enter');
  await page.getByRole('button', { name: 'Tin Roof Waltz, Rain' }).click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-tempo')).toHaveText('150');
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await expect(page.getByRole('main')).toContainText('tonight ♩ 150');
  await expect(page.getByRole('textbox', { name: 'tempo', exact: true })).toHaveValue('168');
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await tempo.fill('168');
  await tempo.press('Enter');
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-tempo')).toHaveText('168');
});
