import { describe, expect, it } from '@jest/globals';
import { Song, bodiesOf, emptyShow, type Edit } from '@rackle/core/show';
import { edited, redone, undone, type EditKeeper } from '../src/show/edits';
import { loaded, stepSkipped, synced } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';

const song = (id: string, name: string): Song => Song.parse({ id, name });

function setUp() {
  const taken: { edit: Edit; open: boolean }[] = [];
  const refused: string[] = [];
  let ids = 0;
  const gesture = { goesOn: true };
  const keeper: EditKeeper = {
    take: (edit, open) => void taken.push({ edit, open }),
    isOpen: () => gesture.goesOn,
    newId: () => `e${ids++}`,
    refuse: (words) => void refused.push(words),
  };
  const store = makeStore(keeper);
  store.dispatch(
    loaded({ bodies: bodiesOf({ ...emptyShow(), songs: [song('a', 'A'), song('b', 'B')] }), setlistId: null }),
  );
  const rename = (id: string, name: string, mergeKey?: string): void =>
    store.dispatch(edited({ label: `call it ${name}`, songs: [song(id, name)], mergeKey }));
  const nameOf = (id: string): string | undefined => store.getState().show.working.songs[id]?.name;
  return { store, taken, refused, gesture, rename, nameOf, show: () => store.getState().show };
}

describe('undo', () => {
  it('brings back what was there, and redo what was undone; each is an edit of its own', () => {
    const { store, taken, rename, nameOf } = setUp();
    rename('a', 'B');
    rename('a', 'C');
    store.dispatch(undone());
    store.dispatch(undone());
    expect(nameOf('a')).toBe('A');
    store.dispatch(redone());
    store.dispatch(redone());
    expect(nameOf('a')).toBe('C');
    expect(new Set(taken.map(({ edit }) => edit.id)).size).toBe(6);
    expect(taken[2].edit).toMatchObject({ label: 'undo: call it C', changes: [{ id: 'a', after: { name: 'B' } }] });
  });

  it('takes a gesture as one step and one edit, and a later one with the same key as another', () => {
    const { store, taken, gesture, rename, nameOf } = setUp();
    for (const name of ['B', 'C', 'D']) rename('a', name, 'drag');
    gesture.goesOn = false;
    rename('a', 'E', 'drag');
    expect(new Set(taken.map(({ edit }) => edit.id)).size).toBe(2);
    expect(taken[2].edit.changes).toMatchObject([{ before: { name: 'A' }, after: { name: 'D' } }]);
    store.dispatch(undone());
    expect(nameOf('a')).toBe('D');
    store.dispatch(undone());
    expect(nameOf('a')).toBe('A');
  });

  it('forgets what was undone when something new is done', () => {
    const { store, rename, show } = setUp();
    rename('a', 'B');
    store.dispatch(undone());
    rename('a', 'C');
    expect(show().future).toEqual([]);
    expect(show().past.map((step) => step.edit.label)).toEqual(['call it C']);
  });

  it('brings a deleted song back', () => {
    const { store, nameOf } = setUp();
    store.dispatch(edited({ label: 'delete', songs: [{ id: 'a', deleted: true }] }));
    expect(nameOf('a')).toBeUndefined();
    store.dispatch(undone());
    expect(nameOf('a')).toBe('A');
  });

  it('touches only the ids of its edit: what another window did to another song stays', () => {
    const { store, rename, nameOf, show } = setUp();
    rename('b', 'Mine');
    const before = show().working.songs.a;
    store.dispatch(synced([{ kind: 'songs', id: 'a', before, after: song('a', 'Theirs') }]));
    store.dispatch(undone());
    expect([nameOf('a'), nameOf('b')]).toEqual(['Theirs', 'B']);
  });

  it('refuses in words what was changed elsewhere since; passed over, older steps are reached', () => {
    const { store, taken, rename, nameOf, show } = setUp();
    rename('b', 'Older');
    rename('a', 'Mine');
    store.dispatch(synced([{ kind: 'songs', id: 'a', before: show().working.songs.a, after: song('a', 'Theirs') }]));
    store.dispatch(undone());
    expect(show().refusedStep).toMatchObject({ direction: 'undo', why: 'Theirs has been changed elsewhere since' });
    expect([nameOf('a'), taken.length, show().past.length]).toEqual(['Theirs', 2, 2]);
    store.dispatch(stepSkipped());
    store.dispatch(undone());
    expect([nameOf('a'), nameOf('b'), show().refusedStep]).toEqual(['Theirs', 'B', null]);
  });

  it('leaves no step of an edit that came back to where it began', () => {
    const { rename, show } = setUp();
    rename('a', 'B', 'drag');
    rename('a', 'A', 'drag');
    expect(show().past).toEqual([]);
  });
});

describe('an edit', () => {
  it('that cannot be is refused where it is made: said, and nothing changed or kept', () => {
    const { store, taken, refused, nameOf } = setUp();
    store.dispatch(edited({ label: 'fast', songs: [{ ...song('a', 'Fast'), durationSeconds: 9999 }] }));
    expect([nameOf('a'), taken]).toEqual(['A', []]);
    expect(refused[0]).toMatch(/^durationSeconds: .*Nothing was changed\.$/);
  });

  it('that changes nothing is none', () => {
    const { taken, rename } = setUp();
    rename('a', 'A');
    expect(taken).toEqual([]);
  });
});
