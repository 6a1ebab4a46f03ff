import type { Locator, Page } from '@playwright/test';
import { expect, heard, open, startSound, test, type Rackle } from './rackle';

const standAt = async (page: Page, place: string): Promise<void> => {
  const position = page.getByRole('textbox', { name: 'position', exact: true });
  await position.fill(place);
  await position.press('Enter');
  await expect(position).toHaveValue(place);
};
const openSong = async (page: Page, address: string, id: string): Promise<void> => {
  await page.goto(`${address}/timeline/${id}`);
  await page.getByRole('button', { name: 'Stand in this song' }).click();
};
const lower = (page: Page, name: RegExp): Promise<void> => page.getByRole('tab', { name }).click();
const flag = (page: Page, words: string | RegExp): Locator => page.getByRole('button', { name: words });
const rows = (page: Page): Locator =>
  page.getByRole('table', { name: 'cues' }).getByRole('textbox', { name: 'position of the cue' });

/** Drags a flag by a share of the chart's width. */
async function drag(page: Page, what: Locator, bars: number, ofBars: number): Promise<void> {
  const box = (await what.boundingBox())!;
  const chart = (await page.getByTestId('bar-ruler').boundingBox())!;
  const [x, y] = [box.x + 3, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 8, y);
  await page.mouse.move(x + (bars / ofBars) * chart.width, y, { steps: 4 });
  await page.mouse.up();
}

test('played at a thousand beats a minute, every recall of Third Ferry Home comes in its order, and its lights and text with it', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await openSong(page, demo.address, 'third-ferry-home');
  await lower(page, /tempo/);
  const tempo = page.getByRole('textbox', { name: /^tempo from/ });
  await tempo.fill('1000');
  await tempo.press('Enter');
  await page.keyboard.press('m');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const monitor = page.getByRole('region', { name: 'monitor' });
  for (const name of ['Gangway', 'Gangway, quiet', 'Open water', 'Bell buoy', 'Home lights'])
    await expect(monitor).toContainText(`→ Third Ferry Home: ${name} (cue)`, { timeout: 60_000 });
  await expect(monitor).toContainText('text: “wait for the fiddle pick-up”');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: 60_000 });
});

test('cues are dragged to the bar, moved by keys, chosen by a rectangle, shifted together, and undone in one step each', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/third-ferry-home');
  await page.getByRole('combobox', { name: 'what a drag keeps to' }).click();
  await page.getByRole('option', { name: 'the bar', exact: true }).click();
  await drag(page, flag(page, '17 : 1: recall Gangway'), 2, 96);
  await expect(flag(page, '19 : 1: recall Gangway')).toBeVisible();
  await page.getByRole('button', { name: 'Undo: move a cue' }).click();
  await expect(flag(page, '17 : 1: recall Gangway')).toBeVisible();

  // By keys: a press has chosen it; an arrow moves it by what a drag keeps to, with Alt by a tick.
  await flag(page, '41 : 1: lights Beacon Full').click();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Alt+ArrowRight');
  await expect(flag(page, '40 : 1 + 1: lights Beacon Full')).toBeFocused();

  // A rectangle over the lanes takes what lies in it.
  await page.keyboard.press('Escape');
  const lights = page.getByRole('group', { name: 'lights' });
  const lane = (await lights.boundingBox())!;
  await page.mouse.move(lane.x + lane.width * 0.3, lane.y + lane.height - 4);
  await page.mouse.down();
  await page.mouse.move(lane.x + lane.width * 0.8, lane.y + lane.height - 2, { steps: 4 });
  await page.mouse.up();
  const chosen = page.getByRole('group', { name: 'the chosen cues' });
  await expect(chosen).toContainText('3 cues');
  await chosen.getByRole('textbox', { name: 'how far they move' }).fill('4');
  await chosen.getByRole('textbox', { name: 'how far they move' }).press('Enter');
  await chosen.getByRole('button', { name: 'move', exact: true }).click();
  await expect(flag(page, '61 : 1: lights Beacon One lamp')).toBeVisible();
  await expect(flag(page, '73 : 1: lights Beacon Full')).toBeVisible();
  await page.getByRole('button', { name: 'Undo: move 3 cues' }).click();
  await expect(flag(page, '57 : 1: lights Beacon One lamp')).toBeVisible();
});

test('every kind of cue is put in at the playhead and typed; kinds are shown by themselves, and a cue is found', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await openSong(page, demo.address, 'tin-roof-waltz');
  await standAt(page, '9 : 2');
  const add = async (name: string): Promise<void> => {
    await page.getByRole('combobox', { name: 'cue here: what belongs here' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  const kinds = [
    'Umbrella',
    'a preset of the gear, by name',
    'a program change',
    'a controller',
    'a note',
    'something for the lights',
    'a text to read on stage',
    'faster or slower',
    'any other message',
  ];
  for (const kind of kinds) await add(kind);
  await expect(rows(page)).toHaveCount(kinds.length);
  const text = page.getByRole('textbox', { name: 'text of the cue' });
  await text.fill('wait for drums');
  await text.press('Enter');
  await expect(flag(page, '9 : 2: text wait for drums')).toBeVisible();
  await page.getByRole('button', { name: 'then on its way' }).click();
  await page.getByRole('textbox', { name: 'end value of the cue' }).fill('20');
  await page.keyboard.press('Enter');
  await expect(flag(page, /controller 7 100 to 20$/)).toBeVisible();
  // What is no message is not taken, and says what one is.
  const bytes = page.getByRole('textbox', { name: 'bytes of the cue' }).last();
  await bytes.fill('90 3C');
  await bytes.press('Enter');
  await expect(page.getByRole('alert')).toContainText('a note is a cue of its own');
  await bytes.press('Escape');

  await page.getByRole('combobox', { name: 'kinds of cues that are shown' }).click();
  await page.getByRole('option', { name: 'note only' }).click();
  await expect(rows(page)).toHaveCount(1);
  await page.getByRole('combobox', { name: 'kinds of cues that are shown' }).click();
  await page.getByRole('option', { name: 'every cue' }).click();
  await page.getByRole('searchbox', { name: 'find a cue' }).fill('drums');
  await expect(rows(page)).toHaveCount(1);
  // One that is switched off does nothing, and stays.
  await page.getByRole('table', { name: 'cues' }).getByRole('button', { name: 'text', exact: true }).click();
  await expect(flag(page, '9 : 2: text wait for drums, switched off')).toBeVisible();
  await expect(page.getByTestId('save-state')).toHaveText(/^saved \d\d:\d\d$/);
});

test('lights and texts are told as the playhead passes; a section is jumped to, and played over and over', async ({
  page,
  demo,
}) => {
  await open(page, demo);
  await openSong(page, demo.address, 'third-ferry-home');
  await page.getByRole('button', { name: 'bench' }).click();
  await standAt(page, '14 : 4');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByTestId('timeline-text')).toHaveText('wait for the fiddle pick-up');
  // What counts there has been chased.
  await expect(page.getByRole('region', { name: 'Beacon' })).toContainText('40');
  await page.getByRole('button', { name: 'bench' }).click();
  await lower(page, /sections/);
  await page.getByRole('button', { name: 'loop Chorus' }).click();
  await expect(page.getByTestId('loop')).toBeVisible();
  await page.getByRole('button', { name: 'jump to Chorus at the next bar' }).click();
  await expect(page.getByTestId('playhead')).toHaveText(/^4[1-5] : /);
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-name')).toHaveText('Open water');
  await expect(page.getByTestId('stage-section')).toHaveText('Chorus, ');
});

test('at the end of a song the next one is there, as its setlist says', async ({ page, demo }) => {
  await open(page, demo);
  await openSong(page, demo.address, 'third-ferry-home');
  await page.getByRole('combobox', { name: 'what comes at the end' }).click();
  await page.getByRole('option', { name: 'goes to the next song' }).click();
  await expect(page.getByRole('button', { name: 'Undo: change what comes at the end' })).toBeVisible();
  await standAt(page, '96 : 3');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByTestId('stage-name')).toHaveText('Dusk');
  await expect(page.getByTestId('stage')).toContainText('timeline stands');
});

test('sections are made, named, repeated together and by copies; cues go from song to song', async ({ page, demo }) => {
  await open(page, demo);
  await openSong(page, demo.address, 'kelp-dance');
  // What the second tune repeats stands there too, and is moved where it was made.
  await expect(flag(page, '65 : 1: lights Beacon Green, up, repeated')).toBeVisible();
  await lower(page, /sections/);
  const follows = page.getByRole('combobox', { name: 'cues of Tune again' });
  await expect(follows).toHaveText('cues of Tune');
  await follows.click();
  await page.getByRole('option', { name: 'cues of its own' }).click();
  await expect(flag(page, '65 : 1: lights Beacon Green, up')).toBeVisible();
  await standAt(page, '97 : 1');
  await page.getByRole('button', { name: 'another from bar 97' }).click();
  const name = page.getByRole('textbox', { name: 'name of section Section 5' });
  await expect(name).toBeFocused();
  await name.fill('Last breath');
  await name.press('Enter');
  await expect(page.getByRole('list', { name: 'sections' })).toContainText('Last breath');
  await expect(page.getByRole('textbox', { name: 'end of Out' })).toHaveValue('97 : 1');

  await flag(page, '1 : 1: lights Beacon Green, low').click();
  await page.keyboard.press('Control+c');
  await page.getByRole('button', { name: 'Low Tide Letters, Envelope', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Low Tide Letters' })).toBeVisible();
  await page.getByRole('button', { name: 'paste at the playhead' }).click();
  await expect(flag(page, '1 : 1: lights Beacon Green, low')).toBeVisible();
});

/** Pilot Cutter leads the timeline, with Third Ferry Home put on, and the page of the timeline is open over the bench. */
async function followPilot(page: Page, demo: Rackle): Promise<void> {
  await open(page, demo, '/gear');
  await page
    .getByRole('region', { name: 'ports' })
    .getByRole('button', { name: /^Pilot Cutter/ })
    .click();
  await page.getByLabel('leads the timeline').check();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.keyboard.press('b');
  await page.getByRole('combobox', { name: 'song of Pilot Cutter' }).click();
  await page.getByRole('option', { name: 'Third Ferry Home' }).click();
  await page.getByRole('link', { name: /^Timeline/ }).click();
}

test('a clock that leads is named where the song is, with its tempo; pulled out it is said to be lost', async ({
  page,
  demo,
}) => {
  await followPilot(page, demo);
  const leader = page.getByTestId('leader');
  await expect(leader).toContainText('led by Pilot Cutter, no clock yet');
  const pilot = page.getByRole('region', { name: 'Pilot Cutter' });
  await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Third Ferry Home' })).toBeVisible();
  await pilot.getByRole('button', { name: 'play', exact: true }).click();
  await expect(leader).toContainText(/led by Pilot Cutter, 11[12]\.\d, ±\d+\.\d ms/);
  await pilot.getByRole('button', { name: 'pull out' }).click();
  await expect(leader).toContainText('its clock is lost');
});

test('what another player calls where cues recall the same is named, and left to it in one step', async ({
  page,
  demo,
}) => {
  await followPilot(page, demo);
  const pilot = page.getByRole('region', { name: 'Pilot Cutter' });
  await page.getByRole('button', { name: 'Third Ferry Home, Quay', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Third Ferry Home' })).toBeVisible();
  await pilot.getByRole('button', { name: 'play', exact: true }).click();
  await expect(page.getByRole('group', { name: 'called by Pilot Cutter' })).toContainText('Quay twice');
  await expect(page.getByRole('status').filter({ hasText: 'fires twice' })).toBeVisible();
  await pilot.getByRole('button', { name: 'stop', exact: true }).click();
  await page.getByRole('link', { name: /^Soundcheck/ }).click();
  await expect(page.getByRole('list', { name: 'findings' })).toContainText(
    'Quay is recalled by a cue and called by Pilot Cutter',
  );
  await page.getByRole('link', { name: /^Timeline/ }).click();
  await page.getByRole('button', { name: 'Leave it to Pilot Cutter' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'fires twice' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Undo: leave 1 recall to Pilot Cutter' })).toBeVisible();
});

test('gear that is not ready when its notes come is hatched, and sent ahead at the last safe moment, in one step', async ({
  page,
  demo,
}) => {
  const path = `${demo.address}/api/v1/songs/moth-and-lamp`;
  const { revision, body } = (await (await page.request.get(path)).json()) as {
    revision: number;
    body: { cues: object[] };
  };
  const to = { port: 'Skerry', channel: 5 };
  const cues = [
    ...body.cues,
    { kind: 'program', id: 'p', atTick: 96_000, ...to, program: 4 },
    { kind: 'note', id: 'n', atTick: 96_100, to: { kind: 'port', ...to }, key: 60, lengthTicks: 480 },
  ];
  const put = await page.request.put(path, { headers: { 'If-Match': `"${revision}"` }, data: { ...body, cues } });
  expect(put.ok(), await put.text()).toBe(true);
  await open(page, demo, '/timeline/moth-and-lamp');
  await page.getByRole('tab', { name: 'lead, 1 late' }).click();
  const lead = page.getByRole('region', { name: 'lead' });
  await expect(lead).toContainText(/Skerry 5 needs 191 ms: 1 note comes before it is ready/);
  await expect(page.getByTestId('not-ready').first()).toBeVisible();
  // Under the pointer it is drawn, and not done yet.
  const move = lead.getByRole('button', { name: /^move it to / });
  await move.hover();
  const where = (await move.textContent())!.replace('move it to ', '');
  await expect(page.getByTestId('proposed')).toContainText(where);
  await page.getByRole('heading', { level: 1 }).hover();
  await expect(page.getByTestId('proposed')).toHaveCount(0);
  await expect(lead).toContainText('before it is ready');
  await move.click();
  await expect(page.getByTestId('proposed')).toHaveCount(0);
  await expect(page.getByRole('tab', { name: 'lead', exact: true })).toBeVisible();
  await expect(lead).not.toContainText('before it is ready');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('tab', { name: 'lead, 1 late' })).toBeVisible();
});

test('a sound is searched and its recall stands at the playhead, with a patch of its own; found again it is the same patch', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/slow-bell');
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  const here = async (position: string): Promise<void> => {
    await standAt(page, position);
    await page.getByRole('combobox', { name: 'cue here: what belongs here' }).click();
    await page.getByRole('option', { name: 'a sound, to be searched …' }).click();
    await page.getByPlaceholder('a name, an instrument, a folder').fill('wet planks');
    await expect(page.getByRole('option', { name: /Wet Planks/ }).first()).toBeVisible();
    await page.keyboard.press('Enter');
  };
  await here('3 : 1');
  const patches = page.getByRole('combobox', { name: 'patch of the cue' }).filter({ hasText: 'Wet Planks' });
  await expect(patches).toHaveCount(1);
  await here('5 : 1');
  await expect(patches).toHaveCount(2);
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await expect(page.getByText('Wet Planks', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('link', { name: 'Timeline', exact: true }).click();
  await expect(patches).toHaveCount(0);
});

test('the click is heard on every beat, through the output that Gear names; a count-in is heard before the song moves', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/tin-roof-waltz');
  await startSound(page);
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  await page.getByRole('button', { name: 'click', exact: true }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await heard(page, 0.05);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'click', exact: true }).click();
  const counted = page.getByRole('textbox', { name: 'count-in' });
  await counted.fill('4');
  await counted.press('Enter');
  await page.getByRole('button', { name: 'To the start' }).click();
  await expect(page.getByTestId('playhead')).toHaveText('1 : 1');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await heard(page, 0.05);
  await expect(page.getByTestId('playhead')).toHaveText(/^[2-9] : /);
  await page.getByRole('link', { name: /^Gear/ }).click();
  const click = page.getByRole('region', { name: 'click' });
  await expect(click.getByRole('button', { name: 'click with the timeline' })).toHaveAttribute('aria-pressed', 'false');
  await click.getByRole('combobox', { name: 'where the click sounds' }).click();
  await page.getByRole('option', { name: 'Skerry' }).click();
  await expect(click.getByRole('textbox', { name: 'channel of the click' })).toHaveValue('10');
});
