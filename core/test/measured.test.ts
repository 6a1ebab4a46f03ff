import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { asMeasured, sharedOut, withLoad, type MeasuredPart, type SoundPart } from '../src/loading';

const part = (key: string, bytes = 1000): SoundPart => ({ key, bytes, loadMs: 12, isMeasured: false });
const heard = (ms: number, isCold = false) => ({ key: 'a', bytes: 2000, ms, isCold });

describe('times of loading on this machine', () => {
  it('are the median of the last five, with the file read already and without apart', () => {
    let known: MeasuredPart | undefined;
    for (const ms of [900, 100, 140, 120, 5000, 130]) known = withLoad(known, heard(ms));
    known = withLoad(known, heard(7000, true));
    expect(known).toEqual({ bytes: 2000, cold: [7000], warm: [100, 140, 120, 5000, 130] });
    expect(asMeasured([part('a')], { a: known! })).toEqual([{ key: 'a', bytes: 2000, loadMs: 130, isMeasured: true }]);
  });

  it('without the file read already stand in for those with it; what was never loaded stays estimated', () => {
    const known = withLoad(undefined, heard(700, true));
    expect(asMeasured([part('a'), part('b')], { a: known })).toEqual([
      { key: 'a', bytes: 2000, loadMs: 700, isMeasured: true },
      part('b'),
    ]);
    // A key that every object has is no measure.
    expect(asMeasured([part('constructor')], {})).toEqual([part('constructor')]);
  });

  it('of several parts that were loaded together are shared out by their bytes, and nothing is lost of them', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 50_000_000 }), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 60_000 }),
        (sizes, ms) => {
          const parts = sizes.map((bytes, i) => ({ key: `p${i}`, bytes }));
          const bytes = sizes.reduce((sum, size) => sum + size, 0);
          const shares = sharedOut(parts, { bytes, ms, isCold: false });
          expect(shares.map((share) => share.bytes)).toEqual(sizes);
          expect(shares.reduce((sum, share) => sum + share.ms, 0)).toBeCloseTo(ms, 6);
        },
      ),
    );
  });
});
