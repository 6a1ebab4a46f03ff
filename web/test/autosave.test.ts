import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { Song } from '@rackle/core';
import type { Kind, SaveOutcome } from '../src/show/api';
import { Autosave } from '../src/show/autosave';
import type { Conflict, SaveState, Working } from '../src/show/showSlice';

const song = (id: string, name = id): Song => ({ id, name }) as Song;
const storage = () => {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
};

/** An autosave over a working copy, and a server that answers as it is told. */
function setUp(kept = storage(), serverRevision = 3) {
  const world = {
    working: {
      songs: { a: song('a') },
      setlists: {},
      instruments: {},
      gearLists: {},
      libraryItems: {},
      shelves: {},
    } as unknown as Working,
    states: [] as SaveState[],
    conflicts: [] as Conflict[],
    calls: [] as [Kind, string, number, object | null][],
    answer: (revision: number): SaveOutcome => ({ kind: 'saved', revision: revision + 1 }),
  };
  const autosave = new Autosave({
    read: () => world.working,
    onState: (state) => world.states.push(state),
    onConflict: (conflict) => world.conflicts.push(conflict),
    storage: kept,
    nowMs: () => 1234,
    save: (kind, id, revision, body) => {
      world.calls.push([kind, id, revision, body]);
      return Promise.resolve(world.answer(revision));
    },
  });
  const unsaved = autosave.start({
    songs: [{ revision: serverRevision, body: world.working.songs.a }],
    setlists: [],
    instruments: [],
    gearLists: [],
    libraryItems: [],
    shelves: [],
  });
  const edit = (songs: Record<string, Song>): void => {
    world.working = { ...world.working, songs };
    autosave.touch();
  };
  return { world, autosave, edit, unsaved };
}

const settle = (ms = 400): Promise<void> => jest.advanceTimersByTimeAsync(ms);
const last = <T>(items: T[]): T => items[items.length - 1];

describe('autosave', () => {
  beforeEach(() => {
    jest.useFakeTimers();
  });

  it('saves an edit under the revision it was made to, once things have settled', async () => {
    const { world, edit } = setUp();
    edit({ a: song('a', 'one') });
    edit({ a: song('a', 'two') });
    expect(last(world.states)).toMatchObject({ kind: 'saving', waiting: 1 });
    await settle();
    expect(world.calls).toEqual([['songs', 'a', 3, song('a', 'two')]]);
    expect(last(world.states)).toEqual({ kind: 'saved', at: 1234, waiting: 0, message: null });
  });

  it('says nothing is saved while the server is away, and saves when it is back', async () => {
    const { world, edit } = setUp();
    world.answer = () => ({ kind: 'away', message: 'The server does not answer.' });
    edit({ a: song('a', 'later') });
    await settle();
    expect(last(world.states)).toMatchObject({ kind: 'waiting', waiting: 1 });
    world.answer = (revision) => ({ kind: 'saved', revision: revision + 1 });
    await settle(1100);
    expect(last(world.states)).toMatchObject({ kind: 'saved', waiting: 0 });
  });

  it('keeps what could not be saved over a reload', async () => {
    const kept = storage();
    const before = setUp(kept);
    before.world.answer = () => ({ kind: 'away', message: '' });
    before.edit({ a: song('a', 'not lost') });
    await settle();
    expect(setUp(kept).unsaved).toMatchObject({ songs: { a: song('a', 'not lost') } });
  });

  it('saves it under the revision it was made to, so that what another window saved meanwhile is not overwritten', async () => {
    const kept = storage();
    const before = setUp(kept);
    before.world.answer = () => ({ kind: 'away', message: '' });
    before.edit({ a: song('a', 'made offline') });
    await settle();
    const after = setUp(kept, 7);
    after.edit(after.unsaved.songs!);
    await settle();
    expect(after.world.calls[0]).toMatchObject(['songs', 'a', 3, song('a', 'made offline')]);
  });

  it('puts a stale save to the player and overwrites nothing', async () => {
    const { world, autosave, edit } = setUp();
    world.answer = () => ({ kind: 'stale', revision: 5, body: song('a', 'theirs') });
    edit({ a: song('a', 'ours') });
    await settle();
    expect(last(world.states).kind).toBe('stale');
    expect(world.conflicts).toEqual([{ kind: 'songs', id: 'a', theirs: { revision: 5, body: song('a', 'theirs') } }]);
    world.answer = (revision) => ({ kind: 'saved', revision: revision + 1 });
    autosave.resolve(world.conflicts[0], true);
    await settle();
    expect(last(world.calls)).toEqual(['songs', 'a', 5, song('a', 'ours')]);
  });

  it('tells a refusal in the server’s words, and does not try the same again', async () => {
    const { world, edit } = setUp();
    world.answer = () => ({ kind: 'refused', message: 'tempoBpm: at most 400' });
    edit({ a: song('a', 'too fast') });
    await settle();
    expect(last(world.states)).toMatchObject({ kind: 'refused', message: 'tempoBpm: at most 400' });
    const calls = world.calls.length;
    await settle(30_000);
    expect(world.calls).toHaveLength(calls);
  });

  it('deletes what is gone', async () => {
    const { world, edit } = setUp();
    edit({});
    await settle();
    expect(world.calls).toEqual([['songs', 'a', 3, null]]);
  });
});
