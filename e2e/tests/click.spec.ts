import behaviour from '../playwright.config';
import { expect, heard, loudest, open, test } from './rackle';

// As browsers are set when nobody has set them: nothing sounds before somebody has clicked.
const { launchOptions } = behaviour.use!;
test.use({
  launchOptions: { ...launchOptions, args: launchOptions!.args!.filter((arg) => !arg.startsWith('--autoplay')) },
});

test('a browser that wants a click before it sounds: MIDI plays on, the page says what it waits for, and any click will do', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.getByRole('button', { name: /Start sound/ }).click();
  await expect(page.getByRole('meter', { name: 'output level' })).toBeVisible();
  await page.keyboard.press('b');
  const keys = page.getByRole('group', { name: 'keys of Aster 73' });
  await keys.focus();
  await page.keyboard.down('q');
  await heard(page);
  await page.keyboard.up('q');

  // Loaded anew in another tab of the same evening: its sound was on, and nobody has clicked there yet.
  const [again] = await Promise.all([
    page.context().waitForEvent('page'),
    page.evaluate(() => void window.open(location.href)),
  ]);
  await page.close();
  await expect(again.getByRole('button', { name: 'Sound waits for a click' })).toBeVisible();
  await again.keyboard.press('ArrowRight');
  await expect(again.getByRole('meter', { name: 'output level' })).toBeVisible();
});
void loudest;
