/** @jest-environment node */
import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import {
  SHOW_VERSION,
  Song,
  applied,
  bodiesOf,
  changesOf,
  emptyShow,
  noBodies,
  type Bodies,
  type Body,
  type Change,
  type Edit,
} from '@rackle/core/show';
import type { EditMessage, SavedShow, SendOutcome } from '../src/show/api';
import { MemoryKept, openKept, type Kept } from '../src/show/kept';
import { Outbox } from '../src/show/outbox';
import type { OutboxView } from '../src/show/outboxView';
import { foldedTogether, migratedRow, type Row, type RowItem } from '../src/show/rows';

const song = (id: string, over: object = {}): Song => Song.parse({ id, name: id, ...over });

/** A server as the pages see it: keeps, answers the same edit alike, refuses what is stale. */
class StandIn {
  readonly kept = new Map<string, { revision: number; body: Body | null }>();
  readonly answered = new Map<string, SendOutcome>();
  readonly aside: { name: string; items: { body: Body | null }[] }[] = [];
  dataId = 'here';
  isThere = true;
  serial = 0;
  /** What happens to the next sendings, in their order; nothing said: they arrive. */
  faults: ('arrives' | 'noAnswer' | 'answerLost' | 'refuse')[] = [];
  readonly sent: string[] = [];

  constructor(...songs: Song[]) {
    for (const body of songs) this.kept.set(`songs ${body.id}`, { revision: 1, body });
  }

  put(body: Song): void {
    this.serial++;
    this.kept.set(`songs ${body.id}`, { revision: (this.kept.get(`songs ${body.id}`)?.revision ?? 0) + 1, body });
  }

  show = (): SavedShow =>
    ({
      ...Object.fromEntries(Object.keys(noBodies()).map((kind) => [kind, []])),
      songs: [...this.kept.values()].flatMap(({ revision, body }) => (body ? [{ revision, body }] : [])),
      dataId: this.dataId,
      serial: this.serial,
      unreadable: [],
    }) as unknown as SavedShow;

  send = (message: EditMessage): Promise<SendOutcome> => {
    this.sent.push(message.id);
    const fault = this.isThere ? this.faults.shift() : 'noAnswer';
    if (fault === 'noAnswer') return Promise.resolve({ kind: 'away', message: 'The server does not answer.' });
    if (fault === 'refuse') return Promise.resolve({ kind: 'refused', message: 'No.' });
    const outcome = JSON.parse(JSON.stringify(this.take(message))) as SendOutcome;
    return Promise.resolve(fault === 'answerLost' ? { kind: 'away', message: 'Cut.' } : outcome);
  };

  private take({ id, items }: EditMessage): SendOutcome {
    const before = this.answered.get(id);
    if (before) return before;
    const revisionOf = (key: string): number => {
      const there = this.kept.get(key);
      return there?.body ? there.revision : 0;
    };
    const stale = items.filter((item) => revisionOf(`${item.kind} ${item.id}`) !== item.revision);
    if (stale.length > 0)
      return {
        kind: 'stale',
        items: stale.map(({ kind, id: of }) => {
          const there = this.kept.get(`${kind} ${of}`);
          return { kind, id: of, current: there?.body ? { revision: there.revision, body: there.body } : null };
        }),
      };
    this.serial++;
    const now = items.map(({ kind, id: of, body }) => {
      const revision = (this.kept.get(`${kind} ${of}`)?.revision ?? 0) + 1;
      this.kept.set(`${kind} ${of}`, { revision, body });
      return { kind, id: of, revision: body === null ? 0 : revision };
    });
    const outcome: SendOutcome = { kind: 'saved', serial: this.serial, items: now };
    this.answered.set(id, outcome);
    return outcome;
  }

  setAside = (message: { name: string; items: { body: Body | null }[] }): Promise<SendOutcome> => {
    this.aside.push(message);
    return Promise.resolve({ kind: 'saved', serial: ++this.serial, items: [] });
  };

  nameOf = (id: string): string | undefined => (this.kept.get(`songs ${id}`)?.body as Song | null | undefined)?.name;
}

/** The windows of one browser: the same kept things, hints to each other, one at a time. */
class Browser {
  private static count = 0;
  readonly name = `outbox-${Browser.count++}`;
  private last: Promise<unknown> = Promise.resolve();
  readonly hints: (() => void)[] = [];
  readonly living = new Set<string>();
  /** Of whom nobody hears any more. */
  readonly deaf = new Set<string>();

  async window(id: string, server: StandIn, kept?: Kept) {
    let working: Bodies = noBodies();
    let view!: OutboxView;
    this.living.add(id);
    const outbox = new Outbox({
      windowId: id,
      newId: () => `${id}-${Math.random()}`,
      windows: {
        announce: () => this.hints.forEach((act) => act()),
        onHint: (act) => void this.hints.push(() => void (this.deaf.has(id) || act())),
        alone: (work) => {
          const run = this.last.then(work);
          this.last = run.catch(() => undefined);
          return run;
        },
        living: () => Promise.resolve(this.living),
      },
      pointerIsDown: () => false,
      onShow: (changes: Change[]) => void (working = applied(working, changes)),
      onView: (next) => void (view = next),
      send: server.send,
      setAside: server.setAside,
    });
    working = (await outbox.start(kept ?? (await openKept(this.name)), server.isThere ? server.show() : null))!;
    let n = 0;
    const edit = (songs: (Song | { id: string; deleted: true })[], open = false, editId = `${id}${n++}`): Edit => {
      const made = { id: editId, label: `edit ${editId}`, changes: changesOf(working, { songs }) };
      working = applied(working, made.changes);
      outbox.take(made, open);
      return made;
    };
    return {
      outbox,
      edit,
      rename: (of: string, name: string) => edit([{ ...working.songs[of], name: name as Song['name'] }]),
      nameOf: (of: string) => working.songs[of]?.name as string | undefined,
      view: () => view,
      state: () => view.saveState.kind,
      /** As a crash: nothing more is sent, nothing told. */
      gone: () => {
        this.deaf.add(id);
        this.living.delete(id);
      },
    };
  }
}

/** Turns of the event loop until something is so; fake-indexeddb answers by them. */
async function until(isSo: () => boolean): Promise<void> {
  for (let turn = 0; turn < 3000 && !isSo(); turn++) await new Promise(setImmediate);
  if (!isSo()) throw new Error('it did not come to that');
}

describe('an edit', () => {
  it('is kept, sent in its order, and gone from what waits once it is answered', async () => {
    const server = new StandIn(song('a'));
    const { rename, state } = await new Browser().window('w', server);
    rename('a', 'One');
    rename('a', 'Two');
    expect(state()).toBe('saving');
    await until(() => state() === 'saved');
    expect(server.sent).toEqual(['w0', 'w1']);
    expect(server.nameOf('a')).toBe('Two');
  });

  it('survives a window that goes before anything was sent; the next one sends it', async () => {
    const server = new StandIn(song('a'));
    const browser = new Browser();
    server.faults = ['noAnswer'];
    const first = await browser.window('w', server);
    first.rename('a', 'Kept');
    await until(() => first.state() === 'waiting');
    first.gone();
    const second = await browser.window('v', server);
    expect(second.nameOf('a')).toBe('Kept');
    await until(() => second.state() === 'saved');
    expect(server.nameOf('a')).toBe('Kept');
  });

  it('that was saved while its answer got lost is no conflict: the server knows it', async () => {
    const server = new StandIn(song('a'));
    const browser = new Browser();
    server.faults = ['answerLost'];
    const first = await browser.window('w', server);
    first.rename('a', 'Once');
    await until(() => first.state() === 'waiting');
    first.gone();
    const second = await browser.window('v', server);
    await until(() => second.state() === 'saved');
    expect([server.nameOf('a'), server.kept.get('songs a')!.revision, second.view().held]).toEqual(['Once', 2, []]);
  });

  it('equal to what stands there counts as saved', async () => {
    const server = new StandIn(song('a'));
    const { rename, state, view } = await new Browser().window('w', server);
    server.put(song('a', { name: 'Same' }));
    rename('a', 'Same');
    await until(() => state() === 'saved');
    expect(view().held).toEqual([]);
  });

  it('waits while the server is away, is tried again, and its deletion too', async () => {
    const server = new StandIn(song('a'), song('b'));
    server.faults = ['noAnswer', 'noAnswer'];
    const { edit, rename, state, outbox } = await new Browser().window('w', server);
    rename('a', 'One');
    edit([{ id: 'b', deleted: true }]);
    for (const times of [1, 2]) {
      await until(() => server.sent.length === times && state() === 'waiting');
      outbox.tryAgain();
    }
    await until(() => state() === 'saved');
    expect([server.nameOf('a'), server.nameOf('b')]).toEqual(['One', undefined]);
  });

  it('of a gesture is one, sealed at its end, and nothing when it came back to where it began', async () => {
    const server = new StandIn(song('a'));
    const { edit, outbox, state, view } = await new Browser().window('w', server);
    const first = edit([song('a', { name: 'B' })], true, 'drag');
    outbox.take({ ...first, changes: [{ ...first.changes[0], after: song('a', { name: 'C' }) } as Change] }, true);
    await until(() => view().saveState.waiting === 1);
    expect(server.sent).toEqual([]);
    outbox.seal();
    await until(() => state() === 'saved');
    expect([server.sent, server.nameOf('a')]).toEqual([['drag'], 'C']);
    const again = edit([song('a', { name: 'D' })], true, 'there');
    outbox.take({ ...again, changes: [{ ...again.changes[0], after: song('a', { name: 'C' }) } as Change] }, true);
    outbox.seal();
    await until(() => state() === 'saved');
    expect(server.sent).toEqual(['drag']);
  });
});

describe('two windows', () => {
  it('see each other’s edits, build on them, and lose none when both go', async () => {
    const server = new StandIn(song('a'), song('b'));
    const browser = new Browser();
    const [one, two] = [await browser.window('w', server), await browser.window('v', server)];
    one.rename('a', 'One');
    await until(() => two.nameOf('a') === 'One');
    two.rename('a', 'Two');
    await until(() => one.state() === 'saved' && two.state() === 'saved' && one.nameOf('a') === 'Two');
    expect(server.nameOf('a')).toBe('Two');
    server.faults = ['noAnswer', 'noAnswer', 'noAnswer', 'noAnswer'];
    one.rename('a', 'Last of one');
    two.rename('b', 'Last of two');
    await until(() => one.state() === 'waiting' && two.state() === 'waiting');
    one.gone();
    two.gone();
    server.faults = [];
    const third = await browser.window('u', server);
    await until(() => third.state() === 'saved');
    expect([server.nameOf('a'), server.nameOf('b')]).toEqual(['Last of one', 'Last of two']);
  });

  it('both say when an edit was saved, and up to which save of the server, whichever of them sent it', async () => {
    const [server, unheard] = [new StandIn(song('a')), new StandIn(song('a'))];
    unheard.faults = ['noAnswer', 'noAnswer', 'noAnswer'];
    const browser = new Browser();
    const [one, two] = [await browser.window('w', unheard), await browser.window('v', server)];
    expect([one, two].map(({ view }) => view().saveState.at)).toEqual([null, null]);
    one.rename('a', 'Sent by the other');
    await until(() => server.sent.length === 1 && one.state() === 'saved' && two.state() === 'saved');
    for (const { view } of [one, two])
      expect(view().saveState).toMatchObject({ at: expect.any(Number), serial: server.serial });
    // What was saved before a window opened is not said to be of now.
    expect((await browser.window('u', server)).view().saveState.at).toBeNull();
  });

  it('that build on the same state of one thing are a conflict, found without asking the server', async () => {
    const server = new StandIn(song('a'));
    const browser = new Browser();
    const [one, two] = [await browser.window('w', server), await browser.window('v', server)];
    browser.deaf.add('v');
    server.faults = ['noAnswer'];
    one.rename('a', 'One');
    await until(() => one.state() === 'waiting');
    browser.deaf.delete('v');
    // The second has not heard of it yet.
    two.rename('a', 'Two');
    await until(() => two.state() === 'conflict' || one.state() === 'conflict');
    expect(server.sent.filter((id) => id === 'v0')).toEqual([]);
  });
});

describe('a conflict', () => {
  async function conflict() {
    const server = new StandIn(song('a'), song('b'), song('c'));
    const window = await new Browser().window('w', server);
    server.put(song('a', { name: 'Theirs' }));
    window.rename('a', 'Ours');
    await until(() => window.state() === 'conflict');
    return { server, ...window };
  }

  it('is held until it is settled, with what both have made of it; edits of other things go past it', async () => {
    const { server, view, rename, nameOf } = await conflict();
    expect(view().held).toMatchObject([
      { why: 'conflict', items: [{ ours: { name: 'Ours' }, theirs: { name: 'Theirs' } }] },
    ]);
    rename('b', 'Past it');
    rename('a', 'Behind it');
    await until(() => server.nameOf('b') === 'Past it');
    expect([server.nameOf('a'), nameOf('a')]).toEqual(['Theirs', 'Behind it']);
  });

  it('in a second thing stands beside the first', async () => {
    const { server, view, rename, state } = await conflict();
    server.put(song('c', { name: 'Theirs too' }));
    rename('c', 'Ours too');
    await until(() => view().held.length === 2);
    expect(state()).toBe('conflict');
  });

  it('settled for ours saves ours on top, and what waits behind it', async () => {
    const { server, view, rename, outbox, state } = await conflict();
    rename('a', 'Behind it');
    await outbox.keepOurs(view().held[0].id);
    await until(() => state() === 'saved');
    expect(server.nameOf('a')).toBe('Behind it');
    expect(server.kept.get('songs a')!.revision).toBe(4);
  });

  it('settled for theirs sets ours aside under a name, with what waited on it; undo saves ours on top', async () => {
    const { server, view, rename, outbox, state, nameOf, edit } = await conflict();
    rename('a', 'Behind it');
    const step = await outbox.takeTheirs(view().held[0].id);
    expect(nameOf('a')).toBe('Theirs');
    expect(step).toMatchObject([{ before: { name: 'Behind it' }, after: { name: 'Theirs' } }]);
    await until(() => state() === 'saved' && server.aside.length === 2);
    expect(
      server.aside.map(({ name, items }) => [/^not taken at \d\d:\d\d: /.test(name), (items[0].body as Song).name]),
    ).toEqual([
      [true, 'Ours'],
      [true, 'Behind it'],
    ]);
    edit([step[0].before as Song]);
    await until(() => server.nameOf('a') === 'Behind it');
  });
});

describe('a refused edit', () => {
  it('waits, is said, and is mended by the next one that touches it: both go as one', async () => {
    const server = new StandIn(song('a'), song('b'));
    server.faults = ['refuse'];
    const { rename, state, view } = await new Browser().window('w', server);
    rename('a', 'Refused');
    await until(() => state() === 'refused');
    expect(view().held).toMatchObject([{ why: 'refused', message: 'No.' }]);
    rename('b', 'Past it');
    await until(() => server.nameOf('b') === 'Past it');
    rename('a', 'Mended');
    await until(() => state() === 'saved');
    expect([server.nameOf('a'), server.kept.get('songs a')!.revision]).toEqual(['Mended', 2]);
  });

  it('that is undone leaves nothing to be sent', async () => {
    const server = new StandIn(song('a'));
    server.faults = ['refuse'];
    const { rename, state } = await new Browser().window('w', server);
    rename('a', 'Refused');
    await until(() => state() === 'refused');
    rename('a', 'a');
    await until(() => state() === 'saved');
    expect(server.sent).toHaveLength(1);
  });

  it('survives a reload and is said again', async () => {
    const server = new StandIn(song('a'));
    const browser = new Browser();
    server.faults = ['refuse'];
    const first = await browser.window('w', server);
    first.rename('a', 'Refused');
    await until(() => first.state() === 'refused');
    first.gone();
    const second = await browser.window('v', server);
    expect([second.state(), second.nameOf('a')]).toEqual(['refused', 'Refused']);
  });
});

describe('edits of another data folder', () => {
  it('are kept and listed, never sent and never shown as part of this one', async () => {
    const server = new StandIn(song('a'));
    const browser = new Browser();
    server.faults = ['noAnswer'];
    const first = await browser.window('w', server);
    first.rename('a', 'Elsewhere');
    await until(() => first.state() === 'waiting');
    first.gone();
    server.dataId = 'restored';
    const second = await browser.window('v', server);
    expect(second.nameOf('a')).toBe('a');
    expect(second.view().held).toMatchObject([{ why: 'otherData', items: [{ ours: { name: 'Elsewhere' } }] }]);
    expect(server.sent).toHaveLength(1);
    await second.outbox.letGo(second.view().held[0].id);
    expect(second.view().held).toEqual([]);
  });
});

describe('without the server', () => {
  it('the show as it was last is played and edited, and what it has is taken up once it answers', async () => {
    const server = new StandIn(song('a'), song('b'));
    const browser = new Browser();
    const first = await browser.window('w', server);
    first.rename('a', 'Saved');
    await until(() => first.state() === 'saved');
    first.gone();
    server.isThere = false;
    const second = await browser.window('v', server);
    expect([second.nameOf('a'), second.view().saveState.isAway]).toEqual(['Saved', true]);
    second.rename('a', 'Meanwhile');
    await until(() => second.state() === 'waiting');
    server.isThere = true;
    server.put(song('b', { name: 'From elsewhere' }));
    // It may have been saved by itself in between: what was said before that counts no more.
    while (!(await second.outbox.meet(server.show())));
    expect(second.nameOf('b')).toBe('From elsewhere');
    await until(() => second.state() === 'saved');
    expect([server.nameOf('a'), second.view().saveState.isAway]).toEqual(['Meanwhile', false]);
  });

  it('a browser that has never seen the show has none', async () => {
    const server = new StandIn(song('a'));
    server.isThere = false;
    const { outbox } = await new Browser().window('w', server);
    expect(await outbox.start(new MemoryKept(), null)).toBe(null);
  });
});

describe('a browser that keeps nothing', () => {
  it('says that what waits is only in this window, and still saves it', async () => {
    const server = new StandIn(song('a'));
    server.faults = ['noAnswer'];
    const { rename, view, outbox, state } = await new Browser().window('w', server, new MemoryKept());
    rename('a', 'One');
    await until(() => state() === 'waiting');
    expect([view().saveState.isOnlyHere, outbox.isNowhereElse]).toEqual([true, true]);
    outbox.tryAgain();
    await until(() => state() === 'saved');
    expect([server.nameOf('a'), outbox.isNowhereElse]).toEqual(['One', false]);
  });

  it('and opens what it keeps late after all: what waits is kept there, with what has waited there before', async () => {
    const server = new StandIn(song('a'), song('b'), song('c'), song('d'));
    const browser = new Browser();
    const before = await browser.window('u', server);
    await until(() => before.state() === 'saved');
    server.isThere = false;
    before.rename('b', 'Waited');
    await until(() => before.state() === 'waiting');
    before.gone();
    server.isThere = true;
    // What was saved since, by this window too, is newer than what is kept there; what was deleted is not to come back.
    server.put(song('c', { name: 'From elsewhere' }));
    server.serial++;
    server.kept.delete('songs d');
    const late = await browser.window('w', server, new MemoryKept());
    // The second is made before the first is answered.
    server.sent.length = 0;
    server.faults = ['arrives', 'noAnswer'];
    late.rename('a', 'Saved');
    late.rename('a', 'Waits');
    await until(() => server.sent.length === 2 && late.state() === 'waiting');
    expect(server.nameOf('a')).toBe('Saved');
    server.isThere = false;
    late.edit([song('e')], true);
    await until(() => late.view().saveState.isOnlyHere);
    await late.outbox.keepIn(await openKept(browser.name));
    expect(['a', 'b', 'c', 'd', 'e'].map(late.nameOf)).toEqual(['Waits', 'Waited', 'From elsewhere', undefined, 'e']);
    expect([late.view().saveState.isOnlyHere, late.outbox.isNowhereElse]).toEqual([false, false]);
    await until(() => late.state() === 'waiting');
    late.gone();
    const next = await browser.window('v', server);
    expect(['a', 'b', 'c', 'd', 'e'].map(next.nameOf)).toEqual(['Waits', 'Waited', 'From elsewhere', undefined, 'e']);
    server.isThere = true;
    while (!(await next.outbox.meet(server.show())));
    await until(() => next.state() === 'saved');
    expect(['a', 'b', 'c', 'd', 'e'].map(server.nameOf)).toEqual(['Waits', 'Waited', 'From elsewhere', undefined, 'e']);
  });

  it('in the middle of the evening (its disk is full) goes on in the window, with what waits on what was saved', async () => {
    const server = new StandIn(song('a'), song('b'));
    const kept = await openKept('full');
    let isFull = false;
    const full: Kept = {
      isLasting: true,
      read: (since) => kept.read(since),
      claim: (id) => kept.claim(id),
      write: (what, isFinal) =>
        what.isNew && isFull ? Promise.reject(new Error('QuotaExceededError')) : kept.write(what, isFinal),
    };
    const { rename, state, view, outbox } = await new Browser().window('w', server, full);
    server.faults = ['arrives', 'noAnswer'];
    rename('a', 'One');
    rename('a', 'Two');
    await until(() => server.sent.length === 2 && state() === 'waiting');
    isFull = true;
    rename('b', 'Three');
    await until(() => view().saveState.isOnlyHere);
    outbox.tryAgain();
    await until(() => state() === 'saved');
    expect([server.nameOf('a'), server.nameOf('b')]).toEqual(['Two', 'Three']);
  });
});

describe('what waits', () => {
  const row = (id: string, of: string, before: string, after: string, over: object = {}): Row => ({
    id,
    label: id,
    dataId: 'here',
    showVersion: SHOW_VERSION,
    windowId: 'w',
    sealed: true,
    sent: false,
    items: [
      {
        kind: 'songs',
        id: of,
        before: song(of, { name: before }),
        after: song(of, { name: after }),
        on: { revision: 1 },
      } as RowItem,
    ],
    held: null,
    aside: null,
    ...over,
  });

  it('in a row on the same thing becomes one where there is no room: first before, last after, on what the first was on', () => {
    const rows = [
      row('1', 'a', 'A', 'B'),
      row('2', 'a', 'B', 'C'),
      row('3', 'b', 'A', 'B'),
      row('4', 'a', 'C', 'D', { sent: true }),
      row('5', 'a', 'D', 'E'),
    ];
    const together = foldedTogether(rows, 'here');
    expect(together).toHaveLength(1);
    expect(together[0]).toMatchObject({
      gone: ['1'],
      row: { id: '2', items: [{ before: { name: 'A' }, after: { name: 'C' }, on: { revision: 1 } }] },
    });
  });

  it('from a Rackle of an earlier show version is brought up, or kept raw where it cannot be read', () => {
    const old = row('1', 'a', 'A', 'B', { showVersion: 1 });
    expect(migratedRow(old)).toMatchObject({ showVersion: SHOW_VERSION, items: [{ after: { name: 'B' } }] });
    const broken = { ...old, items: [{ ...old.items[0], after: { id: 'a', durationSeconds: 9999 } as never }] };
    expect(migratedRow(broken)).toMatchObject({ showVersion: 1, isUnreadable: true });
  });
});

it('a show of an empty server is empty', async () => {
  const server = new StandIn();
  const { outbox } = await new Browser().window('w', server);
  expect(outbox.isNowhereElse).toBe(false);
  expect(bodiesOf(emptyShow())).toEqual(noBodies());
});
