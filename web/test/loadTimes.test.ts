import { describe, expect, it } from '@jest/globals';
import { areOthers, keepLoadTimes, readLoadTimes, withLoads } from '../src/live/loadTimes';

const heard = (key: string, ms: number, isCold = false) => ({ key, bytes: 5000, ms, isCold });

/** A browser's storage that holds one thing. */
function storage(held: string | null = null) {
  return {
    held,
    getItem(): string | null {
      return this.held;
    },
    setItem(_: string, value: string): void {
      this.held = value;
    },
  };
}

describe('what loading took, as this browser keeps it', () => {
  it('is the same on the next visit, in whole milliseconds', () => {
    const kept = storage();
    keepLoadTimes(withLoads({}, [heard('a', 120.4), heard('a', 80.6, true), heard('b', 7)]), kept);
    expect(readLoadTimes(kept)).toEqual({
      a: { bytes: 5000, cold: [81], warm: [120] },
      b: { bytes: 5000, cold: [], warm: [7] },
    });
  });

  it('counts as nothing where it cannot be read', () => {
    expect(readLoadTimes(storage('{"a":'))).toEqual({});
    expect(readLoadTimes(storage('{"a":{"bytes":"many"},"b":{"bytes":1,"cold":[],"warm":["x"]}}'))).toEqual({});
  });

  it('forgets first what was loaded longest ago', () => {
    const many = Array.from({ length: 1100 }, (_, i) => heard(`p${i}`, 5));
    const times = withLoads(withLoads({}, many), [heard('p150', 6)]);
    expect(Object.keys(times)).toHaveLength(1000);
    expect(times.p99).toBeUndefined();
    expect(times.p150.warm).toEqual([5, 6]);
    expect(Object.keys(times).at(-1)).toBe('p150');
  });

  it('is worth another plan only where it is about another time, or another size', () => {
    const planned = withLoads({}, [heard('a', 100)]);
    expect(areOthers(planned, withLoads(planned, [heard('a', 110)]))).toBe(false);
    expect(areOthers(planned, withLoads(planned, [heard('a', 300)]))).toBe(true);
    expect(areOthers(planned, withLoads(planned, [{ ...heard('a', 100), bytes: 1 }]))).toBe(true);
    expect(areOthers(planned, withLoads(planned, [heard('b', 100)]))).toBe(true);
  });
});
