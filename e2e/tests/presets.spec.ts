import { expect, test } from '@playwright/test';
import { loadOffline, type Globals } from './offline';

/** What has partials of no one pitch. */
const WITHOUT_PITCH = ['bellrope/spoons', 'bellrope/low-gong', 'deckhand/big-hits', 'slipway/pebbles'];

test('every melodic preset is at −18 LUFS within 2 dB unless its attack is too high for that, in tune within 3 cents, and stands on no side', async ({
  page,
}) => {
  await loadOffline(page, 'presetFigures');
  const levels = await page.evaluate(() => (globalThis as unknown as Globals).presetFigures.levels());
  const melodic = levels.filter(({ isKit }) => !isKit);
  expect(melodic.length).toBeGreaterThan(120);
  const cents = melodic.filter(({ id }) => !WITHOUT_PITCH.includes(id)).map((preset) => Math.abs(preset.cents));
  const high = melodic.filter(({ peakDb }) => peakDb >= 1);
  expect(high.length).toBeLessThan(60);
  console.log(
    `loudness ${Math.min(...melodic.map((one) => one.loudness)).toFixed(1)} to ${Math.max(...melodic.map((one) => one.loudness)).toFixed(1)} LUFS, off pitch by at most ${Math.max(...cents).toFixed(1)} cents, DC at most ${Math.max(...melodic.map((one) => one.dcDb)).toFixed(0)} dB; ${high.length} of ${melodic.length} too high in their attack to be as loud`,
  );
  for (const { id, loudness, cents: off, dcDb, peakDb } of melodic) {
    expect(loudness, id).toBeLessThan(-16);
    expect(peakDb, id).toBeLessThan(3);
    if (peakDb < 1) expect(loudness, id).toBeGreaterThan(-20);
    if (!WITHOUT_PITCH.includes(id)) expect(Math.abs(off), `${id}: ${off.toFixed(1)} cents`).toBeLessThan(3);
    expect(dcDb, `${id}: DC`).toBeLessThan(-70);
  }
});
