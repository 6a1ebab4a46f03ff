import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { curfewMinutes, finishingTimes, songsToDrop, type Setlist, type Song } from '../src/show';
import { song } from './build';

const evening = (
  lengths: readonly number[],
  curfew: string | null,
  over: object[] = [],
): [Pick<Setlist, 'entries' | 'startsAt' | 'curfew'>, Record<string, Song>] => [
  {
    startsAt: '20:00',
    curfew,
    entries: [
      ...lengths.map((_, i) => ({
        kind: 'song',
        id: `e${i}`,
        songId: `s${i}`,
        skip: false,
        keyShift: 0,
        bpm: null,
        note: '',
        atEnd: 'stop',
      })),
      ...over,
    ] as Setlist['entries'],
  },
  Object.fromEntries(lengths.map((durationSeconds, i) => [`s${i}`, song(`s${i}`, { durationSeconds })])),
];

describe('songs to leave out before a curfew', () => {
  it('are none where the evening is over in time, or there is no curfew', () => {
    expect(songsToDrop(...evening([600, 600, 600], '20:30'))).toBeNull();
    expect(songsToDrop(...evening([600, 600, 600], null))).toBeNull();
  });

  it('are as few as can be, the shortest that do, and not the first or the last', () => {
    // Not quite ten minutes too late: one of ten is enough.
    expect(songsToDrop(...evening([600, 700, 600, 900, 600], '20:47'))).toEqual(['e2']);
    expect(songsToDrop(...evening([900, 200, 250, 300, 900], '20:35'))).toEqual(['e1', 'e2']);
    // To the second.
    expect(songsToDrop(...evening([250, 368, 304, 226], '20:13'))).toEqual(['e1']);
  });

  it('take the first or the last only where nothing else is enough; none where three are not', () => {
    expect(songsToDrop(...evening([1200, 60, 60], '20:05'))).toEqual(['e0']);
    expect(songsToDrop(...evening(Array<number>(12).fill(300), '20:10'))).toEqual([]);
  });

  it('knows a curfew after midnight, and songs that are skipped already', () => {
    expect(curfewMinutes({ startsAt: '22:00', curfew: '00:30' })).toBe(1470);
    const [setlist, songs] = evening([600, 600, 600, 600], '20:30');
    const skipped = {
      ...setlist,
      entries: setlist.entries.map((entry, i) => (i === 1 ? { ...entry, skip: true } : entry)),
    };
    expect(songsToDrop(skipped as typeof setlist, songs)).toBeNull();
    expect(finishingTimes(skipped as typeof setlist, songs)).toMatchObject({ playsSeconds: 1800, overAt: 1230 });
  });

  it('always end the evening in time, and no single song less would', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 60, max: 900 }), { minLength: 1, maxLength: 9 }),
        fc.integer({ min: 0, max: 59 }),
        (lengths, minute) => {
          const [setlist, songs] = evening(lengths, `20:${String(minute).padStart(2, '0')}`);
          const dropped = songsToDrop(setlist, songs);
          if (dropped === null || dropped.length === 0) return;
          const overWithout = (ids: readonly string[]): number =>
            finishingTimes({ ...setlist, entries: setlist.entries.filter(({ id }) => !ids.includes(id)) }, songs)
              .overAt;
          const curfew = curfewMinutes(setlist)!;
          expect(overWithout(dropped)).toBeLessThanOrEqual(curfew + 1e-9);
          for (const kept of dropped) expect(overWithout(dropped.filter((id) => id !== kept))).toBeGreaterThan(curfew);
        },
      ),
    );
  });
});
