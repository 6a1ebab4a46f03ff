import { describe, expect, it } from '@jest/globals';
import { answersTo, found, type PaletteEntry } from '../src/app/paletteEntries';

const entry = (group: PaletteEntry['group'], words: string): PaletteEntry => ({
  id: `${group} ${words}`,
  group,
  words,
  name: words,
  isNamed: true,
  act: () => undefined,
});
const patches = Array.from({ length: 100 }, (_, i) => entry('Patches', `Kelp Dance Undertow ${i}`));
const songs = [entry('Songs', 'Kelp'), entry('Songs', 'Slow Bell')];

describe('the palette', () => {
  it('finds by the whole name, its start, a part of it, and by words in any order', () => {
    const scores = ['kelp', 'kel', 'elp', 'bell slow', 'lamp'].map((typed) =>
      Math.max(...songs.map(({ words }) => answersTo(words, typed))),
    );
    expect(scores).toEqual([1, 0.9, 0.7, 0.5, 0]);
  });

  it('shows the best answers first and of many only as many as can be read, saying how many more there are', () => {
    const groups = found([...patches, ...songs], 'kelp', 30);
    expect(groups.map(({ heading, entries, more }) => [heading, entries.length, more])).toEqual([
      ['Songs', 1, 0],
      ['Patches', 30, 70],
    ]);
    expect(groups[1].entries[0].words).toBe('Kelp Dance Undertow 0');
    expect(found([...patches, ...songs], 'undertow 99', 30).map(({ entries }) => entries[0].words)).toEqual([
      'Kelp Dance Undertow 99',
    ]);
    expect(found(songs, 'nothing like it', 30)).toEqual([]);
  });
});
