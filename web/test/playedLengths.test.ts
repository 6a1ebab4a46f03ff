import { describe, expect, it } from '@jest/globals';
import { keepLengths, LengthsLearnt, learntSeconds, readLengths, withLength } from '../src/live/playedLengths';

const song = (songId: string, seconds: number, entryId = `of ${songId}`) => ({ songId, entryId, seconds });

describe('how long a song is really played', () => {
  it('is from its first recall to that of the next song, as a share of the length that it has', () => {
    const learnt = new LengthsLearnt();
    expect(learnt.recalled(song('kelp', 200), 1000)).toBeNull();
    // Other patches of the same song.
    expect(learnt.recalled(song('kelp', 200), 90_000)).toBeNull();
    expect(learnt.recalled(song('jug', 100), 221_000)).toEqual({ songId: 'kelp', share: 1.1 });
    expect(learnt.recalled(song('kelp', 200), 321_000)).toEqual({ songId: 'jug', share: 1 });
  });

  it('is not learnt from a song that was only looked at, nor with a break behind it, nor without a length', () => {
    const learnt = new LengthsLearnt();
    learnt.recalled(song('a', 200), 0);
    expect(learnt.recalled(song('b', 200), 60_000)).toBeNull();
    expect(learnt.recalled(song('c', 0), 60_000 + 1_400_000)).toBeNull();
    expect(learnt.recalled(song('d', 200), 3_000_000)).toBeNull();
    expect(learnt.recalled(null, 3_200_000)).toEqual({ songId: 'd', share: 1 });
    expect(learnt.recalled(song('e', 200), 9_000_000)).toBeNull();
  });

  it('is the median of the last five times; what cannot be read counts as nothing', () => {
    let lengths = {};
    expect(learntSeconds(lengths, 'a')).toBeNull();
    for (const seconds of [900, 200, 210, 260, 205, 220]) lengths = withLength(lengths, 'a', seconds);
    expect(learntSeconds(lengths, 'a')).toBe(210);
    expect(learntSeconds(withLength({}, 'b', 100), 'b')).toBe(100);
    const store = new Map<string, string>();
    const storage = {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => void store.set(key, value),
    };
    keepLengths(lengths, storage);
    expect(readLengths(storage)).toEqual(lengths);
    store.set('rackle.lengths', '{"a":["x"],"b":[100]}');
    expect(readLengths(storage)).toEqual({ b: [100] });
    store.set('rackle.lengths', 'no JSON');
    expect(readLengths(storage)).toEqual({});
  });
});
