import { expect, it } from '@jest/globals';
import type { EngineRecord } from '@rackle/core/engine';
import { HereKeeper } from '../src/checks/here';
import { makeStore } from '../src/state/store';

const heard = (...records: Partial<EngineRecord>[]): { record: EngineRecord }[] =>
  records.map((record) => ({ record: { atMs: 0, ...record } as EngineRecord }));
const struck = (key: number, reason = 'no-layer-here'): Partial<EngineRecord> =>
  ({ type: 'ignored', reason, port: 'Keys', status: 0x90, data1: key, data2: 80 }) as never;
const recall = (patchId: string): Partial<EngineRecord> => ({ type: 'recall', songId: 'song', patchId });

it('keys that were struck where no layer is are remembered for the soundcheck, each once with its patch', async () => {
  const keeper = new HereKeeper();
  // Before anything was recalled nobody knows where it was.
  expect(keeper.note(heard(struck(30)))).toBe(false);
  expect(keeper.note(heard(recall('verse'), struck(30), struck(30), struck(90, 'layer-muted')))).toBe(true);
  expect(keeper.note(heard(struck(30)))).toBe(false);
  expect(keeper.note(heard(recall('chorus'), struck(30)))).toBe(true);
  const { silentStrikes } = await keeper.read(
    makeStore({ take: () => undefined, isOpen: () => true, newId: () => '', refuse: () => undefined }).getState(),
  );
  expect(silentStrikes).toEqual(
    ['verse', 'chorus'].map((patchId) => ({ songId: 'song', patchId, port: 'Keys', key: 30 })),
  );
});
