import { describe, expect, it } from '@jest/globals';
import { Instrument } from '@rackle/core';
import { allSounds, indexSounds } from '../src/features/sounds/soundIndex';

const WORDS = [
  'Low',
  'Grey',
  'Deep',
  'Wide',
  'Flute',
  'Choir',
  'Strings',
  'Horn',
  'Bell',
  'Reed',
  'Pipe',
  'Piano',
  'Harp',
  'Bass',
  'Pad',
  'Voice',
];
const big = Array.from({ length: 5 }, (_, n) =>
  Instrument.parse({
    kind: 'outboard',
    id: `big${n}`,
    name: `Module ${n}`,
    port: 'Skerry',
    channel: 1,
    names: Array.from({ length: 4000 }, (_, i) => ({
      id: `${n}-${i}`,
      name: `${WORDS[i % 16]} ${WORDS[(i >> 4) % 16]} ${i}`,
      folder: WORDS[(i >> 8) % 16],
      program: i % 128,
    })),
  }),
);

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

  it('answers each keystroke over 20,000 names within 30 ms', () => {
    const large = indexSounds(allSounds(big));
    const word = 'deep flute';
    const times = Array.from({ length: word.length }, (_, i) => {
      const start = performance.now();
      large.find(word.slice(0, i + 1), { kind: '', instrumentId: '', among: null }, 2000);
      return performance.now() - start;
    });
    console.log(`keystrokes over 20,000 names: ${times.map((ms) => ms.toFixed(0)).join(', ')} ms`);
    times.sort((a, b) => a - b);
    expect(times[times.length >> 1]).toBeLessThan(30);
  });
});
