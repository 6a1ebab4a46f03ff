import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  addressNumber,
  buttonsByTarget,
  controllerSheets,
  planNumbering,
  programConflicts,
  targetKey,
  withoutNumber,
} from '../src/programs';
import { GearList, Setlist, type Song } from '../src/show';
import { layer, part, song } from './build';

const songs = (...patches: number[]): Song[] =>
  patches.map((count, s) =>
    song(`s${s}`, {
      layers: [layer('a')],
      patches: Array.from({ length: count }, (_, p) => ({ id: `s${s}p${p}`, name: `p${p}`, parts: [part('a')] })),
    }),
  );
const setlistOf = (all: Song[], over: object = {}): Setlist =>
  Setlist.parse({
    id: 'n',
    name: 'N',
    entries: all.map((s) => ({ kind: 'song', id: `e${s.id}`, songId: s.id })),
    ...over,
  });
const byId = (all: Song[]) => new Map<string, Song>(all.map((s) => [s.id, s]));
const line = (songId: string, patch: number | null, program: number, over: object = {}) => ({
  target: { songId, patchId: patch === null ? null : `${songId}p${patch}` },
  program,
  ...over,
});

describe('numbering', () => {
  it('in blocks starts each song at the next multiple, and spills over into the next block where a song is long', () => {
    const all = songs(2, 5, 1);
    const { lines } = planNumbering(setlistOf(all), byId(all), { kind: 'blocks', startAt: 0, size: 4 });
    expect(lines.map(({ program }) => program)).toEqual([0, 1, 4, 5, 6, 7, 8, 12]);
  });

  it('by hand leaves every number alone and only fills what has none', () => {
    const all = songs(3);
    const plan = planNumbering(setlistOf(all, { programs: [line('s0', 1, 40), line('s0', null, 7)] }), byId(all), {
      kind: 'byHand',
    });
    expect(plan.changes.map(({ target, before, after }) => [target.patchId, before, after])).toEqual([
      ['s0p0', null, 41],
      ['s0p2', null, 42],
    ]);
    expect(plan.lines).toHaveLength(4);
  });

  it('says beforehand what changes: moved, new, and gone', () => {
    const all = songs(2);
    const before = setlistOf(all, { programs: [line('s0', 0, 5), line('s0', 1, 1), line('gone', 0, 9)] });
    expect(
      planNumbering(before, byId(all), { kind: 'order', startAt: 0 }).changes.map(({ target, before: was, after }) => [
        target.patchId,
        was,
        after,
      ]),
    ).toEqual([
      ['s0p0', 5, 0],
      ['gonep0', 9, null],
    ]);
  });

  it('never gives a number twice, keeps pins, and numbers everything', () => {
    const numbering = fc.oneof(
      fc.record({ kind: fc.constant('order' as const), startAt: fc.integer({ min: 0, max: 300 }) }),
      fc.record({
        kind: fc.constant('blocks' as const),
        startAt: fc.integer({ min: 0, max: 300 }),
        size: fc.integer({ min: 2, max: 20 }),
      }),
      fc.constant({ kind: 'byHand' as const }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 40 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 200 }), { maxLength: 5 }),
        numbering,
        (counts, pins, how) => {
          const all = songs(...counts);
          const pinned = pins
            .slice(0, all.length)
            .map((address, i) => line(`s${i}`, 0, address & 127, { lsb: address >> 7, pinned: true }));
          const setlist = setlistOf(all, { programs: pinned });
          const { lines } = planNumbering(setlist, byId(all), how);
          expect(programConflicts(lines)).toEqual([]);
          expect(withoutNumber({ ...setlist, programs: lines }, byId(all))).toEqual([]);
          for (const pin of setlist.programs) expect(lines).toContainEqual(pin);
          expect(Math.max(...lines.map(addressNumber))).toBeLessThan(128 ** 3);
        },
      ),
      { seed: 17, numRuns: 300 },
    );
  });
});

describe('the controller sheet', () => {
  const gear = (over: object = {}) =>
    GearList.parse({
      id: 'g',
      name: 'G',
      ports: [
        {
          direction: 'in',
          alias: 'Feet',
          device: 'Treadle 6',
          plays: false,
          programs: { kind: 'direct', channels: [3] },
          buttons: { count: 3, pages: 2 },
          ...over,
        },
        { direction: 'in', alias: 'Clack 2', device: 'Clack 2' },
      ],
      roles: [{ role: 'Next', source: { port: 'Clack 2', kind: 'controller', number: 80, channel: 2 } }],
    });

  it('gives each button the next number in playing order, page by page, and counts what has no button', () => {
    const all = songs(4, 4);
    const setlist = setlistOf(all);
    const [feet, clack] = controllerSheets(
      { ...setlist, programs: planNumbering(setlist, byId(all), { kind: 'order', startAt: 126 }).lines },
      byId(all),
      gear(),
    );
    expect(feet.rows.map(({ page, button, channel, lsb, program }) => [page, button, channel, lsb, program])).toEqual([
      [1, 1, 3, 0, 126],
      [1, 2, 3, 0, 127],
      [1, 3, 3, 1, 0],
      [2, 1, 3, 1, 1],
      [2, 2, 3, 1, 2],
      [2, 3, 3, 1, 3],
    ]);
    expect(feet.left).toBe(2);
    expect(feet.sendsBank).toBe(true);
    expect(clack.controls).toEqual([{ role: 'Next', control: '', kind: 'controller', channel: 2, number: 80 }]);
    expect(
      buttonsByTarget([feet, clack]).get(
        targetKey({ songId: all[0].id, patchId: all[0].patches[3].id, blendId: null }),
      ),
    ).toEqual({ port: 'Feet', page: 2, button: 1, pages: 2, takenBy: null });
  });

  it('leaves out lines of other ports, and controllers that only count', () => {
    const all = songs(2);
    const setlist = setlistOf(all, { programs: [line('s0', 0, 1, { port: 'Elsewhere' }), line('s0', 1, 2)] });
    expect(controllerSheets(setlist, byId(all), gear())[0].rows.map(({ program }) => program)).toEqual([2]);
    expect(
      controllerSheets(setlist, byId(all), gear({ programs: { kind: 'counter' } })).map(({ port }) => port.alias),
    ).toEqual(['Clack 2']);
  });
});
