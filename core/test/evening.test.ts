import { describe, expect, it } from '@jest/globals';
import { estimatedParts, eveningOf, planLoading, type EveningOptions } from '../src/loading';
import { BUILT_INS, Instrument, Setlist, type LayerSound } from '../src/show';
import { layer, part, song } from './build';

const PRESETS = BUILT_INS[0].presets.map(({ id }) => id);
const sounding = (id: string, preset: number, over: Record<string, unknown> = {}): object => ({
  ...layer(id),
  sound: { instrumentId: 'causeway', presetId: PRESETS[preset] },
  ...over,
});
const key = (preset: number): string => PRESETS[preset];
const patch = (id: string, layers: string[], over: object = {}): object => ({
  id,
  name: id,
  parts: layers.map((each) => part(each)),
  ...over,
});

const songs = {
  first: song('first', {
    durationSeconds: 100,
    layers: [sounding('a', 0), sounding('b', 1), sounding('mic', 5, { source: { kind: 'live', input: 'Mic' } })],
    patches: [patch('one', ['a', 'mic']), patch('two', ['a', 'b']), patch('by-number', ['b'], { isStep: false })],
  }),
  second: song('second', {
    durationSeconds: 60,
    layers: [sounding('c', 2), sounding('again', 0), layer('outboard', { preset: 'sk1' })],
    standing: [part('c')],
    patches: [patch('three', ['outboard']), patch('four', ['again'])],
    // Two beats at 120 are a second.
    cues: [{ kind: 'recall', id: 'r', atTick: 960 * 20, patchId: 'four' }],
  }),
};
const setlist = Setlist.parse({
  id: 's',
  name: 's',
  layers: [sounding('pad', 3)],
  standing: [part('pad')],
  entries: [
    { kind: 'song', id: 'e1', songId: 'first' },
    { kind: 'break', id: 'e2', minutes: 2 },
    { kind: 'song', id: 'e3', songId: 'first', skip: true },
    { kind: 'song', id: 'e4', songId: 'second' },
  ],
});
const options: EveningOptions = {
  budgetBytes: 100,
  parallel: 1,
  beforeMs: Infinity,
  pinned: new Set([key(3)]),
  partsOf: ({ instrumentId, presetId }) =>
    instrumentId === 'causeway' ? [{ key: presetId, bytes: 10, loadMs: 500 }] : [],
};

describe('an evening to be loaded', () => {
  const { task, places } = eveningOf(setlist, songs, options);
  const names = (needs: readonly number[]): string[] => needs.map((unit) => task.units[unit].key).sort();

  it('has every step of every song that is played, at its time, as cues have it or evenly', () => {
    expect(places.map(({ entryId, patchId }) => `${entryId} ${patchId}`)).toEqual([
      'e1 one',
      'e1 two',
      'e4 three',
      'e4 four',
    ]);
    expect(task.stops.map(({ atMs }) => Math.round(atMs))).toEqual([0, 50_000, 220_000, 230_000]);
    expect(task.stops.map(({ isFirstOfSong }) => isFirstOfSong)).toEqual([true, false, true, false]);
  });

  it('needs what patches and standing layers play, each preset once; outboard, live and made sounds need nothing', () => {
    expect(task.stops.map(({ needs }) => names(needs))).toEqual([
      [key(0), key(3)].sort(),
      [key(0), key(1), key(3)].sort(),
      [key(2), key(3)].sort(),
      [key(0), key(2), key(3)].sort(),
    ]);
    expect(task.units).toHaveLength(4);
    expect(task.units.filter(({ isPinned }) => isPinned).map((unit) => unit.key)).toEqual([key(3)]);
  });

  it('is planned: what the second song needs is loaded while the first one plays', () => {
    expect(planLoading({ ...task, budgetBytes: 40 }).cost).toMatchObject({ worstMs: 0, totalMs: 0 });
    // Where its last step fills the budget, what the second song needs comes when it begins.
    expect(planLoading({ ...task, budgetBytes: 30 }).stops.map(({ waitMs }) => waitMs)).toEqual([0, 0, 500, 0]);
    expect(planLoading({ ...task, budgetBytes: 20 }).stops.map(({ isOver }) => isOver)).toEqual([
      false,
      true,
      false,
      true,
    ]);
  });

  it('of a song without patches, or that is not there, has no stops', () => {
    const entries = Setlist.parse({
      id: 's',
      name: 's',
      entries: [
        { kind: 'song', id: 'e', songId: 'empty' },
        { kind: 'song', id: 'f', songId: 'gone' },
      ],
    });
    expect(eveningOf(entries, { empty: song('empty', {}) }, options).task.stops).toEqual([]);
  });
});

describe('what has to be loaded for a sound', () => {
  const sound = (instrumentId: string, presetId: string) => ({ instrumentId, presetId }) as LayerSound;
  const file = 'a'.repeat(64);
  const stored: Record<string, Instrument> = {
    mine: Instrument.parse({
      kind: 'own',
      id: 'mine',
      name: 'Mine',
      of: 'causeway',
      presets: [{ id: 'dark', name: 'Dark', from: 'causeway/late-boat' }],
    }),
    tapes: Instrument.parse({
      kind: 'recordings',
      id: 'tapes',
      name: 'Tapes',
      presets: [{ id: 'rain', name: 'Rain', file, lengthSeconds: 10 }],
    }),
  };
  const parts = (instrumentId: string, presetId: string) =>
    estimatedParts(sound(instrumentId, presetId), (id) => stored[id]);

  it('is shared by presets of the same recordings, also by those of one’s own', () => {
    const boat = parts('causeway', 'causeway/late-boat');
    expect(parts('mine', 'dark')).toEqual(boat);
    const keys = (preset: string): string[] => parts('causeway', `causeway/${preset}`).map((part) => part.key);
    expect(boat.some((part) => keys('felt-oar').includes(part.key))).toBe(true);
    expect(boat.every((part) => part.bytes > 0 && part.loadMs > 0)).toBe(true);
    // Tines and struck bars together.
    expect(keys('wet-planks')).toEqual(expect.arrayContaining([...boat.map((part) => part.key), ...keys('tin-cup')]));
  });

  it('of a recording is as long as it is; of what is made as it is played, or is not there, nothing', () => {
    expect(parts('tapes', 'rain')).toEqual([expect.objectContaining({ key: file, bytes: 10 * 44_100 * 8 })]);
    for (const [instrument, preset] of [
      ['drawbar-house', 'drawbar-house/full-house'],
      ['mine', 'gone'],
      ['gone', 'gone'],
    ])
      expect(parts(instrument, preset)).toEqual([]);
  });
});
