import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { floorSize, PAPER_MM } from '../src/features/print/floorSize';

const rows = (count: number, widthEm = 6) => Array.from({ length: count }, () => ({ widthEm, noteEm: 0 }));

describe('letters of the running order for the floor', () => {
  it('are as large as the page lets them be: fewer songs, larger letters', () => {
    const sizes = [4, 8, 12, 16].map((count) => floorSize(rows(count)).sizeMm);
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    expect(sizes[0]).toBe(19);
    // Of a set of twelve they are a centimetre and more: read standing.
    expect(sizes[2]).toBeGreaterThan(10);
  });

  it('stand in two columns where one would make them too small', () => {
    expect(floorSize(rows(16)).columns).toBe(1);
    const forty = floorSize(rows(40));
    expect(forty.columns).toBe(2);
    expect(forty.sizeMm).toBeGreaterThan(7);
  });

  it('any set goes on one page, whatever its songs are called', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ widthEm: fc.double({ min: 0.3, max: 30, noNaN: true }), noteEm: fc.constantFrom(0, 4, 40) }),
          {
            minLength: 1,
            maxLength: 60,
          },
        ),
        (set) => {
          const { sizeMm, columns, gapEm } = floorSize(set);
          const perColumn = Math.ceil(set.length / columns);
          const least = perColumn * (1.34 + gapEm) * sizeMm;
          expect(sizeMm).toBeGreaterThanOrEqual(3);
          expect(least).toBeLessThanOrEqual(PAPER_MM.height);
        },
      ),
    );
  });
});
