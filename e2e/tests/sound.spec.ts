import { expect, test } from '@playwright/test';
import { checkBank } from '../../core/src/formats';
import { writeBank, type BankParts } from '../../core/test/soundfont';
import { loadOffline as load, type Globals } from './offline';

test('every preset sounds, answers to velocity, dies away when let go, stays below full scale, and is like no other', async ({
  page,
}) => {
  await load(page);
  const presets = await page.evaluate(() => (globalThis as unknown as Globals).offline.presets());
  expect(presets.length).toBeGreaterThanOrEqual(144);
  for (const { id, soft, hard } of presets) {
    expect(hard, `${id} is heard`).toBeGreaterThan(0.02);
    expect(hard, `${id} is not too loud`).toBeLessThan(1);
    expect(hard, `${id} answers to velocity`).toBeGreaterThan(soft);
  }
  expect(new Set(presets.map((preset) => preset.print)).size).toBe(presets.length);
  // Short releases are over after a quarter of a second; pads and bells may ring on.
  const organ = presets.find((preset) => preset.id === 'drawbar-house/chapel-row')!;
  expect(organ.after).toBeLessThan(0.0005);
});

test('a recall makes no click and no gap: the old chord goes on, the new one joins it', async ({ page }) => {
  await load(page);
  const { peak, steadyRoughness, recallRoughness, quietestAcross, quietestBefore } = await page.evaluate(() =>
    (globalThis as unknown as Globals).offline.recall(),
  );
  console.log(
    `second difference: steady ${steadyRoughness.toFixed(5)}, over recall, blend and fade ${recallRoughness.toFixed(5)}; quietest 5 ms before ${quietestBefore.toFixed(4)}, across ${quietestAcross.toFixed(4)}`,
  );
  expect(peak).toBeGreaterThan(0.05);
  expect(recallRoughness).toBeLessThan(steadyRoughness * 1.5);
  expect(quietestAcross).toBeGreaterThan(quietestBefore * 0.5);
});

test('presets are swapped under a held chord with no gap in it and no click above -60 dBFS', async ({ page }) => {
  await load(page);
  const { loudest, clickDb, longestGapMs } = await page.evaluate(() =>
    (globalThis as unknown as Globals).offline.swap(),
  );
  console.log(
    `24 swaps under a chord of peak ${loudest.toFixed(3)}: click ${clickDb.toFixed(1)} dBFS, longest gap ${longestGapMs} ms`,
  );
  expect(loudest).toBeGreaterThan(0.05);
  expect(clickDb).toBeLessThan(-60);
  expect(longestGapMs).toBeLessThan(5);
  const held = await page.evaluate(() => (globalThis as unknown as Globals).offline.swapHeld());
  expect(held.swapRoughness).toBeLessThan(held.steadyRoughness * 1.5);
  expect(held.quietestAcross).toBeGreaterThan(held.quietestBefore * 0.5);
});

test('every effect changes what goes through it, and stays below full scale', async ({ page }) => {
  await load(page);
  const effects = await page.evaluate(() => (globalThis as unknown as Globals).offline.effects());
  console.log(
    effects.map(({ kind, differs, peak }) => `${kind} ${differs.toFixed(4)} (peak ${peak.toFixed(2)})`).join(', '),
  );
  expect(effects.map(({ kind }) => kind).sort()).toEqual([
    'chorus',
    'compressor',
    'delay',
    'drive',
    'equaliser',
    'filter',
    'limiter',
    'phaser',
    'reverb',
    'rotary',
    'tremolo',
  ]);
  for (const { kind, differs, peak } of effects) {
    expect(differs, `${kind} is heard`).toBeGreaterThan(0.002);
    expect(peak, `${kind} is not too loud`).toBeLessThan(1.2);
  }
});

test('a preset of a SoundFont bank sounds at the pitch of its key, loops, and ends when it is let go', async ({
  page,
}) => {
  await load(page);
  const { presets, hz, after, silence } = await page.evaluate(
    (bytes) => (globalThis as unknown as Globals).offline.bank(bytes),
    Array.from(writeBank()),
  );
  expect(presets).toEqual(['Lamp', 'Lamp, low and high', 'Shutters']);
  // Its tone is 220.5 Hz at key 57: an octave up it is 441.
  expect(Math.abs(hz - 441)).toBeLessThan(6);
  expect(after).toBeLessThan(0.0005);
  expect(silence).toBe(0);
});

test('what a bank has of odd samples does not keep the rest of it from sounding', async ({ page }) => {
  await load(page);
  const tone = (hz: number, rate: number, seconds = 0.5): number[] =>
    Array.from({ length: Math.round(seconds * rate) }, (_, i) => 0.6 * Math.sin((2 * Math.PI * hz * i) / rate));
  const [hz, loops] = [220, [54, 1] as [number, number]];
  const samples: NonNullable<BankParts['samples']> = [
    { name: 'good', data: tone(hz, 44_100), root: 57, loop: [4410, 17_640] },
    { name: 'of 8 kHz', data: tone(hz, 8000), rate: 8000, root: 57, loop: [800, 3200] },
    { name: 'of 192 kHz', data: tone(hz, 192_000, 0.2), rate: 192_000, root: 57, loop: [9600, 28_800] },
    { name: 'of 400 Hz', data: tone(20, 400), rate: 400, root: 57, loop: [40, 160] },
    { name: 'of 700 Hz', data: tone(20, 700), rate: 700, root: 57, loop: [70, 210] },
    { name: 'of no rate', data: tone(hz, 44_100), rate: 0, root: 57 },
    { name: 'empty', data: [], root: 57, loop: [0, 0] },
    { name: 'of one number', data: [0.5], root: 57, loop: [0, 1] },
    { name: 'loops beyond its end', data: tone(hz, 44_100), root: 57, loop: [1000, 900_000] },
    { name: 'loops backwards', data: tone(hz, 44_100), root: 57, loop: [9000, 1000] },
    { name: 'ends beyond the file', data: tone(hz, 44_100), root: 57, end: 9_000_000 },
  ];
  const bytes = writeBank({
    samples,
    presets: [
      ...samples.map(({ name }, program) => ({
        name,
        bank: 0,
        program,
        zones: [{ sample: program, generators: [loops] }],
      })),
      { name: 'without zones', bank: 0, program: samples.length, zones: [] },
      {
        name: 'good and empty',
        bank: 0,
        program: samples.length + 1,
        zones: [{ sample: 6 }, { sample: 0, generators: [loops] }],
      },
    ],
  });
  const read = checkBank(bytes);
  expect(read.ok && read.value.warnings.join(' ')).toContain('loops outside of itself');
  const heard = await page.evaluate(
    ([file, count]) =>
      (globalThis as unknown as Globals).offline.heard(
        file,
        Array.from({ length: count }, (_, i) => i),
      ),
    [Array.from(bytes), samples.length + 2] as const,
  );
  console.log(heard.map((one) => one && `${one.peak.toFixed(2)} ${one.hz}`).join(', '));
  for (const at of [0, 1, 2, 8, 9, 12]) {
    expect(heard[at]!.peak, `${at}`).toBeGreaterThan(0.05);
    expect(Math.abs(heard[at]!.hz - 2 * hz), `${at}`).toBeLessThan(6);
  }
  for (const at of [3, 4, 5]) expect(heard[at]!.peak, `${at}`).toBeGreaterThan(0.05);
  for (const at of [6, 11]) expect(heard[at]?.peak ?? 0, `${at}`).toBe(0);
});

test('the envelopes and waves of a SoundFont bank move its pitch, filter and level as its generators say', async ({
  page,
}) => {
  await load(page);
  const loops: [number, number] = [54, 1];
  const kinds: [string, [number, number][]][] = [
    ['plain', []],
    [
      'pitch sweep',
      [
        [7, 1200],
        [26, -1200],
      ],
    ],
    [
      'level wave',
      [
        [13, 100],
        [22, -2438],
      ],
    ],
    [
      'decay',
      [
        [36, 0],
        [37, 600],
      ],
    ],
    ['release', [[38, 0]]],
    [
      'shorter decay up the keys',
      [
        [36, 0],
        [37, 900],
        [40, 100],
      ],
    ],
    [
      'filter sweep',
      [
        [8, 4335],
        [11, 4800],
        [26, 6000],
      ],
    ],
    ['resonance', [[9, 120]]],
    [
      'pitch wave',
      [
        [6, 400],
        [24, -2438],
      ],
    ],
  ];
  const bytes = Array.from(
    writeBank({
      presets: kinds.map(([name, generators], program) => ({
        name,
        bank: 0,
        program,
        zones: [{ sample: 0, generators: [...generators, loops] }],
      })),
    }),
  );
  const heard = await page.evaluate(
    ([file, count]) => (globalThis as unknown as Globals).offline.generators(file, count),
    [bytes, kinds.length] as const,
  );
  const [plain, sweep, wave, decay, release, shorter, filter, resonant, vibrato] = heard;
  expect(Math.abs(plain.early - 441)).toBeLessThan(8);
  expect(Math.max(...plain.levels.slice(0, 14)) - Math.min(...plain.levels.slice(0, 14))).toBeLessThan(0.5);
  expect(plain.released).toBeLessThan(-60);
  expect(Math.abs(sweep.late - 882)).toBeLessThan(12);
  // Convex: after a fifth of its attack it is 1 + 40/96 · log10(1/5) = 0.71 of its way up, 851 cents.
  expect(Math.abs(sweep.early - 735)).toBeLessThan(35);
  expect(Math.max(...wave.levels.slice(0, 14)) - Math.min(...wave.levels.slice(0, 14))).toBeGreaterThan(8);
  expect(Math.abs(decay.levels[0] - decay.levels[2] - 10)).toBeLessThan(1.5);
  expect(Math.abs(release.released + 20)).toBeLessThan(3);
  expect(Math.abs(shorter.levels[0] - shorter.levels[2] - 16.8)).toBeLessThan(2);
  // Half of 12 dB is taken back, though the filter is open.
  expect(Math.abs(plain.levels[0] - resonant.levels[0] - 6)).toBeLessThan(0.2);
  expect(filter.levels[13] - filter.levels[0]).toBeGreaterThan(5);
  expect(Math.abs(vibrato.early - 441) + Math.abs(vibrato.late - 441)).toBeGreaterThan(20);
});

test('32 layers over eight instruments with 64 voices are made without a drop-out', async ({ page }) => {
  await load(page);
  const { peak, silentMs } = await page.evaluate(() => (globalThis as unknown as Globals).offline.load());
  expect(peak).toBeGreaterThan(0.02);
  expect(silentMs).toBe(0);
});

test('every parameter of every effect sounds at both its ends, and none throws', async ({ page }) => {
  await load(page);
  const ends = await page.evaluate(() => (globalThis as unknown as Globals).offline.effectEnds());
  console.log(ends.map(({ of, low, high }) => `${of} ${low.toFixed(3)} ${high.toFixed(3)}`).join(', '));
  expect(ends.filter(({ threw }) => threw !== null)).toEqual([]);
  for (const { of, low, high } of ends) {
    // A low-pass filter at 20 Hz leaves nothing of a tone: that is what it is for.
    if (of !== 'filter hz') expect(low, `${of} at its low end`).toBeGreaterThan(0.001);
    // A room is made aside, and comes too late for a rendering without real time: nothing but it is heard at 100 %.
    if (of !== 'reverb mix') expect(high, `${of} at its high end`).toBeGreaterThan(0.001);
    expect(Math.max(low, high), of).toBeLessThan(12);
  }
});

test('a flat equaliser is flat: what it adds to a chord over five octaves is 40 dB below it', async ({ page }) => {
  await load(page);
  const addsDb = await page.evaluate(() => (globalThis as unknown as Globals).offline.flatEqualiser());
  console.log(`flat equaliser: ${addsDb.toFixed(0)} dB`);
  expect(addsDb).toBeLessThan(-40);
});

test('a second panic ends what rings in effects, room and echo, without a click; the next note sounds as before', async ({
  page,
}) => {
  await load(page);
  const { leftDb, rougher, nextDb } = await page.evaluate(() =>
    (globalThis as unknown as Globals).offline.allSoundOff(),
  );
  console.log(`all sound off: ${leftDb.toFixed(0)} dB left, ${rougher.toFixed(2)}, next note ${nextDb.toFixed(1)} dB`);
  expect(leftDb).toBeLessThan(-80);
  expect(rougher).toBeLessThan(1.5);
  expect(Math.abs(nextDb)).toBeLessThan(3);
});

test('a layer that is cut is silent within 30 ms, whatever the release of its preset, and does not click', async ({
  page,
}) => {
  await load(page);
  const cuts = await page.evaluate(() => (globalThis as unknown as Globals).offline.cut());
  console.log(cuts.map(({ id, leftDb, rougher }) => `${id} ${leftDb.toFixed(0)} dB, ${rougher.toFixed(2)}`).join('; '));
  for (const { id, leftDb, rougher } of cuts) {
    expect(leftDb, id).toBeLessThan(-60);
    expect(rougher, id).toBeLessThan(1.5);
  }
});
