import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { Show, bodiesOf, newsBetween, type Song } from '@rackle/core/show';
import type { LevelTake } from '@rackle/core/soundcheck';
import type { HostCommand, HostEvent } from '../src/protocol';
import 'fake-indexeddb/auto';
import { BrowserLevels, type KeptLevels } from '../src/checks/keptLevels';
import { leveling } from '../src/checks/leveling';
import { ShowChecker } from '../src/checks/showChecker';
import { TakeRenders } from '../src/host/takeRenders';
import { openedStore } from './openedStore';

const whole = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));
const PLAYED = new Set(
  whole.songs.flatMap(({ id, name }) => (['Kelp Dance', 'Low Tide Letters'].includes(name) ? [id] : [])),
);
/** Two songs of the demo, one after the other. */
const demo: Show = {
  ...whole,
  setlists: [
    {
      ...whole.setlists[0],
      entries: whole.setlists[0].entries.filter((entry) => entry.kind === 'song' && PLAYED.has(entry.songId)),
    },
  ],
};

/** A second of a tone, as loud as the loudest layer of a take. */
function toneOf({ layers }: LevelTake) {
  const gain = 0.1 * 10 ** (Math.max(...layers.map(({ balance: [levelDb] }) => levelDb)) / 20);
  const left = Float32Array.from({ length: 4000 }, (_, i) => gain * Math.sin(i / 2));
  return { left, right: left.slice(), rate: 8000 };
}

/** The page's side of it, with a running side that answers as soon as it is told to. */
function started(kept: KeptLevels | null = null) {
  const store = openedStore(demo);
  const checker = new ShowChecker(kept);
  checker.start(demo, demo.setlists[0].id);
  const asked: Extract<HostCommand, { type: 'renderTake' }>[] = [];
  const listeners: ((event: HostEvent) => void)[] = [];
  const tell = (event: HostEvent): void => listeners.forEach((listen) => listen(event));
  const host = {
    isAnswering: true,
    post(command: HostCommand): void {
      if (command.type !== 'renderTake') return;
      asked.push(command);
      if (host.isAnswering) queueMicrotask(() => host.answer(command));
    },
    answer: ({ number, take }: (typeof asked)[number]) => tell({ type: 'takeRendered', number, sound: toneOf(take) }),
    listen(listen: (event: HostEvent) => void): () => void {
      listeners.push(listen);
      return () => undefined;
    },
  };
  const levels = leveling(store, host, checker);
  const until = (state: string): Promise<void> =>
    new Promise((resolve) => {
      const look = (): void => {
        if (store.getState().checks.levels.state === state) resolve();
      };
      store.subscribe(look);
      look();
    });
  return { store, checker, host, asked, tell, levels, until };
}

const levelsOf = ({ store }: ReturnType<typeof started>) => {
  const { levels } = store.getState().checks;
  if (levels.state !== 'done') throw new Error(`levels are ${levels.state}`);
  return levels;
};

describe('measuring every step beside the pages', () => {
  it('asks for one take at a time, tells how far it is, and ends with how loud each step is', async () => {
    const app = started();
    const seen = new Set<string>();
    app.store.subscribe(() => {
      const { levels } = app.store.getState().checks;
      if (levels.state === 'running' && levels.of > 0) seen.add(`${levels.done} of ${levels.of}`);
    });
    app.levels.start();
    await app.until('done');
    const { loudness, isStale } = levelsOf(app);
    expect(loudness.length).toBe(8);
    expect(isStale).toBe(false);
    expect(seen.size).toBe(app.asked.length);
    expect(app.asked.map(({ number }) => number)).toEqual(app.asked.map((_, i) => i + 1));
  });

  it('renders once more only what an edit has changed', async () => {
    const app = started();
    app.levels.start();
    await app.until('done');
    const before = app.asked.length;
    const song = demo.songs.find(({ name }) => name === 'Low Tide Letters')!;
    const [envelope, ...others] = song.patches;
    const parts = envelope.parts.map((part) => ({ ...part, levelDb: 5 }));
    const louder: Song = { ...song, patches: [{ ...envelope, parts }, ...others] };
    const was = bodiesOf(demo);
    app.checker.take(
      newsBetween(was, { ...was, songs: { ...was.songs, [song.id]: louder } }, [{ kind: 'songs', id: song.id }]),
      demo.setlists[0].id,
    );
    expect(app.checker.levels(6)).toMatchObject({ isStale: true });
    app.levels.start();
    await app.until('running');
    await app.until('done');
    // One chord on its only stretch, and two hands.
    expect(app.asked.length - before).toBe(2);
    expect(levelsOf(app).findings.map(({ message }) => message)).toContain(
      'Envelope is 10.0 LU louder than Kelp Dance, Surface before it',
    );
  });

  it('is there again at the next visit, as far as it still is what is played', async () => {
    const visit = (build: string, show = demo) => {
      const app = started(new BrowserLevels('levels-again', build));
      app.checker.start(show, show.setlists[0].id);
      return app;
    };
    const app = visit('one');
    expect(await app.checker.recall()).toBe(false);
    app.levels.start();
    await app.until('done');
    const next = visit('one');
    expect(await next.checker.recall()).toBe(true);
    const { findings, loudness } = levelsOf(app);
    expect(next.checker.levels(6)).toMatchObject({ isStale: false, findings, loudness });
    // With a song that was never measured, it says so; what is new is measured, and nothing else.
    const more = visit('one', whole);
    expect(await more.checker.recall()).toBe(true);
    expect(more.checker.levels(6)).toMatchObject({ isStale: true, loudness: { length: 8 } });
    more.levels.start();
    await more.until('running');
    await more.until('done');
    expect(levelsOf(more).isStale).toBe(false);
    const takes = new Set(app.asked.map(({ take }) => JSON.stringify(take)));
    expect(more.asked.filter(({ take }) => takes.has(JSON.stringify(take)))).toEqual([]);
    // Another version of Rackle may sound otherwise.
    expect(await visit('two').checker.recall()).toBe(false);
  });

  it('that is called off keeps what it has, and goes on from there', async () => {
    const app = started();
    app.host.isAnswering = false;
    app.levels.start();
    const asked = (count: number): Promise<void> =>
      new Promise((resolve) => {
        const look = (): void => void (app.asked.length >= count ? resolve() : setTimeout(look));
        look();
      });
    await asked(1);
    app.host.answer(app.asked[0]);
    await asked(2);
    app.levels.callOff();
    expect(app.store.getState().checks.levels).toEqual({ state: 'none' });
    // Its answer comes all the same, and is nobody's any more.
    app.host.answer(app.asked[1]);
    app.host.isAnswering = true;
    app.levels.start();
    await app.until('done');
    const takes = app.asked.map(({ take }) => JSON.stringify(take));
    expect(takes.filter((take) => take === takes[0])).toHaveLength(1);
  });

  it('asks the running side again when that has been started anew', async () => {
    const app = started();
    app.host.isAnswering = false;
    app.levels.start();
    while (app.asked.length === 0) await new Promise((resolve) => setTimeout(resolve));
    app.host.isAnswering = true;
    app.tell({ type: 'askShow', anew: true });
    await app.until('done');
    expect(app.asked[1]).toEqual(app.asked[0]);
  });
});

it('nothing is rendered while something sounds; what cannot be rendered is answered', async () => {
  let isQuiet = false;
  const waiting: (() => void)[] = [];
  const sent: HostEvent[] = [];
  let asked = 0;
  const renders = new TakeRenders(
    {
      after: (_, act) => {
        waiting.push(act);
        return () => undefined;
      },
      send: (event) => void sent.push(event),
      renderTake: () => (asked++ === 0 ? Promise.reject(new Error('no bank')) : Promise.resolve(null)),
    },
    () => isQuiet,
  );
  const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
  renders.render({ number: 1, take: {} as LevelTake });
  renders.render({ number: 2, take: {} as LevelTake });
  await turn();
  expect([asked, waiting.length]).toEqual([0, 1]);
  isQuiet = true;
  waiting.shift()!();
  await turn();
  await turn();
  expect(sent).toEqual([
    { type: 'takeRendered', number: 1, sound: null },
    { type: 'takeRendered', number: 2, sound: null },
  ]);
});
