import { describe, expect, it } from '@jest/globals';
import {
  LoadingPictures,
  estimatedParts,
  eveningOf,
  heldAt,
  heldFrom,
  loadingPicture,
  planLoading,
  type EveningOptions,
} from '../src/loading';
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
    instrumentId === 'causeway' ? [{ key: presetId, bytes: 10, loadMs: 500, isMeasured: false }] : [],
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

describe('the picture of an evening', () => {
  const songs2 = {
    long: song('long', {
      durationSeconds: 60,
      layers: [sounding('a', 0), sounding('b', 1)],
      patches: [patch('one', ['a']), patch('two', ['b'])],
    }),
    short: song('short', {
      durationSeconds: 1,
      layers: [sounding('c', 2), sounding('again', 0)],
      patches: [patch('three', ['c', 'again'])],
    }),
  };
  const night = Setlist.parse({
    id: 'n',
    name: 'n',
    entries: ['long', 'short', 'long', 'short'].map((songId, i) => ({ kind: 'song', id: `e${i}`, songId })),
  });
  const heavy: EveningOptions = {
    ...options,
    pinned: new Set(),
    budgetBytes: 20_000_000,
    partsOf: ({ presetId }) => [
      { key: presetId, bytes: 10_000_000, loadMs: presetId === key(2) ? 4000 : 500, isMeasured: false },
    ],
  };

  it('has for every song what is in memory for it and for others, and where somebody waits', () => {
    const picture = loadingPicture(night, songs2, { ...heavy, budgetBytes: 100_000_000 });
    expect(picture.songs.map(({ ownMb, othersMb, waitMs }) => [ownMb, othersMb, waitMs])).toEqual([
      [20, 10, 0],
      [20, 10, 0],
      [20, 10, 0],
      [20, 0, 0],
    ]);
    expect(picture).toMatchObject({ peakMb: 30, totalMs: 0, hints: [] });
  });

  it('has what the plan holds step by step, for the running side', () => {
    const { held } = loadingPicture(night, songs2, heavy);
    const at = (step: number): string[] => [...heldAt(held, step)].sort();
    expect(held.jump).toBe(0);
    expect(held.steps.map(({ entryId, patchId }) => `${entryId} ${patchId}`)).toEqual([
      'e0 one',
      'e0 two',
      'e1 three',
      'e2 one',
      'e2 two',
      'e3 three',
    ]);
    // There is room for two; the third sound takes four seconds, and the songs are long.
    expect(at(0)).toEqual([key(0), key(1)].sort());
    expect(at(2)).toEqual([key(0), key(2)].sort());
  });

  it('plans the rest of it anew from a jump, from what is there', () => {
    const jump = { number: 3, entryId: 'e2', patchId: 'two', resident: [key(0), key(1), key(2)] };
    const rest = heldFrom(night, songs2, heavy, jump)!;
    expect(rest.jump).toBe(3);
    expect(rest.steps.map(({ entryId, patchId }) => `${entryId} ${patchId}`)).toEqual(['e2 two', 'e3 three']);
    // Of what comes next there is room for one: the one that takes longest.
    expect([...heldAt(rest, 0)].sort()).toEqual([key(1), key(2)].sort());
    expect([...heldAt(rest, 1)].sort()).toEqual([key(0), key(2)].sort());
    // Where they take the same time it is the one that is there.
    const alike: EveningOptions = {
      ...heavy,
      partsOf: (sound) => heavy.partsOf(sound).map((part) => ({ ...part, loadMs: 500 })),
    };
    const stays = (preset: number): string[] => {
      const held = heldFrom(night, songs2, alike, { ...jump, resident: [key(1), key(preset)] })!;
      return [...heldAt(held, 0)].sort();
    };
    expect(stays(0)).toEqual([key(0), key(1)].sort());
    expect(stays(2)).toEqual([key(1), key(2)].sort());
    expect(heldFrom(night, songs2, heavy, { ...jump, entryId: 'gone' })).toBeNull();
  });

  it('plans also from a patch that no cue recalls, and from a song that is skipped', () => {
    const places = (patchId: string): string[] =>
      heldFrom(setlist, songs, options, { number: 1, entryId: 'e3', patchId, resident: [] })!.steps.map(
        (step) => step.patchId,
      );
    expect(places('by-number')).toEqual(['by-number', 'one', 'two', 'three', 'four']);
    expect(places('two')).toEqual(['two', 'three', 'four']);
  });

  it('says which sound, pinned, spares the longest jump most of its wait', () => {
    const once = { ...night, entries: night.entries.slice(0, 2) };
    const picture = loadingPicture(once, songs2, { ...heavy, budgetBytes: 1e9 });
    // Back to the first song, whose second sound alone is needed no more, but stays as long as there is room.
    expect(picture.jump).toBeNull();
    const far = { ...once, entries: [...once.entries].reverse() };
    expect(loadingPicture(far, songs2, { ...heavy, budgetBytes: 1e9 }).jump).toBeNull();
    const back = loadingPicture(far, songs2, heavy);
    expect(back.jump).toMatchObject({ waitMs: 4000, from: 'e0', to: 'e1' });
    expect(back.hints[0]).toMatchObject({ savesMs: 3500, isAtJump: true, sound: { presetId: key(2) } });
    const pinned = loadingPicture(far, songs2, { ...heavy, pinned: new Set([key(2)]) });
    expect(pinned.jump?.waitMs ?? 0).toBe(500);
    expect(pinned.songs.every(({ alwaysMb }) => alwaysMb === 10)).toBe(true);
  });

  it('is made again only when something that is loaded, or its time, is another one', () => {
    const pictures = new LoadingPictures();
    const first = pictures.of(night, songs2, heavy);
    expect(first).toEqual(loadingPicture(night, songs2, heavy));
    const renamed = { ...songs2, long: { ...songs2.long, name: 'Other' as never } };
    expect(pictures.of(night, renamed, heavy)).toBe(first);
    const longer = { ...songs2, long: { ...songs2.long, durationSeconds: 90 } };
    expect(pictures.of(night, longer, heavy)).not.toBe(first);
    expect(pictures.of(night, songs2, { ...heavy, budgetBytes: 1e9 })).toEqual(
      loadingPicture(night, songs2, { ...heavy, budgetBytes: 1e9 }),
    );
  });

  it('knows what does not fit by itself', () => {
    const picture = loadingPicture(night, songs2, { ...heavy, budgetBytes: 15_000_000 });
    expect(picture.songs.map(({ isOver }) => isOver)).toEqual([false, true, false, true]);
  });
});
