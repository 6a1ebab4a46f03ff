import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Rotating, type RotarySettings } from '../src/host/audio/effects/rotating';

const RATE = 44_100;
const BLOCK = 128;

const tone = (hz: number, seconds: number, level = 0.5): Float32Array =>
  Float32Array.from({ length: Math.ceil((seconds * RATE) / BLOCK) * BLOCK }, (_, i) =>
    Math.fround(level * Math.sin((2 * Math.PI * hz * i) / RATE)),
  );

/** Both sides of what comes out; settings by the second. */
function through(from: Float32Array, at: (s: number) => RotarySettings, speaker = new Rotating(RATE)) {
  const [left, right] = [new Float32Array(from.length), new Float32Array(from.length)];
  for (let i = 0; i < from.length; i += BLOCK)
    speaker.process(
      from.subarray(i, i + BLOCK),
      null,
      left.subarray(i, i + BLOCK),
      right.subarray(i, i + BLOCK),
      at(i / RATE),
    );
  return { left, right };
}

const levelDb = (samples: Float32Array): number =>
  10 * Math.log10(samples.reduce((sum, each) => sum + each * each, 0) / samples.length);

/** Level of each hundredth of a second, as factors of the mean. */
function swings(samples: Float32Array): number[] {
  const step = RATE / 100;
  const levels = Array.from({ length: Math.floor(samples.length / step) }, (_, i) =>
    Math.sqrt(samples.subarray(i * step, (i + 1) * step).reduce((sum, each) => sum + each * each, 0) / step),
  );
  const mean = levels.reduce((sum, each) => sum + each, 0) / levels.length;
  return levels.map((level) => level / mean);
}

/** How often in a second it is loudest, by its crossings of the mean. */
function turnsASecond(samples: Float32Array): number {
  const levels = swings(samples);
  const up = levels.flatMap((level, i) => (i > 0 && levels[i - 1] < 1 && level >= 1 ? [i] : []));
  return ((up.length - 1) * 100) / (up[up.length - 1] - up[0]);
}

describe('the rotary speaker', () => {
  const at =
    (speed: number, rampS = 1, depth = 100) =>
    (): RotarySettings => ({ speed, rampS, depth });

  it('turns its horn slowly at 50 and fast at 100, its drum a little slower', () => {
    const [high, low] = [tone(3000, 8), tone(200, 8)];
    expect(turnsASecond(through(high, at(50)).left)).toBeCloseTo(0.83, 1);
    expect(turnsASecond(through(high, at(100)).left)).toBeCloseTo(6.7, 1);
    expect(turnsASecond(through(low, at(50)).left)).toBeCloseTo(0.67, 1);
    expect(turnsASecond(through(low, at(100)).left)).toBeCloseTo(5.8, 1);
  });

  it('is heard by each side when the other hears it least', () => {
    const { left, right } = through(tone(3000, 4), at(100));
    const [l, r] = [swings(left), swings(right)];
    const together = l.reduce((sum, level, i) => sum + (level - 1) * (r[i] - 1), 0);
    const alone = l.reduce((sum, level) => sum + (level - 1) ** 2, 0);
    expect(together / alone).toBeLessThan(-0.9);
  });

  it('speeds up within its ramp, the drum later than the horn', () => {
    const change =
      (rampS: number) =>
      (s: number): RotarySettings => ({ speed: s < 1 ? 50 : 100, rampS, depth: 100 });
    const during = (hz: number, rampS: number, fromS: number): number =>
      turnsASecond(through(tone(hz, 9), change(rampS)).left.subarray(fromS * RATE, (fromS + 1.2) * RATE));
    expect(during(3000, 1, 2.2)).toBeGreaterThan(6);
    expect(during(3000, 4, 2.2)).toBeLessThan(6);
    expect(during(200, 1, 2.2)).toBeLessThan(5.2);
    expect(during(200, 1, 7)).toBeGreaterThan(5.4);
  });

  it('comes to a stop in front at the brake: both sides alike, and as loud as what comes in', () => {
    const from = tone(3000, 14);
    const { left, right } = through(from, (s) => ({ speed: s < 2.37 ? 100 : 0, rampS: 1, depth: 60 }));
    const end = [left, right].map((side) => side.subarray(13 * RATE));
    for (const level of swings(end[0])) expect(level).toBeCloseTo(1, 2);
    for (const side of end) expect(Math.abs(levelDb(side) - levelDb(from.subarray(13 * RATE)))).toBeLessThan(0.5);
    expect(Math.abs(levelDb(end[0]) - levelDb(end[1]))).toBeLessThan(0.1);
  });

  it('without depth leaves every frequency as loud as it is, at the crossover too', () => {
    for (const hz of [40, 300, 700, 800, 900, 2500, 9000]) {
      const from = tone(hz, 1);
      const { left, right } = through(from, at(100, 1, 0));
      for (const side of [left, right])
        expect(Math.abs(levelDb(side.subarray(4410)) - levelDb(from.subarray(4410)))).toBeLessThan(0.1);
    }
  });

  it('is as loud over a turn as what comes in, at any speed and depth', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(60, 250, 2000, 4000),
        fc.double({ min: 40, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (hz, speed, depth) => {
          const from = tone(hz, 3);
          const { left, right } = through(from, at(speed, 1, depth));
          const both = (levelDb(left) + levelDb(right)) / 2;
          expect(Math.abs(both - levelDb(from))).toBeLessThan(0.7);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('jumps nowhere, whatever is asked of it from block to block', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0, 50, 73, 100), { minLength: 4, maxLength: 20 }), (speeds) => {
        const from = tone(220, 1);
        const { left } = through(from, (s) => ({
          speed: speeds[Math.floor(s * speeds.length)],
          rampS: 0.1,
          depth: 100,
        }));
        let most = 0;
        for (let i = 400; i < left.length; i++) most = Math.max(most, Math.abs(left[i] - left[i - 1]));
        // Of a sine of 220 Hz no step is longer than its slope; louder in front by 40 %, and a little quicker.
        expect(most).toBeLessThan(((2 * Math.PI * 220) / RATE) * 0.5 * 1.6);
      }),
      { numRuns: 20 },
    );
  });

  it('turns on in silence, and keeps nothing of what sounded long before', () => {
    const speaker = new Rotating(RATE);
    through(tone(500, 0.5), at(100), speaker);
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
    for (let i = 0; i < 60; i++) speaker.process(null, null, left, right, at(100)());
    expect(left.every((sample) => sample === 0)).toBe(true);
    const after = through(new Float32Array(BLOCK * 4), at(100), speaker);
    expect(after.left.every((sample) => sample === 0)).toBe(true);
  });
});
