import { describe, expect, it } from '@jest/globals';
import { Effect, effectCurve } from '../src/show';

const curveOf = (effect: object) => effectCurve(Effect.parse({ id: 'e', ...effect }))!;
/** dB of a response at a frequency. */
const dbAt = (effect: object, hz: number): number => {
  const { points } = curveOf(effect);
  const x = Math.log(hz / 20) / Math.log(1000);
  const nearest = points.reduce((best, point) => (Math.abs(point[0] - x) < Math.abs(best[0] - x) ? point : best));
  return nearest[1] * 48 - 24;
};
const equaliser = (over: object): object => ({
  kind: 'equaliser',
  lowDb: 0,
  middleDb: 0,
  highDb: 0,
  middleHz: 1000,
  ...over,
});

describe('the line of an effect', () => {
  it('of an equaliser at rest is flat; its bands rise where they are', () => {
    for (const [, y] of curveOf(equaliser({})).points) expect(y).toBeCloseTo(0.5, 5);
    expect(dbAt(equaliser({ lowDb: 9 }), 20)).toBeCloseTo(9, 0);
    expect(dbAt(equaliser({ lowDb: 9 }), 15_000)).toBeCloseTo(0, 0);
    expect(dbAt(equaliser({ middleDb: -12 }), 1000)).toBeCloseTo(-12, 0);
    expect(dbAt(equaliser({ highDb: 6 }), 18_000)).toBeCloseTo(6, 0);
    expect(dbAt(equaliser({ highDb: 6 }), 30)).toBeCloseTo(0, 0);
  });

  it('of a filter falls by 24 dB an octave on its side', () => {
    const low = { kind: 'filter', type: 'lowpass', hz: 1000, resonance: 0 };
    expect(dbAt(low, 100)).toBeCloseTo(0, 0);
    expect(dbAt(low, 2000)).toBeLessThan(-18);
    expect(dbAt({ ...low, type: 'highpass' }, 10_000)).toBeCloseTo(0, 0);
    expect(dbAt({ ...low, type: 'highpass' }, 500)).toBeLessThan(-18);
  });

  it('of a drive bends, of a compressor bends above its threshold and never falls', () => {
    const rises = ({ points }: { points: readonly (readonly [number, number])[] }): boolean =>
      points.every(([, y], i) => i === 0 || y >= points[i - 1][1] - 1e-9);
    const drive = curveOf({ kind: 'drive', amount: 60 });
    expect([drive.kind, rises(drive)]).toEqual(['transfer', true]);
    const compressor = curveOf({ kind: 'compressor', thresholdDb: -30, ratio: 4, makeUpDb: 0 });
    expect(rises(compressor)).toBe(true);
    const [x, y] = compressor.points[16];
    expect(y).toBeCloseTo(x, 5);
    expect(compressor.points.at(-1)![1]).toBeLessThan(0.85);
  });

  it('is none where an effect is a matter of time', () => {
    for (const kind of ['chorus', 'phaser', 'tremolo', 'delay', 'reverb'])
      expect(effectCurve(Effect.parse({ id: 'e', kind }))).toBeNull();
  });
});
