import { expect, heard, hostOf, meantEverywhere, open, peak, startSound, test, strikes } from './rackle';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { writeBank } from '../../core/test/soundfont';

/** A mono WAV of a steady tone. */
function wav(hz: number, seconds: number, rate = 22_050): Buffer {
  const frames = Math.round(seconds * rate);
  const bytes = Buffer.alloc(44 + frames * 2);
  bytes.write('RIFF', 0).toString();
  bytes.writeUInt32LE(36 + frames * 2, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(rate, 24);
  bytes.writeUInt32LE(rate * 2, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(frames * 2, 40);
  for (let i = 0; i < frames; i++)
    bytes.writeInt16LE(Math.round(20_000 * Math.sin((2 * Math.PI * hz * i) / rate)), 44 + i * 2);
  return bytes;
}

const command = async (page: Page, words: string): Promise<void> => {
  await page.keyboard.press('Control+k');
  await expect(page.getByPlaceholder('Find a song, a patch, a sound, an action')).toBeFocused();
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
};
/** Goes by Tab to the thing that has the focus when it matches. */
const tabTo = async (page: Page, label: RegExp, most = 120): Promise<void> => {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press('Tab');
    const name = await page.evaluate(() => {
      const at = document.activeElement;
      return (at?.getAttribute('aria-label') ?? at?.textContent ?? '').trim();
    });
    if (label.test(name)) return;
  }
  throw new Error(`no way to ${String(label)} by Tab`);
};
/** Whoever plays the keyboard: a key of a further simulated one, as hands on real keys would. */
const hands = async (page: Page, status: 0x90 | 0x80, key: number): Promise<void> =>
  (await hostOf(page)).evaluate(
    ([kind, at]) => {
      type Input = { emit(status: number, data1: number, data2: number): void };
      const globals = globalThis as unknown as { rackleInput(name: string): Input; hands?: Input };
      globals.hands ??= globals.rackleInput('Aster 73');
      globals.hands.emit(kind, at, 90);
    },
    [status, key] as const,
  );
const strike = async (page: Page, key: number): Promise<void> => {
  await hands(page, 0x90, key);
  await hands(page, 0x80, key);
};
const soundSeconds = async (page: Page): Promise<number> =>
  (await hostOf(page)).evaluate(() => (globalThis as unknown as { rackleSoundSeconds(): number }).rackleSoundSeconds());

test('a song is built from nothing by keyboard alone: two layers from search, split by playing, a blend, a copy elsewhere, and it is heard', async ({
  page,
  empty,
}) => {
  await page.goto(empty.address);
  await expect(page.getByRole('heading', { name: 'No setlist yet' })).toBeVisible();
  await startSound(page);
  await tabTo(page, /name of the setlist/);
  await page.keyboard.type('Barn night');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Barn night').first()).toBeVisible();
  await command(page, 'Start a new song');
  await expect(page.getByLabel('name of the song')).toHaveValue('New song');
  await command(page, 'New song First');

  // The first layer's sound, by search, heard while it is looked for.
  const score = /^score of the song/;
  await tabTo(page, /^find one$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'find a sound' })).toBeFocused();
  await page.keyboard.type('upright');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { selected: true })).toContainText('Upright');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Upright');

  // A second layer: A in the score.
  await tabTo(page, score);
  await page.keyboard.press('a');
  await expect(page.getByRole('combobox', { name: 'find a sound' })).toBeFocused();
  await page.keyboard.type('late baot');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Late Boat');

  // Split by playing a key.
  await tabTo(page, /^split: .* from a key up/);
  await page.keyboard.press('Enter');
  await strike(page, 60);
  await expect(page.getByLabel('lowest key', { exact: true })).toHaveValue('C4');
  // And the upper end by playing both.
  await tabTo(page, /^play its end keys/);
  await page.keyboard.press('Enter');
  await strike(page, 60);
  await expect(page.getByRole('button', { name: 'and the other end …' })).toBeVisible();
  await strike(page, 84);
  await expect(page.getByLabel('highest key', { exact: true })).toHaveValue('C6');

  // A blend of what is there, then quieter.
  await tabTo(page, score);
  await page.keyboard.press('c');
  await expect(page.getByLabel('name of the blend')).toHaveValue('Blend 1');
  await tabTo(page, /^level$/);
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByLabel('level', { exact: true })).toHaveClass(/font-bold/);
  await page.keyboard.press('Tab');

  // Another song, and a copy of the patch in it.
  await command(page, 'Start a new song');
  await page.getByLabel('name of the song').waitFor();
  await command(page, 'New song First');
  await tabTo(page, score);
  await page.keyboard.press('Home');
  await tabTo(page, /^copy into another song/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: 'copy into …' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { name: 'New song' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/A copy of “First” is the last patch of New song/)).toBeVisible();

  // Played: both layers under one hand.
  await command(page, 'New song Blend');
  await strikes(page, 0.005, async () => {
    for (const key of [48, 72]) await hands(page, 0x90, key);
  });
  for (const key of [48, 72]) await hands(page, 0x80, key);
  const songs = (await (await page.request.get(`${empty.address}/api/v1/show`)).json()) as {
    songs: { body: { patches: { parts: { zone: { lowKey: number; highKey: number } }[]; blends: unknown[] }[] } }[];
  };
  const built = songs.songs.find(({ body }) => body.patches.some(({ blends }) => blends.length > 0))!;
  expect(built.body.patches[0].parts.map(({ zone }) => [zone.lowKey, zone.highKey])).toEqual([
    [0, 59],
    [60, 84],
  ]);
  expect(songs.songs.some(({ body }) => body.patches.length === 2)).toBe(true);
});

/** Once the bank of the tests is there: one of its presets is found, taken into the layer, and heard there. */
async function takeLamp(page: Page): Promise<void> {
  await expect(page.getByRole('link', { name: /Lantern Row/ })).toContainText('bank, 3');
  await page.getByRole('combobox', { name: 'find a sound' }).fill('lamp low high');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { selected: true })).toContainText('Lantern Row');
  await page.keyboard.press('Enter');
  // The key that asked answers nothing.
  await meantEverywhere(page);
  await page.getByRole('link', { name: 'Songs' }).click();
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Lantern Row');
  await expect(page.getByText('loading …')).toBeHidden();
  await strikes(page, 0.005, () => hands(page, 0x90, 40));
  await hands(page, 0x80, 40);
}

test('a bank is brought in, its preset is heard in a layer and saved; a broken one is refused and nothing is stored', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/sounds');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: 'Sounds' }).click();
  await startSound(page);
  const picker = page.getByLabel('banks and recordings from this machine');
  const bytes = Buffer.from(writeBank());
  await picker.setInputFiles({
    name: 'torn.sf2',
    mimeType: 'application/octet-stream',
    buffer: bytes.subarray(0, bytes.length - 50),
  });
  await expect(page.getByText(/torn.sf2: The bank is cut short/)).toBeVisible();
  await picker.setInputFiles({ name: 'lanterns.sf2', mimeType: 'application/octet-stream', buffer: bytes });
  await takeLamp(page);
  await expect(page.getByTestId('capacity')).toContainText('sampled sounds take');
  await page.reload();
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Lantern Row');
});

test('a bank with compressed samples (.sf3) is brought in and heard', async ({ page, demo }) => {
  await open(page, demo, '/sounds');
  await page.getByRole('heading', { name: 'Sounds' }).click();
  await startSound(page);
  await page
    .getByLabel('banks and recordings from this machine')
    .setInputFiles(join(import.meta.dirname, '../../core/test/fixtures/lantern-row.sf3'));
  await takeLamp(page);
});

test('a recording is brought in, trimmed, and started and stopped as a loop by a key', async ({ page, demo }) => {
  await open(page, demo, '/sounds');
  await page.getByRole('heading', { name: 'Sounds' }).click();
  await startSound(page);
  const picker = page.getByLabel('banks and recordings from this machine');
  await picker.setInputFiles({ name: 'no sound.wav', mimeType: 'audio/wav', buffer: Buffer.from('this is no sound') });
  await expect(page.getByText(/is no sound that this browser can read/)).toBeVisible();
  await picker.setInputFiles({ name: 'harbour.wav', mimeType: 'audio/wav', buffer: wav(330, 1.5) });
  await page.getByRole('link', { name: /My recordings/ }).click();
  const start = page.getByLabel('start of harbour');
  await start.fill('0.5');
  await start.press('Enter');
  await page.getByRole('combobox', { name: 'how harbour plays' }).click();
  await page.getByRole('option', { name: /round and round/ }).click();
  await page.getByRole('button', { name: /^take it for Bass hand/ }).click();
  await meantEverywhere(page);
  await page.getByRole('link', { name: 'Songs' }).click();
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('harbour');
  await expect(page.getByText('loading …')).toBeHidden();
  const startedAt = await soundSeconds(page);
  await strike(page, 48);
  // The recording is at its end by then, and the key has long been up: it goes round.
  await expect.poll(() => soundSeconds(page)).toBeGreaterThan(startedAt + 1.5);
  await heard(page, 0.01);
  await strike(page, 48);
  await expect.poll(() => peak(page)).toBeLessThan(0.0005);
});

test('live sound from the bench is heard through a layer, muted with it, and only in its patch', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/songs');
  await startSound(page);
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'live sound instead' }).click();
  await meantEverywhere(page);
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Live sound from');
  await page.getByRole('button', { name: 'play its loop' }).click();
  await heard(page, 0.01);
  await page.getByRole('button', { name: 'mute', exact: true }).click();
  await expect.poll(() => peak(page)).toBeLessThan(0.0005);
  await page.getByRole('button', { name: 'mute', exact: true }).click();
  await heard(page, 0.01);
  // The next song has no such layer.
  await page.locator('[data-position="4"]').click();
  await expect.poll(() => peak(page)).toBeLessThan(0.0005);
});

test('a preset is made one’s own, with effects, and kept; a patch goes to the library and starts another one', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/sounds/causeway');
  await page.getByRole('button', { name: 'Make it my own' }).click();
  await page.getByLabel('name of the preset').fill('Late Boat, dark');
  await page.getByLabel('name of the preset').press('Enter');
  await page.getByRole('slider', { name: 'brightness' }).fill('-60');
  await page.getByRole('combobox', { name: 'add an effect' }).click();
  await page.getByRole('option', { name: 'tremolo' }).click();
  await page.getByRole('button', { name: /^Take it for/ }).click();
  await meantEverywhere(page);
  await page.getByRole('link', { name: 'Songs' }).click();
  await expect(page.getByRole('region', { name: 'signal line' })).toContainText('Late Boat, dark');
  await page.getByRole('button', { name: 'keep in the library' }).click();
  await page.getByRole('link', { name: 'all songs, library' }).click();
  const item = page.getByRole('list', { name: 'library' }).getByRole('listitem', { name: 'Jetty' });
  await item.getByRole('checkbox').check();
  await page.getByRole('link', { name: 'Slow Bell' }).click();
  await page.getByRole('combobox', { name: 'start from the library' }).click();
  await page.getByRole('option', { name: 'Jetty' }).click();
  await expect(page.getByLabel('name of the patch')).toHaveValue('Jetty');
  await page.getByRole('link', { name: 'all songs, library' }).click();
  await expect(item).toContainText('started from it: Jetty in Slow Bell');
  await item.getByRole('button', { name: /take Jetty out/ }).click();
  await expect(item.getByRole('alert')).toContainText('stays as it is');
  await item.getByRole('button', { name: 'take it out' }).click();
  await expect(item).toBeHidden();
  await page.reload();
  await page.getByRole('link', { name: 'Slow Bell', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Jetty/ }).first()).toBeVisible();
});

test('a layer gets a rotary speaker: brake, slow or fast; a choice is one step back', async ({ page, demo }) => {
  await open(page, demo, '/songs/third-ferry-home');
  const line = page.getByRole('region', { name: 'signal line' });
  await line.getByRole('combobox', { name: /^add an effect/ }).click();
  await page.getByRole('option', { name: 'rotary' }).click();
  await page.getByRole('button', { name: /^In all/ }).click();
  const speed = line.getByRole('combobox', { name: /^speed of rotary/ });
  await expect(speed).toHaveText('slow');
  await speed.click();
  await expect(page.getByRole('option')).toHaveText(['brake', 'slow', 'fast']);
  await page.getByRole('option', { name: 'fast' }).click();
  await expect(speed).toHaveText('fast');
  await page.getByRole('button', { name: /^undo/i }).click();
  await expect(speed).toHaveText('slow');
});

test('stars, categories and what was used last narrow the search; a star goes by key', async ({ page, demo }) => {
  await open(page, demo, '/sounds');
  const field = page.getByRole('combobox', { name: 'find a sound' });
  await field.fill('foghorn');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('*');
  await page.getByLabel('new category').fill('Barn');
  await page.getByLabel('new category').press('Enter');
  await page.getByRole('checkbox', { name: 'Barn', exact: true }).check();
  await field.focus();
  await page.keyboard.press('Enter');
  await meantEverywhere(page);
  await field.fill('');
  for (const [which, count] of [
    [/^starred \(4\)/, '4 sounds'],
    [/^used last \(1\)/, '1 sound'],
    [/^Barn \(1\)/, '1 sound'],
  ] as const) {
    await page.getByRole('combobox', { name: 'which of them' }).click();
    await page.getByRole('option', { name: which }).click();
    await expect(page.getByTestId('hit-count')).toHaveText(count);
    await expect(page.getByRole('option').filter({ hasText: 'Foghorn' })).toHaveCount(1);
  }
  await page.reload();
  await page.getByRole('combobox', { name: 'which of them' }).click();
  await expect(page.getByRole('option', { name: /^Barn \(1\)/ })).toBeVisible();
});

test('a blend holds what effects are set to; a role may move one; neighbours cross over', async ({ page, demo }) => {
  await open(page, demo, '/songs/third-ferry-home');
  await page.locator('[data-position="8"]').click();
  const line = page.getByRole('region', { name: 'signal line' });
  const mix = line.getByLabel('mix of chorus 1');
  await page.getByRole('button', { name: 'Late Boat in Gangway', exact: true }).click();
  await expect(mix).toHaveValue('40 %');
  await page.getByRole('button', { name: /^Late Boat in .*quiet/ }).click();
  await expect(mix).toHaveValue('70 %');
  await expect(line.getByRole('button', { name: 'tremolo 2' })).toHaveAttribute('aria-pressed', 'false');
  await line.getByLabel('depth of chorus 1').fill('90');
  await line.getByLabel('depth of chorus 1').press('Enter');
  await page.getByRole('button', { name: 'Late Boat in Gangway', exact: true }).click();
  await expect(line.getByLabel('depth of chorus 1')).toHaveValue('45 %');
  await page.getByRole('button', { name: /^Late Boat in .*quiet/ }).click();
  await expect(line.getByLabel('depth of chorus 1')).toHaveValue('90 %');

  await page.getByRole('button', { name: /^Slow Tide in .*quiet/ }).click();
  const brightness = line.getByLabel('brightness', { exact: true });
  await expect(brightness).toHaveValue('−20');
  await brightness.fill('+12');
  await brightness.press('Enter');
  await page.getByRole('button', { name: 'Slow Tide in Gangway', exact: true }).click();
  await expect(brightness).toBeHidden();
  await expect(line.getByRole('combobox', { name: 'change the sound here' })).toHaveText(
    'the sound as its preset has it; change …',
  );

  await page.getByRole('button', { name: 'Late Boat in Quay', exact: true }).click();
  await line.getByText('what it does with what is played').click();
  await line.getByRole('combobox', { name: 'cross over with a neighbour' }).click();
  await page.getByRole('option', { name: 'Round, over 6 keys' }).click();
  await expect(line.getByLabel('fade at the lowest key')).toHaveValue('over 6 keys');
  await expect(line.getByLabel('lowest key', { exact: true })).toHaveValue('C3');

  await page.getByRole('link', { name: 'Gear' }).click();
  await page.getByRole('button', { name: /^Bright/ }).click();
  const use = page.getByRole('region', { name: 'what Bright does' });
  await use.getByRole('button', { name: 'in Third Ferry Home' }).click();
  await use.getByRole('combobox', { name: 'what it does' }).last().click();
  await page.getByRole('option', { name: 'depth of chorus, Late Boat' }).click();
  await expect(
    use.getByRole('paragraph').filter({ hasText: 'depth of chorus, Late Boat' }).getByLabel('value at the end'),
  ).toHaveValue('100 %');
});
