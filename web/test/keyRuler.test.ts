import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { packedLines, type RulerZone } from '../src/ui/KeyRuler';

const zone = fc
  .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
  .map(([a, b]): Omit<RulerZone, 'id'> => ({
    letter: 'A',
    name: 'Harbour',
    tape: 'sky',
    lowKey: Math.min(a, b),
    highKey: Math.max(a, b),
    note: '',
    chosen: false,
    muted: false,
  }));

describe('zones that share lines', () => {
  it('stand once each, and meet no other on their line', () => {
    fc.assert(
      fc.property(fc.array(zone, { maxLength: 24 }), (drawn) => {
        const zones = drawn.map((one, at) => ({ ...one, id: `zone-${at}` }));
        const lines = packedLines(zones);
        expect(
          lines
            .flat()
            .map(({ id }) => id)
            .sort(),
        ).toEqual(zones.map(({ id }) => id).sort());
        for (const line of lines)
          for (const one of line)
            for (const other of line)
              if (one !== other) expect(one.highKey < other.lowKey || other.highKey < one.lowKey).toBe(true);
      }),
    );
  });

  it('a split is one line, what is layered has two', () => {
    const of = (id: string, lowKey: number, highKey: number): RulerZone => ({
      id,
      letter: 'A',
      name: id,
      tape: 'sky',
      lowKey,
      highKey,
      note: '',
      chosen: false,
      muted: false,
    });
    const lines = packedLines([of('bass', 0, 47), of('piano', 48, 127), of('pad', 0, 127)]);
    expect(lines.map((line) => line.map(({ id }) => id))).toEqual([['bass', 'piano'], ['pad']]);
  });
});
