import type { Page } from '@playwright/test';
import { expect, open, tells, test, withoutGuards } from './rackle';

// What the pages tell where a player would wonder.

const recall = async (page: Page, position: number): Promise<void> => {
  const mark = page.locator(`[data-position="${position}"]`);
  await mark.click();
  await expect(mark).toHaveAttribute('aria-current', 'true');
};

test('the first press of a counting switch steps nowhere: stage and Gear say so before it, and what it was for after it', async ({
  page,
  demo,
}) => {
  await withoutGuards(page, demo);
  await open(page, demo, '/gear');
  await expect(page.getByRole('button', { name: /^Updown 2/ })).toContainText('its first press finds its place');
  await recall(page, 0);
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByText('Updown 2 finds its place')).toBeVisible();
  await page.keyboard.press('b');
  const up = page.getByRole('button', { name: 'Updown up' });
  await up.press('Enter');
  await expect(page.getByText('now it is known where it stands')).toBeVisible();
  await expect(page.getByText('Updown 2 finds its place')).toBeHidden();
  await expect(page.locator('[data-position="0"]')).toHaveAttribute('aria-current', 'true');
  await up.press('Enter');
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
});

test('what a layer waits for stands in its row, and on stage, long enough to be read', async ({ page, demo }) => {
  await open(page, demo, '/songs/moth-and-lamp');
  // Its row has to be there before, and Skerry.
  await expect(page.getByRole('rowheader').first()).toBeVisible();
  await expect(page.getByText('11 of 11 ports')).toBeVisible();
  const ash = page.getByRole('button', { name: 'Moth and Lamp, Ash' });
  await tells(page, 'th[scope=row]', /wait(s|ed) for Skerry/, () => ash.click());
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  // Its sound has to stand with Skerry elsewhere first, so that it is switched anew.
  await page.getByRole('button', { name: 'Kelp Dance, Undertow' }).first().click();
  await expect(page.getByTestId('stage-name')).toHaveText('Undertow');
  await tells(page, '[data-testid=stage]', /wait(s|ed) for Skerry/, () => ash.click());
});

test('“cue here” asks what belongs there, and its new row has the focus', async ({ page, demo }) => {
  await open(page, demo, '/timeline/slow-bell');
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  const position = page.getByRole('textbox', { name: 'position', exact: true });
  await position.fill('5 : 1');
  await position.press('Enter');
  await expect(position).toHaveValue(/^5 : 1/);
  const cues = page.getByRole('table', { name: 'cues' }).getByRole('textbox', { name: 'position of the cue' });
  const before = await cues.count();
  await page.getByRole('combobox', { name: 'cue here: what belongs here' }).click();
  await page.getByRole('option', { name: 'Last light', exact: true }).click();
  await expect(cues).toHaveCount(before + 1);
  const row = page.getByRole('row').filter({ has: page.locator('input:focus') });
  await expect(row).toContainText('Last light');
  await expect(row.getByRole('textbox', { name: 'position of the cue' })).toHaveValue(/^5 : 1/);
});

test('a new role’s name, a new song’s row: what is made has the focus, and is in sight', async ({ page, demo }) => {
  await open(page, demo, '/gear');
  await page.getByRole('button', { name: 'add a role' }).click();
  const name = page.getByRole('textbox', { name: 'name of the role' });
  await expect(name).toBeFocused();
  await expect(name).toBeInViewport();
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await page.getByRole('button', { name: 'Add song' }).click();
  await page.getByPlaceholder('name of the song').fill('Lantern Row');
  await page.getByRole('option', { name: /Start a new song/ }).click();
  await expect(page.getByRole('listitem', { name: 'Lantern Row' })).toBeFocused();
  await expect(page.getByRole('listitem', { name: 'Lantern Row' })).toBeInViewport();
});
