import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it, jest } from '@jest/globals';
import type { ShowNews } from '@rackle/core/show';
import { Show, bodiesOf } from '@rackle/core/show';
import { feedChecks, type Checker } from '../src/checks/feedChecks';
import { HereKeeper } from '../src/checks/here';
import { ShowChecker } from '../src/checks/showChecker';
import { edited } from '../src/show/edits';
import { loaded } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';

const demo = Show.parse(JSON.parse(readFileSync(join(__dirname, '../../demo/tern-ledge.json'), 'utf8')));

it('the whole show is looked over once when it is opened, and once after a row of edits, by what they changed', async () => {
  const checker = new ShowChecker();
  const asked: string[] = [];
  let isThere = true;
  const noting: Checker = {
    start: (show, setlistId) => {
      asked.push('start');
      checker.start(structuredClone(show), setlistId);
    },
    take: (news: ShowNews, setlistId) => {
      if (!isThere) return Promise.reject(new Error('it cannot be fetched'));
      asked.push(`take ${Object.keys(news.put.songs ?? {}).join()}`);
      checker.take(structuredClone(news), setlistId);
    },
    learn: (here) => checker.learn(here),
    plan: (wishes) => checker.plan(wishes),
    planFrom: async (jump, wishes, loads) => {
      asked.push(`from ${jump.number}`);
      return Promise.resolve(checker.planFrom(jump, wishes, loads));
    },
    recall: () => {
      asked.push('recall');
      return checker.recall();
    },
    levels: (jumpLu) => checker.levels(jumpLu),
    check: () => {
      asked.push('check');
      return checker.check();
    },
  };
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
  const feed = feedChecks(store, noting, new HereKeeper(), (work) => {
    waiting.push(work);
    return () => waiting.splice(waiting.indexOf(work), 1);
  });
  const rest = async (): Promise<void> => {
    for (const work of waiting.splice(0)) work();
    for (let i = 0; i < 10; i++) await Promise.resolve();
  };
  expect(store.getState().checks.isDone).toBe(false);
  store.dispatch(loaded({ bodies: bodiesOf(demo), setlistId: demo.setlists[0].id }));
  await rest();
  expect(store.getState().checks).toMatchObject({ openRoles: 4, numbersTwice: 0, isDone: true });
  // The demo has four open roles; what else is found is looked at here.
  const found = (): string[] =>
    store
      .getState()
      .checks.findings.map(({ rule }) => rule)
      .filter((rule) => rule !== 'role-open');
  expect(store.getState().checks.findings).toHaveLength(4);
  expect(found()).toEqual([]);
  expect(store.getState().checks.looked[0]).toMatchObject({ counted: '10 songs', found: 0 });
  const [song] = demo.songs;
  const wrong = (lowKey: number) => ({
    ...song,
    patches: song.patches.map((patch, i) =>
      i > 0
        ? patch
        : {
            ...patch,
            parts: patch.parts.map((part) => ({ ...part, zone: { ...part.zone, input: 'Gone' as never, lowKey } })),
          },
    ),
  });
  for (const lowKey of [1, 2, 3]) store.dispatch(edited({ label: 'another keyboard', songs: [wrong(lowKey)] }));
  expect(found()).toEqual([]);
  await rest();
  // What earlier visits have measured of a setlist is asked for once.
  expect(asked).toEqual(['start', 'check', 'recall', `take ${song.id}`, 'check']);
  expect(found()).toEqual(['port-names']);

  // A checker that cannot be had, and can again: nothing is lost of what was edited meanwhile.
  isThere = false;
  const warn = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  store.dispatch(edited({ label: 'meanwhile', songs: [song] }));
  await rest();
  expect(warn).toHaveBeenCalledTimes(1);
  isThere = true;
  asked.length = 0;
  store.dispatch(edited({ label: 'again', songs: [{ ...song, description: 'again' }] }));
  await rest();
  expect(asked).toEqual(['start', 'check']);
  expect(found()).toEqual([]);

  // After a jump the rest is planned anew: of several made meanwhile, the last.
  asked.length = 0;
  const { held } = store.getState().checks.loading!.picture;
  const { entryId, patchId } = held.steps.at(-1)!;
  for (const number of [1, 2, 3]) feed.heard({ type: 'jumped', jump: { number, entryId, patchId, resident: [] } });
  await rest();
  expect(asked).toEqual(['from 1', 'from 3']);
  expect(store.getState().checks.fromHere).toMatchObject({ jump: 3, steps: [{ entryId, patchId }] });
  feed.heard({ type: 'jumped', jump: { number: 4, entryId: 'gone', patchId, resident: [] } });
  await rest();
  expect(store.getState().checks.fromHere).toMatchObject({ jump: 3 });

  // Numbers that nothing answers to bring another look, each once.
  asked.length = 0;
  const unanswered = (program: number) =>
    feed.heard({ type: 'unanswered', heard: { port: 'Feet', msb: 0, lsb: 0, program } });
  unanswered(90);
  unanswered(90);
  await rest();
  expect(asked).toEqual(['take ', 'check']);
  unanswered(90);
  expect(waiting).toEqual([]);
});
