import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Levelling } from '../src/host/audio/effects/levelling';
import { Limiting, limitingDelay } from '../src/host/audio/effects/limiting';

const RATE = 44_100;
const BLOCK = 128;

function limited(left: Float32Array, right: Float32Array | null, ceiling: number): [Float32Array, Float32Array] {
  const limiting = new Limiting(RATE);
  const [outLeft, outRight] = [new Float32Array(left.length), new Float32Array(left.length)];
  for (let at = 0; at < left.length; at += BLOCK)
    limiting.process(
      left.subarray(at, at + BLOCK),
      right && right.subarray(at, at + BLOCK),
      outLeft.subarray(at, at + BLOCK),
      outRight.subarray(at, at + BLOCK),
      ceiling,
    );
  return [outLeft, outRight];
}

const [REACH, FINE] = [64, 8];
/** Weights of the samples around each place between two of them: a sinc under a Hann window. */
const WEIGHTS = Array.from({ length: FINE }, (_, part) =>
  Float64Array.from({ length: 2 * REACH }, (_unused, i) => {
    const x = i + 1 - REACH - part / FINE;
    return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / (REACH + 1)));
  }),
);

/** The highest of a signal eight times as finely, by an interpolation that is not the limiter's own. */
function truePeak(samples: Float32Array): number {
  let most = 0;
  for (let at = REACH; at < samples.length - REACH; at++)
    for (const weights of WEIGHTS) {
      let sum = 0;
      for (let i = 0; i < weights.length; i++) sum += samples[at + 1 - REACH + i] * weights[i];
      most = Math.max(most, Math.abs(sum));
    }
  return most;
}

const db = (value: number): number => 20 * Math.log10(value);
const tone = (hz: number, level: number, phase = 0, length = 6144): Float32Array =>
  Float32Array.from({ length }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE + phase));

describe('the limiter', () => {
  it('passes what stays below its ceiling as it is, at most 1.5 ms later', () => {
    const delay = limitingDelay(RATE);
    expect(delay / RATE).toBeLessThanOrEqual(0.0015);
    expect(limitingDelay(96_000) / 96_000).toBeLessThanOrEqual(0.0015);
    const [left, right] = [tone(440, 0.88), tone(3100, 0.6, 1)];
    const [outLeft, outRight] = limited(left, right, 0.89);
    expect(outLeft.subarray(delay)).toEqual(left.subarray(0, left.length - delay));
    expect(outRight.subarray(delay)).toEqual(right.subarray(0, right.length - delay));
  });

  it('lets nothing be above its ceiling by more than 0.1 dB, between the samples too', () => {
    const part = fc.record({
      hz: fc.double({ min: 20, max: 17_000, noNaN: true }),
      level: fc.double({ min: 0, max: 4, noNaN: true }),
      phase: fc.double({ min: 0, max: 6.3, noNaN: true }),
      from: fc.integer({ min: 0, max: 2000 }),
    });
    const clicks = fc.array(
      fc.record({ at: fc.integer({ min: 100, max: 1500 }), level: fc.double({ min: -8, max: 8, noNaN: true }) }),
      {
        maxLength: 4,
      },
    );
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 4 }),
        clicks,
        fc.constantFrom(1, 0.891, 0.25),
        (parts, beats, ceiling) => {
          const left = new Float32Array(3072);
          for (const { hz, level, phase, from } of parts)
            for (let i = from; i < left.length - 600; i++)
              left[i] += level * Math.sin((2 * Math.PI * hz * i) / RATE + phase);
          // A click as a band-limited one: three samples of it.
          for (const { at, level } of beats) [0.25, 0.5, 0.25].forEach((share, i) => (left[at + i] += level * share));
          const [out] = limited(left, null, ceiling);
          expect(db(Math.max(1e-9, truePeak(out)) / ceiling)).toBeLessThan(0.1);
        },
      ),
      { seed: 20_261_130, numRuns: 40 },
    );
  });

  it('both sides go down together, and come back', () => {
    const loud = Float32Array.from({ length: 44_160 }, (_, i) => (i < 4410 ? 2 : 0.2) * Math.sin(i / 20));
    const [left, right] = limited(loud, tone(300, 0.3, 0, 44_160), 1);
    const peak = (samples: Float32Array): number => samples.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
    expect(peak(right.subarray(1000, 4000))).toBeCloseTo(0.15, 2);
    expect(peak(right.subarray(40_000))).toBeCloseTo(0.3, 3);
    expect(peak(left)).toBeLessThanOrEqual(1);
  });
});

describe('the compressor', () => {
  const levelled = (level: number, thresholdDb: number, ratio: number, makeUpDb: number): number => {
    const [levelling, from] = [new Levelling(RATE), tone(200, level, 0, 44_160)];
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
    let most = 0;
    for (let at = 0; at < from.length; at += BLOCK) {
      levelling.process(from.subarray(at, at + BLOCK), null, left, right, {
        thresholdDb,
        ratio,
        attackMs: 6,
        releaseMs: 180,
        makeUpDb,
      });
      if (at > 30_000) most = left.reduce((peak, each) => Math.max(peak, Math.abs(each)), most);
    }
    return db(most / level);
  };

  it('leaves what is below its threshold, and everything at a ratio of 1, as it is', () => {
    expect(levelled(0.05, -24, 8, 0)).toBeCloseTo(0, 3);
    expect(levelled(0.9, -40, 1, 0)).toBeCloseTo(0, 3);
    expect(levelled(0.05, -24, 8, 6)).toBeCloseTo(6, 3);
  });

  it('bends above it as its curve says', () => {
    // 20 dB above: half way through the knee of 30 dB, (1 − 1/4) · 20² / 60 = 5 dB less.
    expect(levelled(0.630_957, -24, 4, 0)).toBeCloseTo(-5, 0);
  });

  it('takes hold at once where its attack is 0, later the longer it is, and lets go within its release', () => {
    const loud = tone(200, 0.9, 0, 8192);
    const soft = tone(200, 0.02, 0, 44_160);
    const heardBy = (attackMs: number, releaseMs: number): [first: number, after: number] => {
      const levelling = new Levelling(RATE);
      const settings = { thresholdDb: -40, ratio: 20, attackMs, releaseMs, makeUpDb: 0 };
      const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
      let [first, after] = [0, 0];
      const peak = (): number => left.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
      for (let at = 0; at < loud.length; at += BLOCK) {
        levelling.process(loud.subarray(at, at + BLOCK), null, left, right, settings);
        if (at < 0.01 * RATE) first = Math.max(first, peak());
      }
      for (let at = 0; at < 0.1 * RATE; at += BLOCK) {
        levelling.process(soft.subarray(at, at + BLOCK), null, left, right, settings);
        after = peak();
      }
      return [db(first), db(after)];
    };
    const [atOnce, quick, slow] = [heardBy(0, 100)[0], heardBy(6, 100)[0], heardBy(60, 100)[0]];
    expect(atOnce).toBeLessThan(-15);
    expect(quick).toBeGreaterThan(atOnce + 2);
    expect(slow).toBeGreaterThan(quick + 2);
    expect(heardBy(6, 30)[1]).toBeGreaterThan(heardBy(6, 1000)[1] + 6);
  });
});
