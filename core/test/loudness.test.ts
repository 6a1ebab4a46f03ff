import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { dbOf, integratedLufs, momentaryLufs, truePeakDb, type Stereo } from '../src/loudness';

const RATES = [44_100, 48_000, 96_000];

/** The same sine on both sides. @param db peak, below full scale */
function sine(rate: number, hz: number, db: number, seconds: number, phase = 0): Stereo {
  const gain = 10 ** (db / 20);
  const left = Float32Array.from(
    { length: Math.round(seconds * rate) },
    (_, i) => gain * Math.sin((2 * Math.PI * hz * i) / rate + phase),
  );
  return { left, right: left.slice(), rate };
}

function concatenated(parts: readonly Float32Array[]): Float32Array {
  const whole = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

const joined = (...parts: Stereo[]): Stereo => ({
  left: concatenated(parts.map(({ left }) => left)),
  right: concatenated(parts.map(({ right }) => right)),
  rate: parts[0].rate,
});

describe('loudness, by the signals of EBU Tech 3341', () => {
  test.each(RATES)('a tone of 1 kHz at −23 dB on both sides is −23 LUFS, at %d Hz', (rate) => {
    expect(Math.abs(integratedLufs(sine(rate, 1000, -23, 5)) + 23)).toBeLessThan(0.1);
    expect(Math.abs(momentaryLufs(sine(rate, 1000, -23, 2)) + 23)).toBeLessThan(0.1);
  });

  test('soft stretches are gated out of the whole', () => {
    const parts = [-36, -23, -36].map((db, i) => sine(44_100, 1000, db, i === 1 ? 20 : 2));
    expect(Math.abs(integratedLufs(joined(...parts)) + 23)).toBeLessThan(0.1);
  });

  test('of a tone of 400 ms between silence the loudest moment is the tone, wherever it begins', () => {
    for (const before of [0.2, 0.203, 0.2581]) {
      const sound = joined(
        sine(48_000, 1000, -200, before),
        sine(48_000, 1000, -23, 0.4),
        sine(48_000, 1000, -200, 0.5),
      );
      expect(Math.abs(momentaryLufs(sound) + 23)).toBeLessThan(0.2);
    }
  });

  test('silence has a loudness too, lower than anything', () => {
    expect(momentaryLufs(sine(48_000, 1000, -Infinity, 1))).toBeLessThan(-100);
    expect(Number.isFinite(momentaryLufs({ left: new Float32Array(), right: new Float32Array(), rate: 48_000 }))).toBe(
      true,
    );
  });

  test('twice the amplitude is 6 LU more, whatever the sound', () => {
    fc.assert(
      fc.property(fc.integer({ min: 60, max: 8000 }), fc.integer({ min: -40, max: -10 }), (hz, db) => {
        const [soft, loud] = [db, db + 6.0206].map((level) => momentaryLufs(sine(44_100, hz, level, 0.6)));
        expect(loud - soft).toBeCloseTo(6.0206, 2);
      }),
      { numRuns: 15 },
    );
  });
});

/** Begins from nothing: a tone that is there all at once is higher between its first samples than the tone. */
const fadedIn = ({ left, right, rate }: Stereo): Stereo => {
  const fade = (samples: Float32Array): Float32Array =>
    samples.map((sample, i) => sample * Math.min(1, i / (0.05 * rate)));
  const out = (samples: Float32Array): Float32Array => fade(fade(samples).reverse()).reverse();
  return { left: out(left), right: out(right), rate };
};

describe('true peak', () => {
  // The tones of EBU Tech 3341, tests 15 to 19: tolerance +0.2, −0.4 dB.
  test.each([
    [4, 0],
    [4, 45],
    [6, 60],
    [8, 67.5],
  ])(
    'of a tone at a %dth of the rate, begun at %d degrees, is that of the tone and not of its samples',
    (part, degrees) => {
      const peak = truePeakDb(fadedIn(sine(48_000, 48_000 / part, -6, 0.5, (degrees * Math.PI) / 180)));
      expect(peak).toBeGreaterThan(-6.4);
      expect(peak).toBeLessThan(-5.8);
    },
  );

  test('is never below the highest sample', () => {
    fc.assert(
      fc.property(fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 200 }), (list) => {
        const left = Float32Array.from(list);
        const most = Math.max(...left.map(Math.abs));
        expect(truePeakDb({ left, right: new Float32Array(left.length), rate: 48_000 })).toBeGreaterThanOrEqual(
          dbOf(most) - 1e-9,
        );
      }),
    );
  });
});
