import { expect, test } from '@playwright/test';
import { loadOffline, type Globals } from './offline';

test('whatever hands move, add, switch or take out under a tone makes no click', async ({ page }) => {
  await loadOffline(page, 'path');
  const moves = await page.evaluate(() => (globalThis as unknown as Globals).path.moves());
  console.log(moves.map(({ what, clickDb }) => `${what} ${clickDb.toFixed(0)}`).join(', '));
  for (const { what, clickDb } of moves) expect(clickDb, what).toBeLessThan(-80);
});

test('effects leave the level at their neutral settings, and mono, stereo and every pan are one level', async ({
  page,
}) => {
  await loadOffline(page, 'path');
  const levels = await page.evaluate(() => (globalThis as unknown as Globals).path.unity());
  console.log(levels.map(({ of, byDb }) => `${of} ${byDb.toFixed(2)}`).join(', '));
  for (const { of, byDb } of levels) expect(Math.abs(byDb), of).toBeLessThan(/neutral/.test(of) ? 0.5 : 0.1);
});

test('an echo keeps its pitch when the tempo changes', async ({ page }) => {
  await loadOffline(page, 'path');
  for (const bpm of [132, 60, 240]) {
    const cents = await page.evaluate((to) => (globalThis as unknown as Globals).path.echoPitch(to), bpm);
    expect(cents, `to ${bpm}`).toBeLessThan(20);
  }
});

test('the wheel leads a rotary speaker from slow to fast, and that of a layer takes the place of the preset’s', async ({
  page,
}) => {
  await loadOffline(page, 'path');
  const turns = (ofLayer: number | null, wheel: number, pressures: number[] = []) =>
    page.evaluate(([own, at, pressed]) => (globalThis as unknown as Globals).path.rotors(own, at, pressed), [
      ofLayer,
      wheel,
      pressures,
    ] as const);
  expect(Math.abs((await turns(null, 0)) - 0.83)).toBeLessThan(0.3);
  expect(Math.abs((await turns(null, 127)) - 6.7)).toBeLessThan(0.3);
  expect(Math.abs((await turns(100, 0)) - 6.7)).toBeLessThan(0.3);
  expect(Math.abs((await turns(100, 127)) - 0.83)).toBeLessThan(0.3);
  // Pressure leads as the wheel does, and back again when it is over.
  expect(Math.abs((await turns(null, 0, [100, 127])) - 6.7)).toBeLessThan(0.3);
  expect(Math.abs((await turns(null, 0, [127, 0])) - 0.83)).toBeLessThan(0.3);
  expect(await turns(0, 0)).toBe(0);
  expect(Math.abs((await turns(0, 127)) - 6.7)).toBeLessThan(0.3);
});

test('an equaliser that is flat is flat to 0.1 dB, and each band is heard as it is drawn', async ({ page }) => {
  await loadOffline(page, 'path');
  const heard = (over: object) =>
    page.evaluate((settings) => (globalThis as unknown as Globals).path.response('equaliser', settings), over);
  for (const { hz, heardDb } of await heard({})) expect(Math.abs(heardDb), `${Math.round(hz)} Hz`).toBeLessThan(0.1);
  for (const over of [
    { lowDb: 9 },
    { middleDb: -12, middleHz: 700 },
    { highDb: 12 },
    { lowDb: -6, middleDb: 5, highDb: -9 },
  ])
    for (const { hz, heardDb, drawnDb } of await heard(over))
      expect(Math.abs(heardDb - drawnDb), `${JSON.stringify(over)} at ${Math.round(hz)} Hz`).toBeLessThan(0.5);
});
