import type { Page } from '@playwright/test';
import behaviour from '../playwright.config';
import { expect, heard, open, startSound, test } from './rackle';

// As browsers are set when nobody has set them: nothing sounds before somebody has clicked.
const { launchOptions } = behaviour.use!;
const others = launchOptions!.args!.filter((arg) => !arg.startsWith('--autoplay'));
test.use({
  launchOptions: { ...launchOptions, args: [...others, '--autoplay-policy=document-user-activation-required'] },
});

/** What stands on a page, read without touching it: whatever else a test does counts as a click. */
async function reader(page: Page): Promise<() => Promise<string>> {
  const session = await page.context().newCDPSession(page);
  return async () => {
    const { result } = await session.send('Runtime.evaluate', {
      expression: 'document.body.innerText',
      userGesture: false,
    });
    return String(result.value);
  };
}

test('a browser that wants a click before it sounds: the page says what it waits for, and any key or click will do', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await startSound(page);
  // A browser that opens its tabs again gives each what it had kept, and wants another click.
  const kept = await page.evaluate(() => ({ ...sessionStorage }));
  const again = await page.context().newPage();
  await again.addInitScript((items) => Object.assign(sessionStorage, items), kept as Record<string, string>);
  await page.close();
  const read = await reader(again);
  await again.goto(`${demo.address}/setlist`, { waitUntil: 'commit' });
  await expect.poll(read).toContain('Sound waits for a click');
  // MIDI goes on meanwhile: the key steps, and as a key it lets the sound begin.
  await again.keyboard.press('ArrowRight');
  await expect.poll(read).not.toContain('Sound waits for a click');
  await expect(again.getByRole('meter', { name: 'output level' })).toBeVisible();
  await expect(again.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
  await again.keyboard.press('b');
  await again.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await again.keyboard.down('q');
  await heard(again);
  await again.keyboard.up('q');
});
