import { expect, heard, inPage, loudest, open, peak, startSound, strikes, test, withoutGuards } from './rackle';

// The running side in its frame, as it should be, and in the page, where that is not to be had.
for (const way of ['frame', 'page'] as const)
  test.describe(`with the host in its ${way}`, () => {
    test.beforeEach(async ({ page }) => {
      if (way === 'page') await inPage(page);
    });

    test('a player opens the demo, plays, steps on the Treadle, and hears the old chord carry until released', async ({
      page,
      demo,
    }) => {
      await open(page, demo);
      await expect(page.getByTestId('song-row')).toHaveCount(10);
      await startSound(page);
      await page.keyboard.press('b');
      await page.keyboard.press('m');
      expect(await loudest(page, 12)).toBeLessThan(0.0005);

      // The foot: program 8 of the map is Quay; page 2 of the Treadle has it on pedal 2.
      await page.getByRole('button', { name: 'page up' }).click();
      const pedal = page.getByRole('button', { name: 'Treadle pedal 2' });

      // A chord on Aster 73 over a bass note, held by computer keys, dies away by itself: the foot comes while it is loud.
      await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
      await strikes(page, 0.01, async () => {
        for (const key of ['z', 'q', 'e', 't']) await page.keyboard.down(key);
      });
      await pedal.dispatchEvent('pointerdown');
      await expect(page.locator('[data-position="7"]')).toHaveAttribute('aria-current', 'true');
      await heard(page, 0.003);
      await expect(page.getByRole('log')).toContainText('note on C4, velocity 92');
      await expect(page.getByTestId('last-word')).toContainText(
        'Treadle 6 · ch 1 · program 8 → Third Ferry Home: Quay',
      );
      await expect(page.getByRole('log')).toContainText('→ Third Ferry Home: Quay');
      await page.getByRole('link', { name: 'Stage' }).click();
      await expect(page.getByTestId('stage-name')).toHaveText('Quay');
      await expect(page.getByTestId('stage-number')).toHaveText('8');
      await expect(page.getByTestId('stage')).toContainText('Late Boat, 3');

      // Let go: after the release and the reverb's decay it is silent.
      await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
      for (const key of ['z', 'q', 'e', 't']) await page.keyboard.up(key);
      await expect.poll(() => peak(page)).toBeLessThan(0.0005);
      await expect(page.getByTestId('stage')).toContainText('nothing');
    });

    test('all controllers step: the counter of Updown, the pedals of Clack, keys of the page', async ({
      page,
      demo,
    }) => {
      await withoutGuards(page, demo);
      await open(page, demo, '/stage');
      await page.keyboard.press('b');
      const name = page.getByTestId('stage-name');
      await expect(name).toHaveText('Jetty');
      const up = page.getByRole('button', { name: 'Updown up' });
      await up.press('Enter'); // the first number only sets the reference
      await up.press('Enter');
      await expect(name).toHaveText('Oars');
      await page.getByRole('button', { name: 'Clack pedal 1' }).press('Enter');
      await expect(name).toHaveText('Regatta');
      await page.getByRole('button', { name: 'Clack pedal 2' }).press('Enter');
      await expect(name).toHaveText('Oars');
      await page.locator('body').click({ position: { x: 400, y: 300 } });
      await page.keyboard.press('PageDown');
      await expect(name).toHaveText('Rain');
    });

    test('Skerry is switched with its bank, and shows what it was told', async ({ page, demo }) => {
      await open(page, demo);
      await page.keyboard.press('b');
      await page.getByRole('button', { name: 'Moth and Lamp, Ash' }).first().click();
      const skerry = page.getByRole('region', { name: 'Skerry' });
      await expect(skerry).toContainText('Grey Choir');
      await expect(skerry).toContainText('Inner bank, 18');
      await expect(skerry.getByRole('list')).toContainText('bank select LSB 0');
    });

    test('the timeline recalls patches at their bars, and the stage shows bar and beat', async ({ page, demo }) => {
      await open(page, demo, '/timeline/third-ferry-home');
      await page.getByRole('button', { name: 'Stand in this song' }).click();
      const position = page.getByRole('textbox', { name: 'position', exact: true });
      await position.fill('16 : 4');
      await position.press('Enter');
      await page.getByRole('button', { name: 'Play', exact: true }).click();
      await page.getByRole('link', { name: 'Stage' }).click();
      await expect(page.getByTestId('stage-name')).toHaveText('Gangway');
      // From there on: a busy page may show its first bar too late to be read.
      await expect(page.getByTestId('stage-bar')).toHaveText(/bar (1[7-9]|[2-9]\d) of/);
      await page.keyboard.press('p');
      await expect(page.getByTestId('stage')).toContainText('timeline stands');
    });

    test('Pilot Cutter calls up a song from elsewhere', async ({ page, demo }) => {
      await open(page, demo, '/stage');
      await page.keyboard.press('b');
      await page.getByRole('combobox', { name: 'song of Pilot Cutter' }).click();
      await page.getByRole('option', { name: 'Salt on the Strings' }).click();
      await page.getByRole('region', { name: 'Pilot Cutter' }).getByRole('button', { name: 'play' }).click();
      await expect(page.getByTestId('stage-name')).toHaveText('Salt');
    });

    test('a port that is pulled out is shown, and the set goes on when it is back', async ({ page, demo }) => {
      await open(page, demo, '/stage');
      await page.keyboard.press('b');
      await page.getByRole('region', { name: 'Treadle 6' }).getByRole('button', { name: 'pull out' }).click();
      await expect(page.getByTestId('stage')).toContainText('no Treadle 6');
      await page.getByRole('region', { name: 'Treadle 6' }).getByRole('button', { name: 'plug in' }).click();
      await expect(page.getByTestId('stage')).toContainText('all alive');
    });

    test('the stage lock: strip and links only move the cursor, Enter goes', async ({ page, demo }) => {
      await open(page, demo, '/stage');
      await page.keyboard.press('l');
      await page.locator('[data-position="5"]').click();
      await expect(page.getByTestId('stage-name')).toHaveText('Jetty');
      await expect(page.getByTestId('stage')).toContainText('cursor on');
      await page.getByRole('link', { name: 'Setlist' }).click({ force: true });
      await expect(page).toHaveURL(/stage/);
      await page.locator('body').click({ position: { x: 400, y: 300 } });
      await page.keyboard.press('Enter');
      await expect(page.getByTestId('stage-name')).toHaveText('Gutter');
    });
  });
