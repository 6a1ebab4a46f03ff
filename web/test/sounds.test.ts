import { describe, expect, it } from '@jest/globals';
import { allSounds, indexSounds } from '../src/features/sounds/soundIndex';

describe('finding sounds', () => {
  const index = indexSounds(allSounds([]));
  const names = (query: string, filter = { kind: '', instrumentId: '', among: null }): string[] =>
    index.find(query, filter, 50).hits.map(({ name }) => name);

  it('finds by name, by instrument, and by what it is', () => {
    expect(names('late boat')[0]).toBe('Late Boat');
    expect(names('bellrope')).toEqual(expect.arrayContaining(['Music Box', 'Bell Buoy']));
    expect(names('accordion')).toContain('Musette');
  });

  it('forgives a slip of the finger, and takes the beginning of a word', () => {
    expect(names('msuette')[0]).toBe('Musette');
    expect(names('late baot')[0]).toBe('Late Boat');
    expect(names('harmoniun')[0]).toBe('Harmonium');
    expect(names('fogh')[0]).toBe('Foghorn');
  });

  it('finds by other words of the trade', () => {
    const kinds = (query: string): string[] => [
      ...new Set(index.find(query, { kind: '', instrumentId: '', among: null }, 99).hits.map(({ about }) => about)),
    ];
    expect(kinds('squeezebox')).toContain('accordion and harmonium');
    expect(kinds('tines')[0]).toBe('electric piano');
    expect(kinds('timpani').join()).toContain('drums');
    expect(kinds('vibes').join()).toContain('marimba');
  });

  it('with several words finds what has them all', () => {
    expect(names('bell ship')).toEqual(['Ship Bell']);
    expect(names('xylophone of nowhere')).toEqual([]);
  });

  it('keeps to the filter, and without a query gives everything in its order', () => {
    expect(
      new Set(
        index.find('', { kind: '', instrumentId: 'keelson', among: null }, 99).hits.map(({ instrument }) => instrument),
      ),
    ).toEqual(new Set(['Keelson']));
    expect(index.find('', { kind: 'outboard', instrumentId: '', among: null }, 99).total).toBe(0);
    expect(index.find('', { kind: '', instrumentId: '', among: null }, 3)).toMatchObject({
      total: expect.any(Number),
      hits: [{ name: 'Late Boat' }, {}, {}],
    });
  });
});
