import type { Page } from '@playwright/test';
import { expect, open, startSound, test } from './rackle';

// Long jobs, from beginning to end, by what can be seen and pressed.

const isLive = (page: Page, name: string) =>
  expect(page.locator('[aria-current="true"][data-position]')).toHaveAttribute('aria-label', name);
const role = (page: Page, name: string) => page.getByRole('group', { name, exact: true });
const gearList = async (page: Page, name: string): Promise<void> => {
  await page.getByRole('combobox', { name: 'gear list' }).click();
  await page.getByRole('option', { name, exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'name of the gear list' })).toHaveValue(name);
};
const learn = async (page: Page, name: string, control: string): Promise<void> => {
  await role(page, name).getByRole('button', { name: 'learn', exact: true }).click();
  await expect(page.getByTestId('learn')).toContainText(name);
  for (const type of ['pointerdown', 'pointerup', 'pointerdown', 'pointerup'])
    await page.getByRole('button', { name: control, exact: true }).dispatchEvent(type);
  await expect(page.getByTestId('learn')).toBeHidden();
};
const press = async (page: Page, control: string): Promise<void> => {
  await page.getByRole('button', { name: control, exact: true }).dispatchEvent('pointerdown');
  await page.getByRole('button', { name: control, exact: true }).dispatchEvent('pointerup');
};

test('two gear lists: a role is learned in each from another control, they are swapped, and no song changes', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/gear');
  await page.keyboard.press('b');
  const songs = async (): Promise<unknown> => {
    const show = await (await page.request.get(`${demo.address}/api/v1/show/file`)).json();
    return (show as { songs: unknown }).songs;
  };
  const before = await songs();
  await learn(page, 'Next song', 'Cobble pad 7');
  await expect(role(page, 'Next song')).toContainText('pad 7');
  await gearList(page, 'Ferry bag');
  await expect(role(page, 'Next song')).toContainText('open');
  await learn(page, 'Next song', 'Cobble pad 2');
  await expect(role(page, 'Next song')).toContainText('pad 2');
  await press(page, 'Cobble pad 2');
  await isLive(page, 'Tin Roof Waltz, Rain');
  await gearList(page, 'Rehearsal loft');
  await expect(role(page, 'Next song')).toContainText('pad 7');
  await press(page, 'Cobble pad 7');
  await isLive(page, 'Third Ferry Home, Quay');
  // What plays it in the bag plays something else here, as it did before.
  await press(page, 'Cobble pad 2');
  await isLive(page, 'Third Ferry Home, Gangway');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved/);
  expect(await songs()).toEqual(before);
});

test('one patch for a whole piece: four layers, three blends, and switches that mute, all of it played by foot', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/library');
  await page.getByRole('button', { name: 'New song' }).click();
  const name = page.getByRole('textbox', { name: 'name of the song' });
  await name.fill('Harbour piece');
  await name.press('Enter');
  // A second and a third layer, by their sounds.
  for (const [wanted, found] of [
    ['slow tide', 'Slow Tide'],
    ['round', 'Round'],
  ]) {
    await page.getByRole('button', { name: 'Add layer' }).click();
    const find = page.getByRole('combobox', { name: 'find a sound' });
    await find.fill(wanted);
    await page.getByRole('option').filter({ hasText: found }).first().click();
    await page.getByRole('button', { name: /^Keep for/ }).click();
    await expect(page.getByRole('region', { name: 'signal line' })).toContainText(found);
  }
  const rows = page.getByRole('textbox', { name: 'name of the layer' });
  await expect(rows).toHaveCount(3);
  // Three blends: the level of a layer is another one in each.
  const line = page.getByRole('region', { name: 'signal line' });
  for (const level of ['-20', '-12', '-3']) {
    await page.getByRole('button', { name: 'Capture blend' }).click();
    await line.getByLabel('level', { exact: true }).fill(level);
    await line.getByLabel('level', { exact: true }).press('Enter');
  }
  await expect(page.getByRole('columnheader', { name: /^…|blend/i })).toHaveCount(3);
  // A switch mutes one of them, in this song.
  await page
    .getByRole('button', { name: /^Harbour piece, / })
    .first()
    .click();
  await page.getByRole('link', { name: /^Gear/ }).click();
  await page.getByRole('button', { name: 'add a role' }).click();
  const roleName = page.getByRole('textbox', { name: 'name of the role' });
  await roleName.fill('Low off');
  await roleName.press('Enter');
  const uses = page.getByRole('region', { name: 'what Low off does' });
  await uses.getByRole('button', { name: 'in Harbour piece' }).click();
  await uses.getByRole('combobox', { name: 'what it does' }).click();
  await page.getByRole('option', { name: /^mute/ }).first().click();
  await page.keyboard.press('b');
  await learn(page, 'Low off', 'Cobble pad 8');
  // Two presses may follow each other at once.
  await page.getByRole('textbox', { name: 'guard time' }).fill('0');
  await page.getByRole('textbox', { name: 'guard time' }).press('Enter');
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage')).toBeVisible();
  await startSound(page);
  await press(page, 'Cobble pad 8');
  await expect(page.getByTestId('stage').getByText('muted').first()).toBeVisible();
  await press(page, 'Cobble pad 8');
  await expect(page.getByTestId('stage').getByText('muted')).toHaveCount(0);
  // Through the blends, and back.
  for (let blend = 0; blend < 3; blend++) await page.keyboard.press('Space');
  await expect(page.locator('[aria-current="true"][data-position]')).toHaveAttribute(
    'aria-label',
    /^Harbour piece, .*,/,
  );
});

test('the first two minutes: what this is, the demo beside it, the bench, and the guide', async ({ page, empty }) => {
  await page.goto(empty.address);
  await page.getByRole('link', { name: 'A first gig in ten minutes' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'A first gig in ten minutes' })).toBeVisible();
  await page.getByRole('article').getByRole('link', { name: 'When something goes wrong on stage' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'A note hangs' })).toBeVisible();
  await page
    .getByRole('navigation', { name: 'chapters' })
    .getByRole('link', { name: 'Playing from a timeline' })
    .click();
  await expect(page.getByRole('img', { name: 'The timeline' })).toBeVisible();
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await page.getByRole('button', { name: 'the bench' }).click();
  await expect(page.getByTestId('bench')).toBeVisible();
  await page.getByRole('button', { name: 'Open the demo show' }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(10);
  await page.keyboard.press('Shift+Slash');
  await page.getByRole('dialog', { name: 'Keys' }).getByRole('link', { name: 'the guide' }).click();
  await expect(page.getByRole('navigation', { name: 'chapters' })).toBeVisible();
});
