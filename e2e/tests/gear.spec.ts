import { expect, heard, open, peak, startSound, test, type Rackle, strikes } from './rackle';
import type { Page } from '@playwright/test';

const role = (page: Page, name: string) => page.getByRole('group', { name, exact: true });
const press = async (page: Page, name: string): Promise<void> => {
  await page.getByRole('button', { name, exact: true }).dispatchEvent('pointerdown');
  await page.getByRole('button', { name, exact: true }).dispatchEvent('pointerup');
};
const live = (page: Page) => page.locator('[aria-current="true"][data-position]');

async function openGear(page: Page, rackle: Rackle): Promise<void> {
  await open(page, rackle, '/gear');
  await page.keyboard.press('b');
  await expect(page.getByTestId('bench')).toBeVisible();
}

/** Opens a role's details and takes its controls off it. */
async function clear(page: Page, name: string): Promise<void> {
  const head = role(page, name).getByRole('button', { name, exact: true });
  if ((await head.getAttribute('aria-expanded')) === 'false') await head.click();
  while ((await page.getByTestId('role-detail').getByRole('button', { name: 'take it off' }).count()) > 0)
    await page.getByTestId('role-detail').getByRole('button', { name: 'take it off' }).first().click();
  await expect(role(page, name)).toContainText('open');
}

test('learn takes “next patch” from a Clack pedal and a key of Cobble 25; each then steps', async ({ page, demo }) => {
  await openGear(page, demo);
  await clear(page, 'Next patch');
  await clear(page, 'Previous patch');
  for (const [move, expected] of [
    [
      async () => {
        await press(page, 'Clack pedal 2');
      },
      'controller 81',
    ],
    [
      async () => {
        const key = page.locator('[aria-label="keys of Cobble 25"] [data-key="48"]');
        await key.dispatchEvent('pointerdown', { clientY: 20 });
        await page.getByRole('group', { name: 'keys of Cobble 25' }).dispatchEvent('pointerup');
      },
      'key C3',
    ],
  ] as const) {
    await role(page, 'Next patch').getByRole('button', { name: 'learn', exact: true }).click();
    await expect(page.getByTestId('learn')).toContainText('Next patch');
    await move();
    await expect(role(page, 'Next patch')).toContainText(expected);
    await expect(page.getByTestId('learn')).toBeHidden();
    // Nothing that was moved while learn waited has been played.
    await expect(live(page)).toHaveAttribute('aria-label', 'Biscuit Tin Regatta, Jetty');
    await move();
    await expect(live(page)).not.toHaveAttribute('aria-label', 'Biscuit Tin Regatta, Jetty');
    await page.locator('[data-position="0"]').click();
    await clear(page, 'Next patch');
  }
});

test('a program pedal that does not repeat itself steps by a pair of pedals, or by the direction of its numbers', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  await page.keyboard.press('m');
  await clear(page, 'Next patch');
  await clear(page, 'Previous patch');
  const pedal = (number: number) =>
    page.getByRole('button', { name: `Treadle pedal ${number}` }).dispatchEvent('pointerdown');
  await role(page, 'Next patch').getByRole('button', { name: 'learn', exact: true }).click();
  await pedal(3);
  await expect(role(page, 'Next patch')).toContainText('program 3');
  await role(page, 'Next patch').getByRole('button', { name: 'Next patch', exact: true }).click();
  await page.getByRole('button', { name: 'put a second pedal on the role' }).click();
  await pedal(4);
  await expect(role(page, 'Next patch')).toContainText('program 4');
  for (const [number, patch] of [
    [3, 'Oars'],
    [4, 'Regatta'],
    [4, 'Regatta'],
    [3, 'Finish'],
  ] as const) {
    await pedal(number);
    await expect(live(page)).toHaveAttribute('aria-label', `Biscuit Tin Regatta, ${patch}`);
  }
  await page.getByRole('button', { name: 'a higher number plays it' }).first().click();
  await expect(role(page, 'Next patch')).toContainText('counts up');
  await page.locator('[data-position="0"]').click();
  // The first number only sets the reference.
  await pedal(1);
  await expect(page.getByRole('log')).toContainText('taken as its reference');
  await pedal(2);
  await expect(live(page)).toHaveAttribute('aria-label', 'Biscuit Tin Regatta, Oars');
});

test('learn fills a row of roles hands-on-hardware: a control that is taken says by whom, the last is undone by a key', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  await page.getByRole('button', { name: 'Learn open roles' }).click();
  await expect(page.getByTestId('learn')).toContainText('Next song');
  await press(page, 'Cobble pad 1');
  await expect(page.getByTestId('learn')).toContainText('plays Patch 1 already');
  await press(page, 'Cobble pad 7');
  await expect(page.getByTestId('learn')).toContainText('Echo');
  await expect(role(page, 'Next song')).toContainText('pad 7');
  await page.keyboard.press('Backspace');
  await expect(page.getByTestId('learn')).toContainText('Next song');
  await expect(role(page, 'Next song')).toContainText('open');
  await page.keyboard.press('PageDown');
  await expect(role(page, 'Next song')).toContainText('computer key Page Down');
  await expect(role(page, 'Next song')).toContainText('wins over the page’s “next song”');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('learn')).toBeHidden();
  await page.keyboard.press('PageDown');
  await expect(live(page)).toHaveAttribute('aria-label', 'Tin Roof Waltz, Rain');
});

test('learn: the first key after it counts, Enter confirms, a control that is taken can be taken over or used in this song only', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  const learn = page.getByTestId('learn');
  await role(page, 'Tap tempo').getByRole('button', { name: 'learn', exact: true }).click();
  await page.keyboard.press('t');
  await expect(role(page, 'Tap tempo')).toContainText('computer key T');
  await role(page, 'Next song').getByRole('button', { name: 'learn', exact: true }).click();
  await expect(learn).toContainText('for example: press the pedal, pad or key');
  // Enter is no key to learn: with nothing moved it does nothing.
  await page.keyboard.press('Enter');
  await expect(learn).toContainText('Next song');
  await press(page, 'Cobble pad 1');
  await expect(learn).toContainText('plays Patch 1 already');
  await page.keyboard.press('Enter');
  await expect(role(page, 'Next song')).toContainText('pad 1');
  await expect(role(page, 'Patch 1')).toContainText('open');
  await page.getByRole('button', { name: /^Undo: learn Next song/ }).click();
  await expect(role(page, 'Patch 1')).toContainText('pad 1');
  // In this song only: the role that has the control does it there.
  await role(page, 'Next song').getByRole('button', { name: 'learn', exact: true }).click();
  await press(page, 'Cobble pad 1');
  await learn.getByRole('button', { name: 'use it so in Biscuit Tin Regatta only' }).click();
  await expect(learn).toBeHidden();
  await expect(role(page, 'Patch 1')).toContainText('Biscuit Tin Regatta');
  await press(page, 'Cobble pad 1');
  await expect(live(page)).toHaveAttribute('aria-label', 'Tin Roof Waltz, Rain');
  // A new use begins as nothing.
  await role(page, 'Echo').getByRole('button', { name: 'Echo' }).click();
  const uses = page.getByRole('region', { name: 'what Echo does' });
  await uses.getByRole('button', { name: 'in Tin Roof Waltz' }).click();
  await expect(uses.getByRole('combobox', { name: 'what it does' }).last()).toHaveText('choose');
  await uses.getByRole('button', { name: 'leave it' }).click();
  await expect(uses.getByRole('combobox', { name: 'what it does' })).toHaveCount(1);
});

test('another gear list shows its open roles; the proposals are taken together and play at once', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  await page.getByRole('combobox', { name: 'gear list' }).click();
  await page.getByRole('option', { name: 'Ferry bag' }).click();
  await expect(page.getByRole('region', { name: 'roles' })).toContainText('14 open');
  await expect(role(page, 'Bright')).toContainText('proposed: Keys knob 1');
  await expect(role(page, 'Patch 2')).toContainText('proposed: Keys pad 2');
  await page.getByRole('button', { name: /^Take all 12 proposals/ }).click();
  await expect(page.getByRole('region', { name: 'roles' })).toContainText('2 open');
  await press(page, 'Cobble pad 3');
  await expect(live(page)).toHaveAttribute('aria-label', 'Biscuit Tin Regatta, Regatta');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('region', { name: 'roles' })).toContainText('14 open');
});

test('a knob waits until it meets the value, then moves it; the stage shows what it does', async ({ page, demo }) => {
  await openGear(page, demo);
  await page.keyboard.press('m');
  await page.locator('[data-position="8"]').click();
  const bright = role(page, 'Bright').getByRole('slider');
  await expect(bright).toHaveAttribute('aria-valuenow', '87');
  const knob = page.getByLabel('Cobble knob 1', { exact: true });
  await knob.fill('30');
  await expect(page.getByRole('log')).toContainText('controller 20 30');
  await expect(bright).toHaveAttribute('aria-valuenow', '87');
  await knob.fill('120');
  await expect(bright).toHaveAttribute('aria-valuenow', '94');
  await knob.fill('64');
  await expect(bright).toHaveAttribute('aria-valuenow', '50');
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(page.getByTestId('stage-controls')).toContainText('Bright');
  await expect(page.getByTestId('stage-controls')).toContainText('level of Late Boat');
});

test('the controller sheet is written into Treadle 6, and the set is stepped by it; in blocks, past the first bank', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/numbers');
  await page.getByRole('button', { name: 'Number anew' }).click();
  await page.getByRole('combobox', { name: 'way of numbering' }).click();
  await page.getByRole('option', { name: /^in blocks/ }).click();
  const size = page.getByRole('textbox', { name: 'size of a block' });
  await size.fill('20');
  await size.press('Enter');
  await expect(page.getByTestId('changes')).toContainText('37 numbers change');
  await page.getByRole('dialog').getByRole('button', { name: 'Number anew' }).click();
  await expect(page.getByRole('region', { name: 'bank 0/1' })).toBeVisible();
  await page.getByRole('link', { name: 'Controller sheets' }).click();
  await expect(page.getByRole('region', { name: 'Treadle 6' })).toContainText('bank select has to be sent');
  await page.getByRole('button', { name: 'Write it into Treadle 6' }).click();
  await page.keyboard.press('b');
  // Pedal 5 is the first patch of the second song: program 21 now.
  await expect(page.getByRole('button', { name: 'Treadle pedal 5' })).toHaveText('21');
  await page.getByRole('button', { name: 'Treadle pedal 5' }).dispatchEvent('pointerdown');
  await expect(live(page)).toHaveAttribute('aria-label', 'Tin Roof Waltz, Rain');
  // Slow Bell starts at 180: bank LSB 1, program 53 counting from 1.
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: 'page up' }).click();
  await page.getByRole('button', { name: 'Treadle pedal 2' }).dispatchEvent('pointerdown');
  await expect(live(page)).toHaveAttribute('aria-label', /^Slow Bell/);
  // On paper it is one or two pages.
  const paper = await page.pdf({ format: 'A4' });
  expect(paper.toString('latin1').match(/\/Type\s*\/Page[^s]/g)!.length).toBeLessThanOrEqual(2);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  expect((await download).suggestedFilename()).toBe('controller-sheets.csv');
  await page.getByRole('button', { name: /^Undo: number anew/ }).click();
  await page.getByRole('link', { name: 'Numbers' }).first().click();
  await expect(page.getByRole('region', { name: 'bank 0/1' })).toBeHidden();
});

test('a keyboard that is pulled out while a chord sounds ends its notes; plugged in again it plays', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  await startSound(page);
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.01, async () => {
    for (const key of ['q', 'e', 't']) await page.keyboard.down(key);
  });
  await page.getByRole('region', { name: 'Aster 73' }).getByRole('button', { name: 'pull out' }).click();
  await expect(page.getByRole('region', { name: 'ports' })).toContainText('no port');
  await expect(page.getByRole('link', { name: /^Gear/ })).toContainText('missing ports');
  await expect.poll(() => peak(page)).toBeLessThan(0.0005);
  for (const key of ['q', 'e', 't']) await page.keyboard.up(key);
  await page.getByRole('region', { name: 'Aster 73' }).getByRole('button', { name: 'plug in' }).click();
  // It plays once its port is there again.
  await expect(page.getByRole('region', { name: 'ports' })).not.toContainText('no port');
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.01, () => page.keyboard.down('q'));
  await page.keyboard.up('q');
});

test('sound out: a test tone is heard through an output, its level and the delay are shown; outputs are named and kept', async ({
  page,
  demo,
}) => {
  await openGear(page, demo);
  await page.keyboard.press('b');
  const sound = page.getByRole('region', { name: 'sound out' });
  await expect(sound).toContainText('Start sound to see the delay');
  await startSound(page);
  await expect(page.getByTestId('delay')).toContainText(/\d+ ms/);
  await sound.getByRole('button', { name: 'tone' }).click();
  await heard(page, 0.05);
  await expect
    .poll(async () => Number(await sound.getByRole('meter', { name: 'level of Main' }).getAttribute('aria-valuenow')))
    .toBeGreaterThan(-30);
  await sound.getByRole('button', { name: 'end' }).click();
  await expect.poll(() => peak(page)).toBeLessThan(0.001);
  await sound.getByRole('button', { name: 'add an output' }).click();
  await expect(sound).toContainText('not here');
  const name = sound.getByRole('textbox', { name: 'name of the output' }).nth(1);
  await name.fill('Click');
  await name.press('Enter');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'name of the output' }).nth(1)).toHaveValue('Click');
});

test('the outside clock of Pilot Cutter leads the timeline: start, bars, stop', async ({ page, demo }) => {
  await openGear(page, demo);
  await page
    .getByRole('region', { name: 'ports' })
    .getByRole('button', { name: /^Pilot Cutter/ })
    .click();
  await page.getByLabel('leads the timeline').check();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('link', { name: 'Stage' }).click();
  await page.getByRole('combobox', { name: 'song of Pilot Cutter' }).click();
  await page.getByRole('option', { name: 'Tin Roof Waltz' }).click();
  await page.getByRole('region', { name: 'Pilot Cutter' }).getByRole('button', { name: 'play', exact: true }).click();
  await expect(page.getByTestId('stage')).toContainText('playing');
  await expect(page.getByTestId('stage-bar')).toHaveText(/bar ([3-9]|[1-9]\d) of/);
  await expect(page.getByTestId('stage-tempo')).toHaveText(/^16[6-9]|170$/);
  await page.getByRole('region', { name: 'Pilot Cutter' }).getByRole('button', { name: 'stop', exact: true }).click();
  await expect(page.getByTestId('stage')).toContainText('timeline stands');
});

test('what the timeline sends to an output is heard with Rackle’s own sound, or later by what is typed', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/gear');
  await page.getByRole('button', { name: /^Skerry/ }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('combobox', { name: 'when the timeline sends here' }).click();
  await page.getByRole('option', { name: 'later by' }).click();
  const field = sheet.getByRole('textbox', { name: 'how much later the timeline sends here' });
  await field.fill('240');
  await field.press('Enter');
  await expect(sheet).toContainText('0 to 100 is expected');
  await field.fill('12');
  await field.press('Enter');
  await sheet.getByRole('button', { name: 'Done' }).click();
  const offset = async () => {
    const { body } = (await (await page.request.get(`${demo.address}/api/v1/gear-lists/rehearsal-loft`)).json()) as {
      body: { ports: { alias: string; offsetMs?: number }[] };
    };
    return body.ports.find(({ alias }) => alias === 'Skerry')?.offsetMs;
  };
  await expect.poll(offset).toBe(12);
});

test('numbers typed out of range, the same number twice, and a role that is removed while it is bound: clear words, nothing lost', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/numbers');
  const field = page.getByRole('textbox', { name: 'program of Biscuit Tin Regatta, Jetty' });
  await field.fill('129');
  await expect(page.getByRole('alert')).toContainText('1 to');
  await field.press('Enter');
  // It stays and says why, until it is taken back.
  await expect(field).toHaveValue('129');
  await expect(page.getByRole('alert')).toContainText('still 1');
  await field.press('Escape');
  await expect(field).toHaveValue('1');
  await field.fill('2');
  await field.press('Enter');
  await expect(page.getByText('2 lines share a number')).toBeVisible();
  await expect(page.getByRole('link', { name: /^Numbers/ }).first()).toContainText('1 number twice');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('2 lines share a number')).toBeHidden();
  await page.getByRole('link', { name: /^Gear/ }).first().click();
  await role(page, 'Bright').getByRole('button', { name: 'Bright', exact: true }).click();
  await page.getByRole('button', { name: 'remove the role and its 3 uses' }).click();
  await expect(role(page, 'Bright')).toBeHidden();
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.getByRole('button', { name: /^Undo: remove the role/ }).click();
  await expect(role(page, 'Bright')).toContainText('knob 1');
});

test('the monitor is filtered by port and kind, paused, and hides clock until it is asked for', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/stage');
  await page.keyboard.press('b');
  await page.keyboard.press('m');
  const log = page.getByRole('log');
  await page.getByRole('combobox', { name: 'song of Pilot Cutter' }).click();
  await page.getByRole('option', { name: 'Slow Bell' }).click();
  await page.getByRole('region', { name: 'Pilot Cutter' }).getByRole('button', { name: 'play', exact: true }).click();
  await press(page, 'Clack pedal 1');
  await expect(log).toContainText('Next patch → next step');
  await expect(log).not.toContainText('clock');
  await page.getByLabel('clock, doubles').check();
  await expect(log).toContainText('ignored: clock');
  await page.getByRole('combobox', { name: 'port shown' }).click();
  await page.getByRole('option', { name: 'Clack 2' }).click();
  await expect(log).not.toContainText('Pilot Cutter');
  await expect(log).toContainText('controller 80 127');
  await page.getByRole('button', { name: 'Pause' }).click();
  const before = await page.getByTestId('monitor-count').textContent();
  const stood = (await live(page).getAttribute('aria-label'))!;
  await press(page, 'Clack pedal 2');
  await expect(live(page)).not.toHaveAttribute('aria-label', stood);
  await expect(page.getByTestId('monitor-count')).toHaveText(before!);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(log).toContainText('Previous patch');
});
