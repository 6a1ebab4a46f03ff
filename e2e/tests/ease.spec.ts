import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const signal = (page: Page) => page.getByRole('region', { name: 'signal line' });
const column = (page: Page, name: string) => page.getByRole('columnheader', { name });
const isLive = (page: Page, label: string) =>
  expect(page.locator('[aria-current="true"][data-position]')).toHaveAttribute('aria-label', label);

test('a copied patch changes nothing in the first one without a question; what it shares is always said', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="0"]').click();
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await page.getByRole('button', { name: 'duplicate', exact: true }).first().click();
  await expect(page.getByLabel('name of the patch')).toHaveValue('Jetty 2');
  await expect(signal(page)).toContainText(/also in Jetty/);
  await signal(page).getByRole('combobox', { name: 'preset' }).click();
  await page.getByRole('option', { name: 'Harbour', exact: true }).first().click();
  const question = page.getByRole('dialog');
  await expect(question).toContainText('You are about to change the sound');
  await question.getByRole('button', { name: 'Here only' }).click();
  await expect(signal(page).getByRole('combobox', { name: 'preset' })).toHaveText('Harbour');
  await expect(signal(page)).not.toContainText('also in');
  // The first patch has what it had.
  await page.getByRole('button', { name: 'Late Boat in Jetty', exact: true }).click();
  await expect(signal(page).getByRole('combobox', { name: 'preset' })).not.toHaveText('Harbour');
  // One step takes all of it back.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Undo: duplicate a patch/ })).toBeVisible();
});

test('looking recalls nothing; the number of a column does; looking may play at home, and never while locked', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="0"]').click();
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await column(page, 'Oars').getByRole('button', { name: /^Oars/ }).click();
  await expect(page.getByLabel('name of the patch')).toHaveValue('Oars');
  await expect(page.getByRole('status').filter({ hasText: 'Looked at' })).toContainText('Looked at: Oars. Live: Jetty');
  await isLive(page, 'Biscuit Tin Regatta, Jetty');
  await page.getByRole('button', { name: 'recall Oars' }).click();
  await isLive(page, 'Biscuit Tin Regatta, Oars');
  await expect(page.getByText('Looked at:')).toBeHidden();
  const plays = page.getByRole('button', { name: 'play what I look at' });
  await plays.click();
  await column(page, 'Jetty')
    .getByRole('button', { name: /^Jetty/ })
    .click();
  await isLive(page, 'Biscuit Tin Regatta, Jetty');
  await page.keyboard.press('l');
  await expect(plays).toBeDisabled();
  await column(page, 'Oars').getByRole('button', { name: /^Oars/ }).click();
  await expect(page.getByText('Looked at: Oars.')).toBeVisible();
  await isLive(page, 'Biscuit Tin Regatta, Jetty');
  // A blend that is captured of what plays is played: what is edited next is heard.
  await page.keyboard.press('l');
  await plays.click();
  await column(page, 'Jetty')
    .getByRole('button', { name: /^Jetty/ })
    .click();
  await page.getByRole('button', { name: 'Capture blend' }).click();
  await isLive(page, 'Biscuit Tin Regatta, Jetty, Blend 1');
});

/** What the server has of one thing is changed, before a page is opened. */
async function changed(page: Page, address: string, apply: (body: Record<string, never>) => object): Promise<void> {
  const { revision, body } = (await (await page.request.get(address)).json()) as {
    revision: number;
    body: Record<string, never>;
  };
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.put(address, { headers, data: apply(body) })).ok()).toBe(true);
}

test('what a role has muted is said to be muted on stage, sheet and ruler, its switch is inverted; a stepped preset is named', async ({
  page,
  demo,
}) => {
  const api = `${demo.address}/api/v1`;
  await changed(page, `${api}/songs/biscuit-tin-regatta`, ({ layers, bindings, ...song }) => {
    const [{ id: layerId }] = layers as { id: string }[];
    return {
      ...(song as object),
      layers,
      bindings: [
        ...(bindings as object[]),
        { role: 'Hush', action: { kind: 'layerSwitch', layerId, what: 'mute' } },
        { role: 'Other keys', action: { kind: 'presetStep', layerId, by: 1 } },
      ],
    };
  });
  const key = (role: string, code: string) => ({ role, source: { kind: 'computerKey', code } });
  await changed(page, `${api}/gear-lists/rehearsal-loft`, ({ roles, ...gear }) => ({
    ...(gear as object),
    roles: [...(roles as object[]), key('Hush', 'KeyH'), key('Other keys', 'KeyK')],
  }));
  await open(page, demo, '/stage');
  const stage = page.getByTestId('stage');
  const hush = page.getByTestId('stage-controls').getByText('Hush');
  await expect(hush).toHaveAttribute('data-on', 'false');
  await expect(stage).not.toContainText('muted');
  await page.keyboard.press('h');
  await expect(hush).toHaveAttribute('data-on', 'true');
  await expect(stage.getByTestId('key-ruler')).toContainText('Late Boat');
  await expect(stage.getByTestId('key-ruler')).toContainText('muted');
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await expect(page.getByTestId('key-ruler')).toContainText('muted');
  await expect(page.getByRole('button', { name: 'Late Boat in Jetty, muted', exact: true })).toContainText('muted');
  await page.getByRole('link', { name: /^Gear/ }).click();
  await expect(page.getByRole('group', { name: 'Hush' })).toContainText('on');
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await page.keyboard.press('h');
  await expect(stage).not.toContainText('muted');
  await page.keyboard.press('k');
  await expect(stage.getByTestId('key-ruler')).toContainText(/Late Boat: \w+/);
});

test('sounds: Keep to be seen, a new layer, Enter in the list, and why nothing is heard; favourites become patches', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="0"]').click();
  await page.getByRole('link', { name: 'Sounds', exact: true }).click();
  const field = page.getByRole('combobox', { name: 'find a sound' });
  const aside = page.getByRole('complementary');
  // A layer that the present patch does not play: it says so, and offers one that does.
  await aside.getByRole('button', { name: /Section$/ }).click();
  await expect(aside.getByRole('status')).toContainText('Section is silent in the patch that plays');
  await aside.getByRole('button', { name: 'play Finish' }).click();
  await isLive(page, 'Biscuit Tin Regatta, Finish');
  await expect(aside.getByRole('status')).toBeHidden();
  // By another word of the trade; kept from the list by Enter.
  await field.fill('squeezebox');
  await page.getByRole('option', { name: /Harmonium/ }).click();
  await page.keyboard.press('Enter');
  await expect(aside).toContainText('now Harmonium, Bellows');
  // As a new layer: called by its kind.
  await field.fill('kettle');
  await page.getByRole('option').first().click();
  await page.getByRole('button', { name: 'As a new layer' }).click();
  await expect(page.getByLabel('name of the layer').last()).toHaveValue('Drums');
  await page.getByRole('button', { name: /^Undo: a new layer in Finish/ }).click();
  // Favourites, in their order.
  await page.getByRole('link', { name: 'Sounds', exact: true }).click();
  for (const name of ['Ship Bell', 'Tin Cup', 'Wet Planks']) {
    await field.fill(name);
    await page.getByRole('button', { name: `star ${name}`, exact: true }).click();
  }
  await field.fill('');
  await page.getByRole('combobox', { name: 'which of them' }).click();
  await page.getByRole('option', { name: /^starred/ }).click();
  await page.getByRole('button', { name: /^Make patches of these \d, in Biscuit Tin Regatta/ }).click();
  const heads = page.locator('[data-head]');
  await expect(heads.first()).toContainText('Jetty');
  for (const [i, name] of ['Wet Planks', 'Tin Cup', 'Ship Bell'].entries())
    await expect(heads.nth(-1 - i)).toContainText(name);
});

test('a layer that stands through the evening is on sheet, ruler and stage, and its zone can be edited', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.locator('[data-position="1"]').click();
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await page.getByRole('button', { name: 'Tide in Oars', exact: true }).click();
  await signal(page).getByRole('button', { name: 'through the evening' }).click();
  const row = page.getByTestId('evening-row');
  await expect(row).toContainText('Tide');
  await expect(page.getByTestId('key-ruler')).toContainText('Tide, through the evening');
  await page.goto(`${demo.address}/songs/slow-bell`);
  await expect(row).toContainText('Tide');
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage').getByTestId('key-ruler')).toContainText('Tide');
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  const evening = page.getByRole('region', { name: 'standing through the evening' });
  await evening.getByLabel('lowest key of Tide').fill('C5');
  await evening.getByLabel('lowest key of Tide').press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: change a zone/ })).toBeVisible();
});

test('a song and a gear list are deleted with a word on where they are used, and undo brings them back there too', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/library');
  const songs = page.getByRole('list', { name: 'songs' });
  await page.getByRole('button', { name: 'delete Kelp Dance' }).click();
  const question = page.getByRole('dialog');
  await expect(question).toContainText('It stands in Midsummer at Tern Ledge');
  await question.getByRole('button', { name: 'Delete it everywhere' }).click();
  await expect(songs.getByRole('link', { name: 'Kelp Dance' })).toBeHidden();
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(9);
  await page.getByRole('button', { name: /^Undo: delete Kelp Dance/ }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(10);
  await page.getByRole('link', { name: /^Gear/ }).click();
  await page.getByRole('button', { name: 'delete it' }).click();
  await expect(question).toContainText('It is the gear list of Midsummer at Tern Ledge, which will play by Ferry bag');
  await question.getByRole('button', { name: 'Delete it', exact: true }).click();
  await expect(page.getByLabel('name of the gear list')).toHaveValue('Ferry bag');
  await page.getByRole('button', { name: /^Undo: delete Rehearsal loft/ }).click();
  await expect(page.getByLabel('name of the gear list')).toHaveValue('Rehearsal loft');
});
