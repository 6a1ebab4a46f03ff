import type { Page } from '@playwright/test';
import type { GearList, Setlist, Song } from '../../core/src/show';
import { expect, open, test, type Rackle } from './rackle';

// The soundcheck as a player meets it: what is broken is found, mended by its button, and undone as one step.

/** Changes something behind the page's back, as it was when the page was opened. */
async function change<T>(page: Page, { address }: Rackle, path: string, apply: (body: T) => void): Promise<void> {
  const url = `${address}/api/v1/${path}`;
  const { revision, body } = (await (await page.request.get(url)).json()) as { revision: number; body: T };
  apply(body);
  const put = await page.request.put(url, { headers: { 'If-Match': `"${revision}"` }, data: body as object });
  expect(put.ok()).toBe(true);
}

const song = (page: Page, rackle: Rackle, id: string, apply: (song: Song) => void): Promise<void> =>
  change(page, rackle, `songs/${id}`, apply);

const findings = (page: Page) => page.getByRole('list', { name: 'findings' });

/** The message of each fault, and the button that mends it. */
const TWELVE: readonly (readonly [string, string])[] = [
  ['program 1 (counting from 1) recalls Biscuit Tin Regatta, Jetty and', 'give it number'],
  ['“Next patch” and “Echo” have the same control', 'leave it to “Next patch”'],
  ['controls of Keg 4 send on channel 10', 'hear channel 10 of Keg 4 too'],
  ['right pedal of Clack 2 is latching', 'take it for latching'],
  ['Tide can never sound: it is muted', 'let it sound'],
  ['Growl can never sound: Chapel is heard alone', 'let the others be heard beside Chapel'],
  ['the cue at 1 : 2 does nothing', 'switch the cue off'],
  ['“next” passes over Slow Bell', 'stop at Toll'],
  ['Sea choir plays at once', 'let it wait'],
  ['Rehearsal loft has no output “Skerry”', 'switch Skerry on'],
  ['Fiddle can never sound: no key plays it', 'let keys play it'],
  ['Musette can never sound: its shift leads every key off', 'shift it by nothing'],
];

async function breakInTwelveWays(page: Page, demo: Rackle): Promise<void> {
  const show = (await (await page.request.get(`${demo.address}/api/v1/show`)).json()) as {
    setlists: { body: Setlist }[];
    gearLists: { body: GearList }[];
  };
  const [setlist] = show.setlists;
  const loft = show.gearLists.find(({ body }) => body.name === 'Rehearsal loft')!.body;
  await change<Setlist>(page, demo, `setlists/${setlist.body.id}`, (body) => (body.programs[3].program = 0));
  await change<GearList>(page, demo, `gear-lists/${loft.id}`, (body) => {
    const port = (alias: string) => body.ports.find((one) => one.alias === alias) as never as Record<string, unknown>;
    const [next] = body.roles;
    body.roles.push({ ...next, role: 'Echo' as typeof next.role });
    port('Keg 4').channels = [1];
    (port('Clack 2').controls as { button: string }[])[1].button = 'latching';
    port('Skerry').on = false;
  });
  await song(page, demo, 'biscuit-tin-regatta', (body) => (body.patches[1].parts[2].mute = true));
  await song(page, demo, 'kelp-dance', (body) => (body.patches[0].parts[1].solo = true));
  await song(page, demo, 'tin-roof-waltz', (body) => {
    body.cues = [
      { kind: 'recall', id: 'gone', atTick: 960, off: false, note: '', patchId: 'gone', blendId: null },
    ] as never;
  });
  await song(page, demo, 'slow-bell', (body) => body.patches.forEach((patch) => (patch.isStep = false)));
  await song(page, demo, 'moth-and-lamp', (body) => (body.layers[4].notReady = 'atOnce'));
  await song(page, demo, 'low-tide-letters', (body) => (body.patches[3].parts[1].keys = 'none'));
  await song(page, demo, 'third-ferry-home', (body) => {
    const part = body.patches[4].parts[2];
    part.zone = { ...part.zone, lowKey: 64, highKey: 100 };
    part.shift = 72;
  });
}

test('the demo broken in twelve ways has twelve findings, each mended by its button and undone as one step', async ({
  page,
  demo,
}) => {
  await breakInTwelveWays(page, demo);
  await open(page, demo, '/soundcheck');
  for (const [message] of TWELVE) await expect(findings(page)).toContainText(message);
  await expect(page.getByText(/^\d+ will fail · 2 may fail · /)).toBeVisible();
  for (const [message, verb] of TWELVE) {
    await findings(page)
      .getByRole('button', { name: `${verb}` })
      .filter({ hasText: verb })
      .and(page.locator(`[aria-label*="${message.replaceAll('"', '\\"')}"]`))
      .click();
    await expect(findings(page)).not.toContainText(message);
  }
  await expect(page.getByText('0 will fail · 0 may fail')).toBeVisible();
  for (const [message] of [...TWELVE].reverse()) {
    await page.keyboard.press('Control+z');
    await expect(findings(page)).toContainText(message);
  }
});

test('a finding that is meant so is silent with its reason, stays counted, and can be looked at again', async ({
  page,
  demo,
}) => {
  await song(page, demo, 'biscuit-tin-regatta', (body) => (body.patches[0].parts[1].zone.lowKey = 56));
  await open(page, demo, '/soundcheck');
  await page.getByRole('button', { name: 'meant so: F3–G3 are silent' }).click();
  await page.keyboard.type('The drone is alone there');
  await page.keyboard.press('Enter');
  await expect(page.getByText('0 will fail · 0 may fail · 4 to know · 1 meant so')).toBeVisible();
  await expect(page.getByRole('list', { name: 'meant so' })).toContainText('The drone is alone there');
  await page.reload();
  await expect(page.getByText('1 meant so')).toBeVisible();
  await page.getByRole('button', { name: 'look at it again: F3–G3 are silent' }).click();
  await expect(page.getByText('1 may fail · 4 to know · 0 meant so')).toBeVisible();
});

test('a finding leads to its place: the patch of the song is looked at', async ({ page, demo }) => {
  await song(page, demo, 'kelp-dance', (body) => (body.patches[2].parts[0].mute = true));
  await open(page, demo, '/soundcheck');
  await findings(page).getByRole('link', { name: 'Kelp Dance: Surface' }).click();
  await expect(page.getByRole('heading', { name: 'Kelp Dance' })).toBeVisible();
  await expect(page.getByText('Looked at: Surface.')).toBeVisible();
});

test('every change is played through by the engine: nothing wrong in the demo; what is silent is shown case by case', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/soundcheck');
  const played = page.getByRole('region', { name: 'played through' });
  await played.getByRole('button', { name: 'play every change' }).click();
  await expect(played.getByRole('status')).toContainText('1158 cases of 98 changes played: nothing stuck');
  await song(page, demo, 'moth-and-lamp', (body) => {
    const choir = body.layers[4];
    const second = { ...choir, id: 'two', name: 'Two', sound: { ...choir.sound, presetId: 'skerry/3' } };
    body.layers.push(second as typeof choir);
    const [part] = body.patches[3].parts;
    body.patches[3].parts.push({
      ...part,
      layerId: 'two',
      zone: { ...part.zone, lowKey: 90, highKey: 96 },
    } as typeof part);
  });
  await page.reload();
  await expect(findings(page)).toContainText('Two and Sea choir want different presets');
  await played.getByRole('button', { name: 'play every change' }).click();
  const wrong = played.getByRole('list', { name: 'what went wrong when played' });
  await expect(wrong).toContainText(/Two is silent/i);
  await wrong.getByRole('button', { name: 'Moth and Lamp, Flame to Moth and Lamp, Ash with keys held' }).click();
  await expect(wrong.getByRole('img', { name: /Skerry, 1: \d+ notes/ })).toBeVisible();
});

test('a simulation can be called off, and the one after it runs to its end', async ({ page, demo }) => {
  await open(page, demo, '/soundcheck');
  const played = page.getByRole('region', { name: 'played through' });
  await played.getByRole('button', { name: 'from any step to any other' }).click();
  await played.getByRole('button', { name: 'call it off' }).click();
  await expect(played.getByRole('button', { name: 'play every change' })).toBeVisible();
  await expect(played.getByRole('status')).toHaveCount(0);
  await played.getByRole('button', { name: 'play every change' }).click();
  await expect(played.getByRole('status')).toContainText('1158 cases');
});

test('what takes more memory than it may is found, with the wait; a pin stays over a reload', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/soundcheck');
  const memory = page.getByRole('region', { name: 'memory over the evening' });
  await expect(memory).toContainText('In running order nobody waits.');
  await memory.getByLabel('memory for sounds').fill('60');
  await page.keyboard.press('Enter');
  await expect(findings(page)).toContainText(/waits \d\.\d s for a sound/);
  await memory.getByRole('button', { name: /^pin / }).first().click();
  await expect(memory.getByRole('list', { name: 'pinned sounds' })).toContainText('stays in memory all evening');
  await page.reload();
  await expect(memory.getByRole('list', { name: 'pinned sounds' })).toBeVisible();
  await memory.getByRole('button', { name: /^let go of / }).click();
  await memory.getByLabel('memory for sounds').fill('1500');
  await page.keyboard.press('Enter');
  await expect(memory).toContainText('In running order nobody waits.');
});

test('levels are measured unheard: a step that jumps is found and turned down by its button; the evening shows how loud it is', async ({
  page,
  demo,
}) => {
  const shown = (await (await page.request.get(`${demo.address}/api/v1/show`)).json()) as {
    setlists: { body: Setlist }[];
    songs: { body: Song }[];
  };
  const letters = shown.songs.find(({ body }) => body.name === 'Low Tide Letters')!.body;
  await change<Setlist>(page, demo, `setlists/${shown.setlists[0].body.id}`, (body) => {
    body.entries = body.entries.filter((entry) => entry.kind === 'song' && entry.songId === letters.id);
  });
  await song(page, demo, letters.id, ({ patches }) => {
    const ink = patches.find(({ name }) => name === 'Ink')!;
    for (const part of ink.parts) part.levelDb += 8;
  });
  await open(page, demo, '/soundcheck');
  const levels = page.getByRole('region', { name: 'levels' });
  await levels.getByRole('button', { name: 'measure every step' }).click();
  await expect(levels.getByRole('status')).toContainText('4 steps measured', { timeout: 200_000 });
  await expect(findings(page)).toContainText(/ink is \d\.\d LU louder than Envelope before it/i);
  await expect(findings(page)).toContainText(/postmark is \d\.\d LU softer than Ink before it/i);
  await page.getByRole('button', { name: /turn it down by \d dB: Ink is/ }).click();
  await expect(levels.getByRole('status')).toContainText('Some of it is new or has been edited');
  await levels.getByRole('button', { name: 'measure every step' }).click();
  await expect(findings(page)).not.toContainText('LU louder', { timeout: 200_000 });
  await expect(levels.getByRole('status')).toContainText('4 steps measured');
  await page.getByRole('link', { name: 'Setlist', exact: true }).click();
  const evening = page.getByRole('img', { name: /^the evening: .* loudness −\d+ to −\d+ LUFS/ });
  await expect(evening).toBeVisible();
  // It is there again at the next visit, and nothing has to be measured for it.
  await page.reload();
  await expect(evening).toBeVisible();
});
