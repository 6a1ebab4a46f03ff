import { describe, expect, it } from '@jest/globals';
import { keepPlayedRuns, readPlayedRuns, withRun, type PlayedRuns } from '../src/live/playedRuns';

const store = (text: string | null = null) => {
  let kept = text;
  return { getItem: () => kept, setItem: (_key: string, value: string) => void (kept = value) };
};

describe('what hands played while timelines ran', () => {
  it('is kept for the last three runs of a song, and comes back as it was', () => {
    let runs: PlayedRuns = {};
    for (let key = 60; key < 65; key++) runs = withRun(runs, 'tin', [{ atTick: key * 10, key }]);
    runs = withRun(runs, 'kelp', [
      { atTick: 0, key: 40 },
      { atTick: 960, key: 43 },
    ]);
    expect(runs.tin.map(([{ key }]) => key)).toEqual([64, 63, 62]);
    const kept = store();
    keepPlayedRuns(runs, kept);
    expect(readPlayedRuns(kept)).toEqual(runs);
  });

  it('is kept of forty songs, those that were played last', () => {
    let runs: PlayedRuns = {};
    for (let i = 0; i < 60; i++) runs = withRun(runs, `song ${i}`, [{ atTick: 0, key: 60 }]);
    runs = withRun(runs, 'song 30', [{ atTick: 5, key: 60 }]);
    expect(Object.keys(runs)).toHaveLength(40);
    expect(Object.keys(runs)[0]).toBe('song 30');
    expect(runs['song 30']).toHaveLength(2);
    expect(runs['song 10']).toBeUndefined();
  });

  it('that cannot be read, or has no room, is nothing', () => {
    expect(readPlayedRuns(store('not JSON'))).toEqual({});
    expect(readPlayedRuns(store('[1]'))).toEqual({});
    expect(readPlayedRuns(store('{"tin": 5}'))).toEqual({});
    expect(() =>
      keepPlayedRuns(
        { tin: [] },
        {
          setItem: () => {
            throw new Error('full');
          },
        },
      ),
    ).not.toThrow();
  });
});
