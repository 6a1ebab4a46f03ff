import { expect, meantEverywhere, open, soundsInPlaceOf, strikes, test } from './rackle';

test('sounds are found, heard in the place of a layer by the arrow keys, kept by Enter, brought back by Escape', async ({
  page,
  demo,
}) => {
  const field = await soundsInPlaceOf(page, demo, /Bass hand/);
  await field.fill('chapel bell');
  await expect(page.getByTestId('hit-count')).toHaveText(/^[1-5] sounds?$/);
  await field.press('ArrowDown');
  await expect(page.getByRole('option', { name: /Chapel Bell/ })).toHaveAttribute('aria-selected', 'true');
  // Nothing is changed by hearing: Escape brings back, and the song is still saved as it was.
  await field.press('Escape');
  await expect(page.getByRole('complementary')).toContainText('now Round, Keelson');
  await field.press('ArrowDown');
  await field.press('Enter');
  // Four patches share the layer: all are meant.
  await meantEverywhere(page);
  await expect(page.getByRole('complementary')).toContainText('now Chapel Bell, Bellrope');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.getByRole('button', { name: 'bench' }).click();
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.005, () => page.keyboard.down('z'));
  await page.keyboard.up('z');
  await page.getByRole('button', { name: /^Undo: change the sound of Bass hand/ }).click();
  await expect(page.getByRole('complementary')).toContainText('now Round, Keelson');
});

test('an outboard instrument: names typed in fast, a column pasted, a list read with a report, all of it kept', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/sounds');
  await page.getByRole('button', { name: 'Add outboard gear' }).click();
  await page.getByRole('textbox', { name: 'name of the instrument' }).fill('Anchor');
  await page.getByRole('textbox', { name: 'name of the instrument' }).press('Enter');
  const next = page.getByRole('textbox', { name: 'next name' });
  for (const name of ['Low Shore', 'Grey Choir']) {
    await next.fill(name);
    await next.press('Enter');
  }
  await expect(page.getByRole('textbox', { name: 'next program' })).toHaveValue('3');
  await next.focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'Deep Bell\nFar Horn\n');
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByRole('table', { name: 'names' })).toHaveAttribute('aria-rowcount', '4');
  await page.getByRole('button', { name: 'Names from elsewhere' }).click();
  await page
    .getByRole('textbox', { name: 'pasted names' })
    .fill('== Outer bank ==\nA001 Old Reed\nA002 Wet Pipe\nA200 Beyond');
  await expect(page.getByTestId('import-count')).toHaveText('2 names understood, 1 line not.');
  await expect(page.getByRole('list', { name: 'not understood' })).toContainText(
    'line 4: A200 Beyond its number is not 1 to 128',
  );
  await page.getByRole('button', { name: 'Add them behind' }).click();
  await expect(page.getByRole('table', { name: 'names' })).toHaveAttribute('aria-rowcount', '6');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save .midnam' }).click();
  const file = await (await download).path();
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.reload();
  await expect(page.getByRole('table', { name: 'names' })).toHaveAttribute('aria-rowcount', '6');
  await page.getByRole('button', { name: 'Names from elsewhere' }).click();
  await page.getByLabel('file with names').setInputFiles(file);
  await expect(page.getByTestId('import-count')).toHaveText('6 names understood.');
});

test('a list that is no list is refused in words; a name that a song plays stays', async ({ page, demo }) => {
  await open(page, demo, '/sounds/skerry');
  await page.getByRole('button', { name: 'Names from elsewhere' }).click();
  await page
    .getByRole('textbox', { name: 'pasted names' })
    .fill('<?xml version="1.0"?><MIDINameDocument><Author></MIDINameDocument>');
  await expect(page.getByRole('alert')).toContainText('not well-formed XML');
  await page.getByRole('textbox', { name: 'pasted names' }).fill('1 Only One');
  await page.getByRole('button', { name: 'Put them in the place of the list' }).click();
  await expect(page.getByText(/are played by songs and stay/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'names' })).toHaveAttribute('aria-rowcount', /^[3-9]$/);
  await page.getByRole('button', { name: /^Undo: bring names in/ }).click();
  await expect(page.getByRole('table', { name: 'names' })).toHaveAttribute('aria-rowcount', '256');
});
