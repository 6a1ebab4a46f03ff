import type { Page } from '@playwright/test';
import { expect, open, test } from './rackle';

const standAt = async (page: Page, place: string): Promise<void> => {
  const position = page.getByRole('textbox', { name: 'position', exact: true });
  await position.fill(place);
  await position.press('Enter');
  await expect(position).toHaveValue(place);
};
/** What is typed below the chart: cues, sections, or tempo and meter. */
const lower = (page: Page, name: RegExp): Promise<void> => page.getByRole('tab', { name }).click();
const placesOfRecalls = async (page: Page): Promise<string[]> => {
  const flags = page.getByRole('group', { name: 'patches' }).getByRole('button', { name: /: recall / });
  const words = await flags.evaluateAll((buttons) => buttons.map((button) => button.firstElementChild!.textContent!));
  return words.map((word) => word.slice(0, word.indexOf(': recall')));
};

test('tempo and meter change within a song: cues keep their place in time, the stage shows the new bars, undo takes all back', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/third-ferry-home');
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  await expect(page.getByRole('button', { name: '1 : 1: recall Quay' })).toBeVisible();
  const before = await placesOfRecalls(page);
  expect(before).toEqual(['1 : 1', '17 : 1', '25 : 1', '41 : 1', '57 : 1', '84 : 3']);

  await lower(page, /tempo/);
  await standAt(page, '25 : 1');
  await page.getByRole('button', { name: 'another from 25 : 1' }).click();
  const slower = page.getByRole('textbox', { name: 'tempo from 25 : 1' });
  await slower.fill('96');
  await slower.press('Enter');
  await expect(page.getByRole('main')).toContainText('96 to 112');
  await page.getByRole('combobox', { name: 'way to the tempo after 1 : 1' }).click();
  await page.getByRole('option', { name: 'on the way to the next' }).click();

  await standAt(page, '41 : 1');
  await page.getByRole('button', { name: 'another from bar 41' }).click();
  const meter = page.getByRole('textbox', { name: 'meter from bar 41' });
  await meter.fill('6/7');
  await meter.press('Enter');
  await expect(page.getByRole('alert')).toContainText('beats / note, as 6/8');
  await meter.fill('6/8');
  await meter.press('Enter');
  // 16 bars of four quarters are 21 bars of six eighths, and two eighths more.
  await expect.poll(() => placesOfRecalls(page)).toEqual(['1 : 1', '17 : 1', '25 : 1', '41 : 1', '62 : 3', '99 : 1']);

  // It is kept, and stands on stage.
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.reload();
  await lower(page, /tempo/);
  await expect(page.getByRole('textbox', { name: 'meter from bar 41' })).toHaveValue('6/8');
  await standAt(page, '62 : 6');
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-bar')).toContainText('bar 62');
  await page.getByRole('link', { name: 'Timeline', exact: true }).click();
  await lower(page, /tempo/);

  await page.getByRole('button', { name: 'remove', exact: true }).and(page.locator('section button')).first().click();
  await expect(page.getByRole('textbox', { name: 'tempo from 25 : 1' })).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('textbox', { name: 'tempo from 25 : 1' })).toHaveValue('96');
});

test('playing through a slower bar the tempo of the stage follows the map', async ({ page, demo }) => {
  await open(page, demo, '/timeline/slow-bell');
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  await standAt(page, '74 : 4');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-tempo')).toHaveText('42');
});

test('a tempo is counted by the note that one chooses: the same tempo, another number, everywhere', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/third-ferry-home');
  await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).click();
  const tempo = page.getByLabel('tempo', { exact: true });
  await expect(tempo).toHaveValue('112');
  await page.getByRole('combobox', { name: 'note that the tempo counts' }).click();
  await page.getByRole('option', { name: '♩.' }).click();
  await expect(tempo).toHaveValue('74.67');
  // Left as it stands it stays what it is.
  await tempo.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: count the tempo by another note/ })).toBeVisible();
  await tempo.fill('60');
  await tempo.press('Enter');
  await page.getByRole('link', { name: /^Timeline/ }).click();
  await expect(page.getByText('♩. = 60')).toBeVisible();
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(page.getByTestId('stage-tempo')).toHaveText('60');
  // Stored in quarter notes, as soon as it is saved.
  const stored = async (): Promise<number> => {
    const answer = await page.request.get(`${demo.address}/api/v1/songs/third-ferry-home`);
    return ((await answer.json()) as { body: { map: { tempos: { bpm: number }[] } } }).body.map.tempos[0].bpm;
  };
  await expect.poll(stored).toBe(90);
});

test('a tempo does not take the place of another one unasked', async ({ page, demo }) => {
  await open(page, demo, '/timeline/slow-bell');
  await lower(page, /tempo/);
  const last = page.getByRole('textbox', { name: 'position of the tempo' }).last();
  await expect(last).toHaveValue('75 : 1');
  await last.fill('70 : 1');
  await last.press('Enter');
  await expect(page.getByRole('alert')).toContainText('where no other tempo stands');
  await last.press('Escape');
  await last.fill('72 : 1');
  await last.press('Enter');
  await expect(last).toHaveValue('72 : 1');
  await expect(page.getByRole('textbox', { name: /^tempo from/ })).toHaveCount(3);
});

test('a meter and an upbeat may leave every cue at its bar; what is too long to be an upbeat is not taken', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/third-ferry-home');
  await expect(page.getByRole('button', { name: '1 : 1: recall Quay' })).toBeVisible();
  const before = await placesOfRecalls(page);
  await lower(page, /tempo/);
  await page.getByRole('combobox', { name: 'what a change of the meter keeps' }).click();
  await page.getByRole('option', { name: 'its bar' }).click();
  const meter = page.getByRole('textbox', { name: 'meter from bar 1' });
  await meter.fill('3/4');
  await meter.press('Enter');
  await expect(page.getByRole('textbox', { name: 'bars' })).toHaveValue('96 bars');
  await expect(page.getByRole('main')).toContainText('3/4 ·');
  expect(await placesOfRecalls(page)).toEqual(before);
  const upbeat = page.getByRole('textbox', { name: 'upbeat' });
  await upbeat.fill('3');
  await upbeat.press('Enter');
  await expect(page.getByRole('alert')).toContainText('shorter than a bar');
  await upbeat.fill('1');
  await upbeat.press('Enter');
  await expect(upbeat).toHaveValue('1 beat');
  await expect.poll(() => placesOfRecalls(page)).toEqual(['0 : 3', ...before.slice(1)]);
  await page.getByRole('button', { name: 'Undo: change the upbeat' }).click();
  await expect.poll(() => placesOfRecalls(page)).toEqual(before);
});
