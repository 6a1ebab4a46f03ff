import { describe, expect, it } from '@jest/globals';
import { GearList, Setlist, Song, bodiesOf, emptyShow } from '@rackle/core/show';
import { feedHost } from '../src/app/feedHost';
import type { LoadingChecks } from '../src/checks/checks';
import { planned, replanned } from '../src/checks/checksSlice';
import type { HostCommand, HostConnection, HostEvent } from '../src/protocol';
import { edited, undone } from '../src/show/edits';
import { loaded, synced } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';
import { memoryWished } from '../src/state/uiSlice';

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
  const listeners: ((event: HostEvent) => void)[] = [];
  const inner: HostConnection = {
    post: (command) => void posted.push(command),
    listen: (listener) => {
      listeners.push(listener);
      return () => undefined;
    },
  };
  const feed = feedHost(
    store,
    inner,
    () => null,
    (work) => void waiting.push(work),
  );
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
  /** What was posted, in words: of a change, what it puts and what is gone. */
  const words = (): string[] =>
    posted.map((command) =>
      command.type !== 'changed'
        ? command.type
        : [
            ...Object.entries(command.put).flatMap(([kind, byId]) =>
              Object.entries(byId).map(([id, fields]) => `${kind} ${id}: ${Object.keys(fields).join(' ')}`),
            ),
            ...command.gone.map(({ kind, id }) => `${kind} ${id} gone`),
          ].join(', '),
    );
  /** The host has taken the last one. */
  const take = (): void => {
    const last = posted.filter((command) => command.type === 'show' || command.type === 'changed').at(-1)!;
    for (const listener of listeners) listener({ type: 'took', number: last.number });
  };
  return {
    posted,
    store,
    host: feed.host,
    changed: feed.changed,
    words,
    take,
    say: (event: HostEvent) => listeners.forEach((listener) => listener(event)),
    setlist,
    draw: () => {
      for (const work of waiting.splice(0)) work();
    },
  };
}

describe('what the host is told of the show', () => {
  it('is the whole of it at once when it is loaded', () => {
    expect(setUp().words()).toEqual(['show']);
  });

  it('is only what is new in a song, once the page has drawn it; several changes before that are one', () => {
    const { store, words, draw, take } = setUp();
    take();
    for (const name of ['one', 'two', 'three']) store.dispatch(edited({ label: 'rename', songs: [song('a', name)] }));
    expect(words()).toEqual(['show']);
    draw();
    expect(words()).toEqual(['show', 'songs a: name']);
  });

  it('waits while the last one is not answered; the later takes the place of the earlier', () => {
    const { store, words, draw, take, posted } = setUp();
    store.dispatch(edited({ label: 'rename', songs: [song('a', 'one')] }));
    draw();
    expect(words()).toEqual(['show']);
    store.dispatch(edited({ label: 'rename', songs: [song('a', 'two'), song('b', 'other')] }));
    take();
    draw();
    expect(words()).toEqual(['show', 'songs a: name, songs b: name']);
    expect(posted.at(-1)).toMatchObject({ number: 2, put: { songs: { a: { name: 'two' } } }, setlistId: 'night' });
  });

  it('goes before anything else that is asked of it, answered or not, and not twice', () => {
    const { store, host, words, draw } = setUp();
    store.dispatch(edited({ label: 'rename', songs: [song('b', 'new')] }));
    host.post({ type: 'recall', position: 3 });
    draw();
    expect(words()).toEqual(['show', 'songs b: name', 'recall']);
  });

  it('is what another window has changed, and what an undo brings back', () => {
    const { store, changed, words, draw, take } = setUp();
    take();
    const changes = [{ kind: 'songs', id: 'a', before: song('a'), after: song('a', 'theirs') } as const];
    store.dispatch(synced([...changes]));
    changed(changes);
    draw();
    take();
    store.dispatch(edited({ label: 'rename', songs: [song('b', 'mine')] }));
    draw();
    take();
    store.dispatch(undone());
    draw();
    expect(words()).toEqual(['show', 'songs a: name', 'songs b: name', 'songs b: name']);
  });

  it('is a song as a whole when it comes, its id when it goes, and nothing when only the library changes', () => {
    const { store, words, draw, take, setlist } = setUp();
    take();
    store.dispatch(edited({ label: 'start a song', songs: [song('c')] }));
    draw();
    take();
    store.dispatch(edited({ label: 'remove it', songs: [{ id: 'c', deleted: true }] }));
    draw();
    take();
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
    store.dispatch(edited({ label: 'rename', setlists: [{ ...setlist, name: 'Later' as Setlist['name'] }] }));
    draw();
    expect(words()).toEqual([
      'show',
      `songs c: ${Object.keys(song('c')).join(' ')}`,
      'songs c gone',
      'setlists night: name',
    ]);
  });

  it('is the whole again when the host has missed something', () => {
    const { words, say, posted } = setUp();
    say({ type: 'askShow' });
    expect(words()).toEqual(['show', 'show']);
    expect(posted.at(-1)).toMatchObject({ number: 2, place: null });
  });

  it('is, of memory, what the evening is planned to have of it, once it is planned and when that is another plan', () => {
    const { posted, store } = setUp();
    const plan = (held: string): LoadingChecks =>
      ({
        picture: { held: { keys: ['a'], steps: [{ entryId: 'e', patchId: 'p', held }] } },
        findings: [],
        looked: [],
      }) as never;
    const told = (): unknown[] =>
      posted.flatMap((command) => (command.type === 'memory' ? [command.held?.steps[0].held] : []));
    store.dispatch(planned(plan('01')));
    store.dispatch(planned(plan('01')));
    expect(told()).toEqual(['01']);
    store.dispatch(planned(plan('00')));
    expect(told()).toEqual(['01', '00']);
    // After a jump it is the plan from there; of the evening the same again is no news.
    const rest = { jump: 1, keys: ['a'], steps: [{ entryId: 'e', patchId: 'p', held: '03' }] } as never;
    store.dispatch(replanned(rest));
    store.dispatch(planned(plan('00')));
    expect(told()).toEqual(['01', '00', '03']);
    // What the player says of memory, or another evening, is planned as a whole first.
    store.dispatch(memoryWished({ budgetMb: 800 }));
    expect(told()).toEqual(['01', '00', '03', '00']);
    store.dispatch(replanned({ ...(rest as object) } as never));
    store.dispatch(planned(plan('02')));
    expect(told()).toEqual(['01', '00', '03', '00', '03', '02']);
  });
});
