import { expect, it } from '@jest/globals';
import { HereKeeper } from '../src/checks/here';
import type { Strike } from '../src/protocol';
import { makeStore } from '../src/state/store';

it('keys that were struck where no layer is are remembered for the soundcheck, each once with its patch', async () => {
  const keeper = new HereKeeper();
  const struck = (serial: number, key: number, patchId: string | null): Strike => ({
    serial,
    key,
    velocity: 80,
    silent: patchId === null ? null : { device: 'Keys', songId: 'song', patchId },
  });
  expect(keeper.noteStrikes([struck(0, 60, null)])).toBe(false);
  expect(keeper.noteStrikes([struck(0, 60, null), struck(1, 30, 'verse'), struck(2, 30, 'verse')])).toBe(true);
  // The last hundred come again with every new one.
  expect(keeper.noteStrikes([struck(1, 30, 'verse'), struck(3, 61, null)])).toBe(false);
  expect(keeper.noteStrikes([struck(4, 30, 'chorus')])).toBe(true);
  const { silentStrikes } = await keeper.read(
    makeStore({ take: () => undefined, isOpen: () => true, newId: () => '', refuse: () => undefined }).getState(),
  );
  expect(silentStrikes).toEqual(
    ['verse', 'chorus'].map((patchId) => ({ songId: 'song', patchId, device: 'Keys', key: 30 })),
  );
});
