import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { KnownParam } from '../src/host/audio/knownParam';

interface Curve {
  values: Float32Array;
  fromS: number;
  lengthS: number;
}

/** A parameter that takes what the Web Audio API lets it take: no curve over another event. */
class StrictParam {
  value = 0;
  readonly curves: Curve[] = [];
  private readonly points: number[] = [];

  cancelScheduledValues(atS: number): void {
    const keep = this.curves.filter(({ fromS, lengthS }) => fromS + lengthS <= atS);
    this.curves.splice(0, Infinity, ...keep);
    this.points.splice(0, Infinity, ...this.points.filter((pointS) => pointS < atS));
  }

  setValueAtTime(_value: number, atS: number): void {
    this.free(atS, 0);
    this.points.push(atS);
  }

  setValueCurveAtTime(values: Float32Array, fromS: number, lengthS: number): void {
    this.free(fromS, lengthS);
    this.curves.push({ values, fromS, lengthS });
  }

  private free(fromS: number, lengthS: number): void {
    const isOver = this.curves.some((curve) => curve.fromS + curve.lengthS > fromS && curve.fromS < fromS + lengthS);
    if (isOver || this.points.some((pointS) => pointS >= fromS && pointS < fromS + lengthS))
      throw new Error('a curve overlaps another event');
  }
}

const move = fc.record({
  afterS: fc.double({ min: 0.0005, max: 0.08, noNaN: true }),
  to: fc.double({ min: 0.01, max: 4, noNaN: true }),
  rampS: fc.constantFrom(0, 0.016, 0.05, 0.3),
  byRatio: fc.boolean(),
  holdS: fc.constantFrom(0, 0, 0.009),
});

describe('a parameter that knows where it stands', () => {
  it('goes on from where it is, is moved again at any time, and never beyond where it comes from and goes to', () => {
    fc.assert(
      fc.property(fc.array(move, { minLength: 1, maxLength: 20 }), (moves) => {
        const strict = new StrictParam();
        const param = new KnownParam(strict as unknown as AudioParam, 1);
        let nowS = 0;
        for (const { afterS, to, rampS, byRatio, holdS } of moves) {
          nowS += afterS;
          const before = param.at(nowS);
          param.go(to, rampS, nowS, byRatio, holdS);
          if (rampS === 0) continue;
          expect(param.at(nowS)).toBeCloseTo(before, 9);
          const curve = strict.curves.at(-1);
          if (curve === undefined || curve.fromS !== nowS) continue;
          const { values } = curve;
          expect(values[0]).toBeCloseTo(before, 5);
          expect(values[values.length - 1]).toBeCloseTo(to, 5);
          const [low, high] = [Math.min(before, to) - 1e-5, Math.max(before, to) + 1e-5];
          expect(values.every((value) => value >= low && value <= high)).toBe(true);
        }
      }),
      { seed: 20_261_130, numRuns: 300 },
    );
  });

  it('waits first where it is to wait, and comes to rest without a corner', () => {
    const strict = new StrictParam();
    const param = new KnownParam(strict as unknown as AudioParam, 0);
    param.go(1, 0.05, 2, false, 0.01);
    expect(param.at(2.009)).toBe(0);
    expect(param.at(2.035)).toBeCloseTo(0.5, 6);
    expect(param.at(2.06)).toBe(1);
    const { values } = strict.curves[0];
    // Its last steps are the smallest.
    expect(values[values.length - 1] - values[values.length - 2]).toBeLessThan(0.001);
  });
});
