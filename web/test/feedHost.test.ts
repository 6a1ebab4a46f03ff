import { describe, expect, it } from '@jest/globals';
import { GearList, Setlist, Song, bodiesOf, emptyShow } from '@rackle/core';
import { feedHost } from '../src/app/feedHost';
import type { HostCommand, HostDoor } from '../src/live/door';
import { edited, undone } from '../src/show/edits';
import { loaded, synced } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';

const song = (id: string, name = id): Song => Song.parse({ id, name });

function setUp() {
  const posted: HostCommand[] = [];
  const waiting: (() => void)[] = [];
  let ids = 0;
  const store = makeStore({
    take: (edit) => feed.changed(edit.changes),
    isOpen: () => true,
    newId: () => `e${ids++}`,
    refuse: (words) => {
      throw new Error(words);
    },
  });
  const inner: HostDoor = { post: (command) => void posted.push(command), listen: () => () => undefined };
  const feed = feedHost(store, inner, (work) => void waiting.push(work));
  const setlist = Setlist.parse({ id: 'night', name: 'Night' });
  store.dispatch(
    loaded({
      bodies: bodiesOf({
        ...emptyShow(),
        songs: [song('a'), song('b')],
        setlists: [setlist],
        gearLists: [GearList.parse({ id: 'g', name: 'G' })],
      }),
      setlistId: null,
    }),
  );
  const types = (): string[] =>
    posted.map((command) => (command.type === 'song' ? `song ${command.song.name}` : command.type));
  return {
    posted,
    store,
    door: feed.door,
    changed: feed.changed,
    types,
    setlist,
    draw: () => {
      for (const work of waiting.splice(0)) work();
    },
  };
}

describe('what the host is told of the show', () => {
  it('is the whole of it at once when it is loaded', () => {
    expect(setUp().types()).toEqual(['show']);
  });

  it('is a changed song by itself, once the page has drawn it; several changes before that are one', () => {
    const { store, types, draw } = setUp();
    for (const name of ['one', 'two', 'three']) store.dispatch(edited({ label: 'rename', songs: [song('a', name)] }));
    expect(types()).toEqual(['show']);
    draw();
    expect(types()).toEqual(['show', 'song three']);
  });

  it('goes before anything else that is asked of it, and not twice', () => {
    const { store, door, types, draw } = setUp();
    store.dispatch(edited({ label: 'rename', songs: [song('b', 'new')] }));
    door.post({ type: 'recall', position: 3 });
    draw();
    expect(types()).toEqual(['show', 'song new', 'recall']);
  });

  it('is a song that another window has changed, and the one that an undo brings back', () => {
    const { store, changed, types, draw } = setUp();
    const changes = [{ kind: 'songs', id: 'a', before: song('a'), after: song('a', 'theirs') } as const];
    store.dispatch(synced([...changes]));
    changed(changes);
    draw();
    store.dispatch(edited({ label: 'rename', songs: [song('b', 'mine')] }));
    store.dispatch(undone());
    draw();
    expect(types()).toEqual(['show', 'song theirs', 'song b']);
  });

  it('is the whole again when a song comes or goes', () => {
    const { store, types, draw } = setUp();
    store.dispatch(edited({ label: 'start a song', songs: [song('c')] }));
    draw();
    store.dispatch(edited({ label: 'remove it', songs: [{ id: 'c', deleted: true }] }));
    draw();
    expect(types()).toEqual(['show', 'show', 'show']);
  });

  it('is the whole again when the setlist changes, and nothing when only the library does', () => {
    const { store, types, draw, setlist } = setUp();
    store.dispatch(
      edited({
        label: 'keep',
        libraryItems: [
          {
            kind: 'song',
            id: 'i',
            name: 'I',
            description: '',
            keptAt: '2026',
            isTemplate: false,
            song: song('c'),
          } as never,
        ],
      }),
    );
    draw();
    expect(types()).toEqual(['show']);
    store.dispatch(edited({ label: 'rename', setlists: [{ ...setlist, name: 'Later' as Setlist['name'] }] }));
    draw();
    expect(types()).toEqual(['show', 'show']);
  });
});
