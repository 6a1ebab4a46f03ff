import { describe, expect, it } from '@jest/globals';
import type { Song } from '@rackle/core';
import type { SavedShow } from '../src/show/api';
import { edited, loaded, redone, showSlice, undone, type ShowState } from '../src/show/showSlice';

const { reducer } = showSlice;
const song = (id: string, name: string): Song => ({ id, name }) as Song;
const start = (): ShowState =>
  reducer(
    undefined,
    loaded({
      show: {
        songs: [{ revision: 1, body: song('a', 'A') }],
        setlists: [],
        instruments: [],
        gearLists: [],
        libraryItems: [],
        shelves: [],
      } as unknown as SavedShow,
      unsaved: {},
      setlistId: null,
    }),
  );
const rename = (state: ShowState, name: string, mergeKey?: string): ShowState =>
  reducer(state, edited({ label: `call it ${name}`, songs: [song('a', name)], mergeKey }));

describe('undo', () => {
  it('brings back what was there, and redo what was undone', () => {
    const twice = rename(rename(start(), 'B'), 'C');
    const back = reducer(reducer(twice, undone()), undone());
    expect(back.working.songs.a.name).toBe('A');
    expect(reducer(reducer(back, redone()), redone()).working.songs.a.name).toBe('C');
  });

  it('takes a drag as one step', () => {
    const dragged = ['B', 'C', 'D'].reduce((state, name) => rename(state, name, 'drag'), start());
    expect(reducer(dragged, undone()).working.songs.a.name).toBe('A');
  });

  it('forgets what was undone when something new is done', () => {
    const state = rename(reducer(rename(start(), 'B'), undone()), 'C');
    expect(state.future).toEqual([]);
    expect(state.past.map((step) => step.label)).toEqual(['call it C']);
  });

  it('brings a deleted song back', () => {
    const deleted = reducer(start(), edited({ label: 'delete', songs: [{ id: 'a', deleted: true }] }));
    expect(deleted.working.songs).toEqual({});
    expect(reducer(deleted, undone()).working.songs.a.name).toBe('A');
  });
});
