// Takes the pictures of docs/screenshots anew, from the built application and the demo show: node
// scripts/screenshots.mjs
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { ensureChromium } from './chromium.mjs';
import { buildMissing, root } from './prepare.mjs';

buildMissing();
const executablePath = ensureChromium();
if (executablePath === null) process.exit(1);
const data = mkdtempSync(join(tmpdir(), 'rackle-pictures-'));
const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
  env: { ...process.env, PORT: '0', RACKLE_DATA: data, RACKLE_SHOW: join(root, 'demo/tern-ledge.json') },
  stdio: ['ignore', 'pipe', 'inherit'],
});
let said = '';
const address = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => {
    said += chunk;
    const found = /http:\S+\d/.exec(said);
    if (found) resolve(found[0]);
  }),
);
const browser = await chromium.launch({
  executablePath,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--autoplay-policy=no-user-gesture-required',
    '--disable-background-networking',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

const go = async (path) => {
  await page.goto(address + path);
  await page.locator('[data-position="0"]').waitFor();
  await page.waitForTimeout(500);
};
const picture = (name) => page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
const play = async (...keys) => {
  await page.getByRole('group', { name: 'keys of Aster 73' }).focus();
  for (const key of keys) await page.keyboard.down(key);
};

await go('/setlist');
await page.locator('[data-position="8"]').click();
await page.keyboard.press('s');
await page.waitForTimeout(800);
await page.getByText(/^most \d+ MB/).waitFor();
await page.mouse.move(700, 770);
await picture('setlist');
await page.getByRole('link', { name: 'Songs' }).click();
await page.getByRole('button', { name: 'Late Boat in Gangway', exact: true }).click();
await page.mouse.move(700, 770);
await page.waitForTimeout(400);
await picture('song-sheet');
await page.getByRole('button', { name: 'bench' }).click();
await page.getByRole('button', { name: 'monitor' }).click();
await page.waitForTimeout(500);
await play('q', 'e', 't');
await page.getByRole('button', { name: 'page up' }).click();
await page.getByRole('button', { name: 'page up' }).click();
await page.getByRole('button', { name: 'Treadle pedal 5' }).dispatchEvent('pointerdown');
await page.getByTestId('bench').evaluate((bench) => bench.scrollTo(0, 0));
await page.waitForTimeout(600);
await picture('bench-and-monitor');
await page.getByRole('button', { name: 'monitor' }).click();
await page.getByRole('button', { name: 'bench' }).click();
await go('/timeline/third-ferry-home');
await page.keyboard.press('s');
await page.getByRole('button', { name: 'Stand in this song' }).click();
await page.waitForTimeout(500);
const position = page.getByRole('textbox', { name: 'position', exact: true });
await position.fill('17 : 1');
await position.press('Enter');
await page.getByRole('button', { name: 'Play', exact: true }).click();
await page.waitForTimeout(300);
await picture('timeline');
await page.getByRole('link', { name: 'Stage' }).click();
await page.mouse.move(700, 770);
await page.waitForTimeout(1200);
await picture('stage');
await page.keyboard.press('p');
// Gear, with values under the hands.
await go('/gear');
await page.keyboard.press('s');
await page.locator('[data-position="8"]').click();
await page.keyboard.press('b');
await page.getByLabel('Cobble knob 1', { exact: true }).fill('20');
await page.getByLabel('Cobble knob 1', { exact: true }).fill('100');
await page.locator('input[aria-label="Heel 1"]').fill('0.7');
await page.getByRole('button', { name: 'bench' }).click();
await page.mouse.move(700, 770);
await page.waitForTimeout(300);
await picture('gear');
await go('/numbers');
await page.getByRole('cell', { name: 'Gangway', exact: true }).click();
await picture('numbers');
await page.getByRole('link', { name: 'Controller sheets' }).click();
await page.waitForTimeout(400);
await picture('controller-sheets');
await go('/sounds');
await page.getByRole('combobox', { name: 'find a sound' }).fill('bell');
await page.keyboard.press('ArrowDown');
await page.keyboard.press('ArrowDown');
await page.waitForTimeout(400);
await picture('sounds');
await page.keyboard.press('Escape');
await page.getByRole('link', { name: /Skerry/ }).click();
await page.waitForTimeout(500);
await picture('name-list');
for (const name of ['soundcheck']) {
  await page.getByRole('navigation', { name: 'pages' }).getByRole('link', { name, exact: false }).click();
  await page.waitForTimeout(700);
  await picture(name);
}
// A preset of the player's own, and the library.
await go('/sounds/parlour');
await page.keyboard.press('s');
await page.getByRole('button', { name: 'Lid Down' }).click();
await page.getByRole('button', { name: 'Make it my own' }).click();
await page.getByRole('slider', { name: 'brightness' }).fill('-35');
await page.getByRole('slider', { name: 'release' }).fill('40');
await page.getByRole('slider', { name: 'width' }).fill('25');
await page.getByRole('combobox', { name: 'add an effect' }).click();
await page.getByRole('option', { name: 'phaser' }).click();
await page.getByText(/recordings over/).waitFor();
await page.getByRole('heading', { name: 'Parlour' }).scrollIntoViewIfNeeded();
await page.mouse.move(700, 770);
await picture('instrument');
await go('/library');
await page.getByRole('button', { name: 'keep in the library' }).first().click();
await page.waitForTimeout(4500);
await picture('library');
// The gigs, and the stage on a tablet that stands upright, with its faders.
await page.setViewportSize({ width: 1280, height: 800 });
await go('/setlists');
await page.getByRole('textbox', { name: 'name of a new setlist' }).fill('Harvest at Tern Ledge');
await page.getByRole('button', { name: 'Start a setlist' }).click();
await page.getByRole('link', { name: 'All setlists' }).click();
await page.getByLabel('day of Harvest at Tern Ledge').fill('2027-09-18');
await page.getByRole('textbox', { name: 'place of Harvest at Tern Ledge' }).fill('Tern Ledge');
await page.getByRole('button', { name: /^make Midsummer/ }).click();
await page.waitForTimeout(500);
await picture('setlists');
const tablet = await browser.newPage({ viewport: { width: 820, height: 1180 }, hasTouch: true });
await tablet.goto(`${address}/stage`);
await tablet.locator('[data-position="18"]').click();
await tablet.getByRole('button', { name: 'faders' }).click();
await tablet.waitForTimeout(900);
await tablet.screenshot({ path: join(root, 'docs/screenshots/stage-tablet.png') });
// A song that was changed since: its history, as it was, and on paper.
await go('/songs/kelp-dance');
await page.getByRole('button', { name: 'Deep in Undertow', exact: true }).click();
for (const [label, value] of [
  ['level', '-9'],
  ['lowest key', 'E4'],
  ['name of the song', 'Kelp Waltz'],
]) {
  await page.getByRole('textbox', { name: label, exact: true }).fill(value);
  await page.keyboard.press('Enter');
}
await page.waitForTimeout(800);
await page.getByRole('contentinfo').getByRole('link', { name: 'history' }).click();
await page.getByRole('button', { name: /open a show file/ }).click();
await page.mouse.move(700, 770);
await page.waitForTimeout(500);
await picture('history');
await page.getByRole('link', { name: 'Look at it as it was' }).click();
await page.waitForTimeout(800);
await picture('as-it-was');
await go('/print/floor');
await picture('floor');
await browser.close();
server.kill();
rmSync(data, { recursive: true, force: true });
