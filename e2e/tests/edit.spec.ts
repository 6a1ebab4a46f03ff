import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { crashBrowser, expect, open, startSound, test, strikes } from './rackle';

test('the running order is changed by keyboard and by drag, and undone', async ({ page, demo }) => {
  await open(page, demo);
  const names = () =>
    page.getByTestId('song-row').evaluateAll((rows) => rows.map((row) => row.getAttribute('aria-label')));
  await page.getByTestId('song-row').nth(0).focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(names).toEqual(expect.arrayContaining(['Tin Roof Waltz']));
  expect((await names()).slice(0, 2)).toEqual(['Tin Roof Waltz', 'Biscuit Tin Regatta']);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => (await names())[0]).toBe('Biscuit Tin Regatta');

  const handle = page.getByRole('button', { name: 'move Slow Bell' });
  const target = page.getByRole('button', { name: 'move Third Ferry Home' });
  await handle.scrollIntoViewIfNeeded();
  const [from, to] = [(await handle.boundingBox())!, (await target.boundingBox())!];
  await page.mouse.move(from.x + 8, from.y + 20);
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) {
    await page.mouse.move(to.x + 8, from.y + 20 + ((to.y - from.y) * i) / 10);
    await page.evaluate(() => new Promise(requestAnimationFrame));
  }
  // The row makes room once the page has seen where the pointer is.
  await expect.poll(async () => (await target.boundingBox())!.y).toBeGreaterThan(to.y + 10);
  await page.mouse.up();
  await expect.poll(async () => (await names())[2]).toBe('Slow Bell');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.reload();
  await expect.poll(async () => (await names())[2]).toBe('Slow Bell');
});

test('a setlist from nothing: the empty page says what to do; a song is added, renamed, given a break, taken out', async ({
  page,
  empty,
}) => {
  await page.goto(empty.address);
  await expect(page.getByRole('heading', { name: 'No setlist yet' })).toBeVisible();
  await page.getByRole('textbox', { name: 'name of the setlist' }).fill('Harbour Light');
  await page.getByRole('button', { name: 'Start a setlist' }).click();
  await page.getByRole('button', { name: 'Add the first one' }).click();
  await page.getByPlaceholder('name of the song').fill('Rope Walk');
  await page.getByRole('option', { name: /Start a new song/ }).click();
  await expect(page.getByTestId('song-row')).toHaveCount(1);
  const name = page.getByTestId('song-row').getByRole('textbox', { name: 'name of the song' });
  await name.fill('Rope Walk Home');
  await name.press('Enter');
  await page.getByRole('button', { name: 'Add break' }).click();
  await expect(page.getByTestId('break')).toHaveCount(1);
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  await page.reload();
  await expect(page.getByTestId('song-row').getByRole('textbox', { name: 'name of the song' })).toHaveValue(
    'Rope Walk Home',
  );
  await page.getByTestId('break').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByTestId('break')).toHaveCount(0);
});

test('from nothing to sound: a new song sounds under the keys of the bench, and a second layer is stacked on it', async ({
  page,
  empty,
}) => {
  await page.goto(empty.address);
  await page.getByRole('button', { name: 'Start a setlist' }).click();
  await page.getByRole('button', { name: 'Add the first one' }).click();
  await page.getByPlaceholder('name of the song').fill('Rope Walk');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Songs' }).click();
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.getByRole('combobox', { name: 'find a sound' }).fill('slow tide');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Slow Tide');
  await page.getByRole('button', { name: /Start sound/ }).click();
  await expect(page.getByRole('meter', { name: 'output level' })).toBeVisible();
  await page.keyboard.press('b');
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.01, () => page.keyboard.down('q'));
  await page.keyboard.up('q');
  await page.locator('body').click({ position: { x: 700, y: 300 } });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('row', { name: /Slow Tide|Bowline/ })).toHaveCount(0);
});

test('zones are dragged on the key ruler and typed in the signal line; out of range is refused in words', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/third-ferry-home');
  await page.getByRole('button', { name: 'Late Boat in Quay' }).click();
  const low = page.getByRole('textbox', { name: 'lowest key' });
  await expect(low).toHaveValue('E♭3');
  const zone = page.getByRole('button', { name: 'zone of Late Boat' });
  const box = (await zone.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 80, box.y + 10, { steps: 6 });
  await page.mouse.up();
  await expect(low).not.toHaveValue('E♭3');
  await low.fill('C5');
  await low.press('Enter');
  await expect(low).toHaveValue('C5');
  const level = page.getByRole('textbox', { name: 'level' });
  await level.fill('20');
  await expect(page.getByRole('alert')).toContainText('−60 dB to 6 dB');
  await level.press('Escape');
  await expect(level).toHaveValue('−4 dB');
  await page.keyboard.press('Control+z');
  await page.locator('body').click({ position: { x: 640, y: 790 } });
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
});

const rename = async (where: Page, name: string): Promise<void> => {
  const field = where.getByRole('textbox', { name: 'name of the song' });
  await field.fill(name);
  await field.press('Enter');
};
const nameOf = (where: Page) => where.getByRole('textbox', { name: 'name of the song' });
const saved = (where: Page) => expect(where.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);

test('two windows of one browser see each other’s edits; undo in one touches only its own', async ({
  page,
  demo,
  context,
}) => {
  await open(page, demo, '/songs/kelp-dance');
  const other = await context.newPage();
  await open(other, demo, '/songs/slow-bell');
  await rename(page, 'Kelp Dance A');
  await rename(other, 'Slow Bell B');
  await saved(page);
  await expect(other.getByRole('button', { name: 'Kelp Dance A, Undertow', exact: true })).toBeAttached();
  await other.getByRole('button', { name: /^Undo/ }).click();
  await expect(nameOf(other)).toHaveValue('Slow Bell');
  await expect(nameOf(page)).toHaveValue('Kelp Dance A');
  // What the other window has changed since cannot be undone here; it is said, and passed over.
  await other.goto(`${demo.address}/songs/kelp-dance`);
  await rename(other, 'Kelp Dance C');
  await expect(nameOf(page)).toHaveValue('Kelp Dance C');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('alert')).toContainText('Kelp Dance C has been changed elsewhere since');
  await page.getByRole('button', { name: 'pass over this step' }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  await expect(nameOf(page)).toHaveValue('Kelp Dance C');
});

test('changed on another machine too: nothing is overwritten, it is said until it is settled, and taking the other is undone', async ({
  page,
  demo,
  browser,
}) => {
  await open(page, demo, '/songs/kelp-dance');
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await open(other, demo, '/songs/kelp-dance');
  await rename(page, 'Kelp Dance A');
  await saved(page);
  await rename(other, 'Kelp Dance B');
  const question = other.getByRole('dialog');
  await expect(question).toContainText('Here: called Kelp Dance B, was Kelp Dance');
  await expect(question).toContainText('There: called Kelp Dance A, was Kelp Dance');
  // Closing the question settles nothing; edits of other songs go past it; a reload forgets nothing.
  await other.keyboard.press('Escape');
  await expect(other.getByTestId('save-state')).toHaveText('1 changed elsewhere');
  await other.goto(`${demo.address}/songs/slow-bell`);
  await rename(other, 'Slower Bell');
  await expect(page.getByTestId('save-state')).toHaveText(/^saved/);
  const served = async (id: string): Promise<string> =>
    ((await (await page.request.get(`${demo.address}/api/v1/songs/${id}`)).json()) as { body: { name: string } }).body
      .name;
  await expect.poll(() => served('slow-bell')).toBe('Slower Bell');
  await other.goto(`${demo.address}/songs/kelp-dance`);
  await expect(nameOf(other)).toHaveValue('Kelp Dance B');
  await other.getByRole('button', { name: '1 changed elsewhere' }).click();
  await question.getByRole('button', { name: 'Take the other' }).click();
  await expect(question).toContainText('Everything is settled');
  await other.keyboard.press('Escape');
  await expect(nameOf(other)).toHaveValue('Kelp Dance A');
  await saved(other);
  const history = (await (
    await page.request.get(`${demo.address}/api/v1/songs/kelp-dance/history`)
  ).json()) as object[];
  expect(history).toContainEqual(
    expect.objectContaining({ revision: null, name: expect.stringMatching(/^not taken at/) }),
  );
  await other.getByRole('button', { name: /^Undo: take the other version/ }).click();
  await expect(nameOf(other)).toHaveValue('Kelp Dance B');
  await expect.poll(() => served('kelp-dance')).toBe('Kelp Dance B');
  await elsewhere.close();
});

test('edited and closed at once, nothing is lost: neither of two windows, nor with the server gone, nor when the browser is killed', async ({
  demo,
}) => {
  const profile = mkdtempSync(join(tmpdir(), 'rackle-profile-'));
  const { launchOptions } = test.info().project.use;
  const browser = () => chromium.launchPersistentContext(profile, launchOptions);
  const read = async (context: BrowserContext, id: string): Promise<string> =>
    ((await (await context.request.get(`${demo.address}/api/v1/songs/${id}`)).json()) as { body: { name: string } })
      .body.name;
  let context = await browser();
  for (let turn = 0; turn < 6; turn++) {
    const page = await context.newPage();
    await open(page, demo, '/songs/kelp-dance');
    await rename(page, `Kelp ${turn}`);
    await page.close();
    const next = await context.newPage();
    await open(next, demo, '/songs/kelp-dance');
    await expect(nameOf(next)).toHaveValue(`Kelp ${turn}`);
    await expect.poll(() => read(context, 'kelp-dance')).toBe(`Kelp ${turn}`);
    await next.close();
  }
  const [one, two] = [await context.newPage(), await context.newPage()];
  await open(one, demo, '/songs/kelp-dance');
  await open(two, demo, '/songs/slow-bell');
  const { port } = demo;
  await demo.kill();
  await rename(one, 'Kelp with nobody there');
  await rename(two, 'Bell with nobody there');
  await expect(one.getByTestId('save-state')).toHaveText('not saved: 2 waiting');
  await one.close();
  await two.close();
  await demo.start(true, port);
  const back = await context.newPage();
  await open(back, demo, '/songs/kelp-dance');
  await expect(nameOf(back)).toHaveValue('Kelp with nobody there');
  await saved(back);
  expect([await read(context, 'kelp-dance'), await read(context, 'slow-bell')]).toEqual([
    'Kelp with nobody there',
    'Bell with nobody there',
  ]);
  // Killed once the edit is said to be kept, whether it was sent or not.
  await demo.kill();
  await rename(back, 'Kelp in the dark');
  await expect(back.getByTestId('save-state')).toHaveText('not saved: 1 waiting');
  crashBrowser(profile);
  await context.close().catch(() => undefined);
  await demo.start(true, port);
  rmSync(join(profile, 'SingletonLock'), { force: true });
  context = await browser();
  const again = await context.newPage();
  await open(again, demo, '/songs/kelp-dance');
  await expect(nameOf(again)).toHaveValue('Kelp in the dark');
  await expect.poll(() => read(context, 'kelp-dance')).toBe('Kelp in the dark');
  await context.close();
  rmSync(profile, { recursive: true, force: true });
});

test('what the browser keeps opens late: pages begin without it, and what waits in their window is kept then', async ({
  page,
  demo,
}) => {
  const holder = await page.context().newPage();
  await holder.goto(`${demo.address}/mark.svg`);
  await holder.evaluate(() => {
    // Nobody else can open it as long as this has not said which version it is.
    const opening = indexedDB.open('rackle', 1);
    opening.onupgradeneeded = () => {
      const held = opening.result.createObjectStore('held');
      let isHeld = true;
      const hold = (): void => {
        if (isHeld) held.count().onsuccess = hold;
        else opening.transaction!.abort();
      };
      hold();
      addEventListener('message', () => (isHeld = false));
    };
  });
  await open(page, demo, '/songs/kelp-dance');
  await expect(page.locator('html[data-fetched="all"]')).toBeAttached();
  const { port } = demo;
  await demo.kill();
  await rename(page, 'Kelp before it opened');
  await expect(page.getByTestId('save-state')).toHaveText('only in this window · not saved: 1 waiting');
  await holder.evaluate(() => postMessage(null));
  await expect(page.getByTestId('save-state')).toHaveText('not saved: 1 waiting');
  await page.close();
  await demo.start(true, port);
  await open(holder, demo, '/songs/kelp-dance');
  await expect(nameOf(holder)).toHaveValue('Kelp before it opened');
  await saved(holder);
});

test('with the server away edits wait, the playing goes on, and they are saved when it is back', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs/slow-bell');
  await expect(page.locator('html[data-fetched="all"]')).toBeAttached();
  const { port } = demo;
  await demo.kill();
  const field = page.getByRole('textbox', { name: 'name of the song' });
  await field.fill('Slowest Bell');
  await field.press('Enter');
  await expect(page.getByTestId('save-state')).toHaveText('not saved: 1 waiting');
  await page.getByRole('button', { name: 'Pewter Jug Reel, Tip' }).click();
  await expect(page.locator('[aria-current="true"][data-position]')).toHaveAttribute(
    'aria-label',
    'Pewter Jug Reel, Tip',
  );
  await startSound(page);
  await page.keyboard.press('b');
  await page.getByRole('link', { name: 'Stage' }).click();
  await expect(page.getByTestId('stage-name')).toHaveText('Tip');
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  await strikes(page, 0.005, () => page.keyboard.down('q'));
  await page.keyboard.up('q');
  await demo.start(true, port);
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
  const saved = await page.request.get(`${demo.address}/api/v1/songs/slow-bell`);
  expect(((await saved.json()) as { body: { name: string } }).body.name).toBe('Slowest Bell');
});

test('the palette finds a patch and goes there; ? lists the keys', async ({ page, demo }) => {
  await open(page, demo);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Find a song/).fill('bell buoy');
  await page.keyboard.press('Enter');
  await expect(page.locator('[aria-current="true"][data-position]')).toHaveAttribute(
    'aria-label',
    'Third Ferry Home, Bell buoy',
  );
  await page.keyboard.press('Shift+Slash');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('next patch');
});

test('the show goes out as a file and comes in again; a broken one is refused in words and changes nothing', async ({
  page,
  demo,
  empty,
}) => {
  await open(page, demo);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save a show file' }).click();
  const path = await (await download).path();
  await page.goto(empty.address);
  await page
    .getByLabel('show file')
    .setInputFiles({ name: 'broken.json', mimeType: 'application/json', buffer: Buffer.from('{"format":') });
  await expect(page.getByRole('alert')).toContainText('not a JSON document');
  await page.getByLabel('show file').setInputFiles(path);
  await expect(page.getByTestId('song-row')).toHaveCount(10);
});

test('a second setlist is started, and the first chosen again, from the palette', async ({ page, demo }) => {
  await open(page, demo);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Find a song/).fill('all setlists');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'start it as' }).click();
  await page.getByRole('option', { name: 'empty' }).click();
  await page.getByRole('button', { name: 'Start a setlist' }).click();
  await expect(page.getByText('No songs yet')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Find a song/).fill('setlist Midsummer');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('song-row')).toHaveCount(10);
});

test('MIDI refused or absent is said, with what to do, and the bench works on', async ({ page, demo }) => {
  await open(page, demo, '/gear');
  await page.getByRole('button', { name: 'Connect MIDI ports' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'The bench works meanwhile' })).toBeVisible();
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'Treadle pedal 2' }).dispatchEvent('pointerdown');
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
});

test('letters typed at once after the palette was asked for are all its own, and gone on with', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('kel');
  await expect(page.getByPlaceholder(/Find a song/)).toBeFocused();
  await page.keyboard.type('p');
  await expect(page.getByPlaceholder(/Find a song/)).toHaveValue('kelp');
  await expect(page.getByRole('button', { name: 'Lock for the stage', includeHidden: true })).toBeAttached();
  // Closed by the same keys, it takes none: the next one is the player's again.
  await page.keyboard.press('Control+k');
  await expect(page.getByPlaceholder(/Find a song/)).toBeHidden();
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('[data-position="1"]')).toHaveAttribute('aria-current', 'true');
});
