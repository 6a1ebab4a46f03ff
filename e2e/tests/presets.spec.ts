import { expect, test } from '@playwright/test';
import { loadOffline, type Globals } from './offline';

/** What has partials of no one pitch. */
const WITHOUT_PITCH = ['bellrope/spoons', 'bellrope/low-gong', 'slipway/pebbles'];
const INSTRUMENTS = [
  'causeway',
  'parlour',
  'drawbar-house',
  'bellows',
  'bowline',
  'quayside',
  'bellrope',
  'keelson',
  'fogbank',
  'slipway',
  'wicklight',
  'deckhand',
];
/** Keys that strike something: harder is brighter, too. */
const STRUCK_KEYS = ['causeway', 'parlour'];
const MALLETS = ['marimba', 'boat-ribs', 'soft-mallets', 'low-planks', 'rosewood', 'pebbles'].map(
  (id) => `slipway/${id}`,
);
const SECTIONS = [
  'slow-tide',
  'ensemble',
  'plucked',
  'short-bows',
  'low-section',
  'whole-hall',
  'held-breath',
  'trembling',
];
const WIDE = (id: string): boolean =>
  id.startsWith('parlour/') || id.startsWith('fogbank/') || SECTIONS.some((preset) => id === `bowline/${preset}`);

for (const instrument of INSTRUMENTS)
  test(`presets of ${instrument}: as loud as all others, in tune, on no side; each another sound, alive under the hands`, async ({
    page,
  }) => {
    await loadOffline(page, 'presetFigures');
    const presets = await page.evaluate(
      (prefix) => (globalThis as unknown as Globals).presetFigures.presetFigures(`${prefix}/`),
      instrument,
    );
    expect(presets).toHaveLength(12);
    for (const { id, isKit, loudness, cents, dcDb, peakDb, width, centroidRatio, decayRatio, nearest } of presets) {
      expect(nearest.db, `${id} beside ${nearest.id}`).toBeGreaterThanOrEqual(1.5);
      expect(dcDb, `${id}: DC`).toBeLessThan(-70);
      if (isKit) continue;
      expect(Math.abs(loudness + 18), `${id}: ${loudness.toFixed(1)} LUFS`).toBeLessThan(2.05);
      if (!WITHOUT_PITCH.includes(id)) expect(Math.abs(cents), `${id}: ${cents.toFixed(1)} cents`).toBeLessThan(3);
      expect(peakDb, `${id}: peak of eight notes at 127`).toBeLessThan(0);
      if (STRUCK_KEYS.includes(instrument)) expect(centroidRatio, `${id}: brighter`).toBeGreaterThan(1.3);
      if (instrument === 'parlour' || MALLETS.includes(id)) expect(decayRatio, `${id}: rings`).toBeGreaterThan(4);
      if (WIDE(id)) expect(width, `${id}: width`).toBeGreaterThan(-20);
    }
  });
