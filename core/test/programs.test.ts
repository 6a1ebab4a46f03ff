import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { keyName, messageInWords, parseKeyName } from '../src/midi';
import {
  addressFrom,
  addressNumber,
  freeBehind,
  numberText,
  planNumbering,
  programConflicts,
  programText,
  readNumber,
} from '../src/programs';
import {
  Setlist,
  Cue,
  changeBlendValue,
  finishingTimes,
  moved,
  playingOrder,
  withDuplicatedPatch,
  withLayer,
  withoutLayer,
  withoutPatch,
  type Song,
} from '../src/show';
import { layer, part, song } from './build';

const songs = (count: number, patches: number): Song[] =>
  Array.from({ length: count }, (_, s) =>
    song(`s${s}`, {
      layers: [layer('a')],
      durationSeconds: 100,
      patches: Array.from({ length: patches }, (_, p) => ({
        id: `s${s}p${p}`,
        name: `p${p}`,
        parts: [part('a')],
        blends: p === 0 ? [{ id: `s${s}b`, name: 'b' }] : [],
      })),
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

const IN_ORDER = { kind: 'order', startAt: 0 } as const;

describe('numbering in playing order', () => {
  it('goes on in the next bank past 128, without conflicts', () => {
    const all = songs(60, 3);
    const lines = planNumbering(setlistOf(all), byId(all), IN_ORDER).lines;
    expect(lines).toHaveLength(240);
    expect(lines[127]).toMatchObject({ msb: 0, lsb: 0, program: 127 });
    expect(lines[128]).toMatchObject({ msb: 0, lsb: 1, program: 0 });
    expect(programConflicts(lines)).toEqual([]);
  });

  it('keeps pinned numbers and goes around them', () => {
    const all = songs(2, 2);
    const first = setlistOf(all, {
      programs: [{ target: { songId: 's1', patchId: 's1p1' }, program: 1, pinned: true }],
    });
    expect(planNumbering(first, byId(all), IN_ORDER).lines.map((line) => line.program)).toEqual([0, 2, 3, 4, 5, 1]);
  });

  it('numbers a song that stands twice once', () => {
    const all = songs(1, 2);
    const twice = setlistOf(all, { entries: [0, 1].map((i) => ({ kind: 'song', id: `e${i}`, songId: 's0' })) });
    expect(planNumbering(twice, byId(all), IN_ORDER).lines).toHaveLength(3);
  });

  it('finds the same number twice, but not on different channels', () => {
    const line = (patchId: string, over: object = {}) => ({ target: { songId: 's0', patchId }, program: 4, ...over });
    const conflicts = (...lines: object[]) =>
      programConflicts(setlistOf(songs(1, 3), { programs: lines }).programs).length;
    expect(conflicts(line('s0p0'), line('s0p1'))).toBe(1);
    expect(conflicts(line('s0p0'), line('s0p1', { lsb: 1 }))).toBe(0);
    expect(conflicts(line('s0p0', { channel: 1 }), line('s0p1', { channel: 2 }))).toBe(0);
  });

  it('past 128 name their bank, and are read as they are shown, or as they go over the wire', () => {
    const at = (bank: number, program: number) => addressFrom(bank * 128 + program);
    expect([numberText(at(0, 4), 1), numberText(at(1, 4), 1), numberText(at(1, 4), 0)]).toEqual([
      '5',
      'B2 · 5',
      'B1 · 4',
    ]);
    const had = at(1, 0);
    expect(readNumber('5', 1, had)).toBe(128 + 4);
    expect(readNumber('b3 5', 1, had)).toBe(256 + 4);
    expect(readNumber('2/5', 1, had)).toBe(256 + 4);
    expect(readNumber('1/0/5', 1, had)).toBe(128 * 128 + 4);
    for (const wrong of ['', 'x', '0', '129', 'B0 · 5', '128/1', '1/2/3/4', 'B2'])
      expect([wrong, readNumber(wrong, 1, had)]).toEqual([wrong, null]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2_097_151 }), fc.constantFrom(0 as const, 1 as const), (address, from) => {
        const line = addressFrom(address);
        const text = numberText(line, from);
        expect(readNumber(text, from, { msb: 0, lsb: 0 })).toBe(address);
      }),
      { seed: 15, numRuns: 300 },
    );
  });

  it('that are free are looked for behind a neighbour', () => {
    const line = (program: number) => ({
      target: { songId: 's', patchId: null, blendId: null },
      ...addressFrom(program),
    });
    const lines = [0, 1, 2, 5, 127].map(line) as never;
    expect([freeBehind(-1, lines), freeBehind(1, lines), freeBehind(126, lines)]).toEqual([3, 3, 128]);
    expect(freeBehind(2_097_151, lines)).toBeNull();
  });

  it('addresses count up and back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 128 ** 3 - 1 }), (number) => addressNumber(addressFrom(number)) === number),
      { seed: 13 },
    );
    expect(programText({ msb: 0, lsb: 0, program: 11 }, 1)).toBe('12');
    expect(programText({ msb: 1, lsb: 2, program: 11 }, 0)).toBe('1/2/11');
  });
});

describe('names', () => {
  it('of keys go both ways in both countings', () => {
    for (const middleC of ['C3', 'C4'] as const)
      for (let key = 0; key < 128; key++) expect(parseKeyName(keyName(key, middleC), middleC)).toBe(key);
    expect([
      keyName(60, 'C3'),
      keyName(60, 'C4'),
      parseKeyName('f#3'),
      parseKeyName('Bb2'),
      parseKeyName('H2'),
      parseKeyName('C10'),
    ]).toEqual(['C3', 'C4', 54, 46, null, null]);
  });

  it('of messages say what they are', () => {
    expect([
      messageInWords(0x90, 60, 90),
      messageInWords(0xb0, 64, 127),
      messageInWords(0xc0, 11, 0),
      messageInWords(0xe0, 0, 64),
      messageInWords(0xf8, 0, 0),
    ]).toEqual(['note on C4, velocity 90', 'sustain 127', 'program 12', 'wheel 0', 'clock']);
  });
});

describe('the running order', () => {
  it('numbers places like the engine, and adds durations up past midnight', () => {
    const all = songs(2, 2);
    const setlist = setlistOf(all, {
      startsAt: '23:59',
      entries: [
        { kind: 'song', id: 'e0', songId: 's0' },
        { kind: 'break', id: 'b', minutes: 10 },
        { kind: 'song', id: 'e1', songId: 's1' },
        { kind: 'song', id: 'gone', songId: 'gone' },
      ],
    });
    const record = Object.fromEntries(all.map((s) => [s.id, s]));
    expect(playingOrder(setlist, record).map((place) => [place.position, place.patch.name, place.blend?.name])).toEqual(
      [
        [0, 'p0', undefined],
        [1, 'p0', 'b'],
        [2, 'p1', undefined],
        [3, 'p0', undefined],
        [4, 'p0', 'b'],
        [5, 'p1', undefined],
      ],
    );
    expect(finishingTimes(setlist, record)).toMatchObject({ playsSeconds: 200, overAt: 23 * 60 + 59 + 200 / 60 + 10 });
  });
});

describe('edits', () => {
  const [first] = songs(1, 2);

  it('leave the original alone, and what they do not touch the same', () => {
    const copy = JSON.stringify(first);
    const edited = withLayer(first, 'new' as never, 's0p1', 'New', first.layers[0].sound);
    expect(JSON.stringify(first)).toBe(copy);
    expect(edited.patches[0]).toBe(first.patches[0]);
    expect(edited.layers[1].tape).not.toBe(edited.layers[0].tape);
    expect(withoutLayer(edited, 'new')).toEqual(first);
  });

  it('duplicate a patch under ids of its own, so that changing the copy changes nothing else', () => {
    const copied = withDuplicatedPatch(first, 's0p0', 'copy' as never, () => 'blend copy' as never);
    expect(copied.patches.map((patch) => patch.id)).toEqual(['s0p0', 'copy', 's0p1']);
    expect(copied.patches[1].blends[0].id).toBe('blend copy');
    expect(copied.patches[1].parts[0]).not.toBe(copied.patches[0].parts[0]);
  });

  it('take a patch out with its cues', () => {
    const cued = {
      ...first,
      cues: [Cue.parse({ kind: 'recall', id: 'c', atTick: 0, patchId: 's0p0' })],
    };
    expect(withoutPatch(cued, 's0p0').cues).toEqual([]);
  });

  it('gather what a blend changes, by layer', () => {
    const once = changeBlendValue(first, 's0p0', 's0b', 'a' as never, { levelDb: -20 });
    expect(changeBlendValue(once, 's0p0', 's0b', 'a' as never, { mute: true }).patches[0].blends[0].values).toEqual([
      { layerId: 'a', levelDb: -20, mute: true },
    ]);
  });

  it('move an item within bounds', () => {
    expect([moved(['a', 'b', 'c'], 0, 2), moved(['a', 'b', 'c'], 2, -4), moved(['a', 'b', 'c'], 0, 9)]).toEqual([
      ['b', 'c', 'a'],
      ['c', 'a', 'b'],
      ['b', 'c', 'a'],
    ]);
  });
});
