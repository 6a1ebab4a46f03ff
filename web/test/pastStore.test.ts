import { describe, expect, it } from '@jest/globals';
import { applied, bodiesOf, noBodies, type Bodies, type Change } from '@rackle/core/show';
import { pastStore } from '../src/features/history/pastStore';
import { edited } from '../src/show/edits';
import { loaded } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';
import { chose } from '../src/state/uiSlice';
import { demo } from './demoPage';

const renamed = (bodies: Bodies, name: string): Bodies => {
  const [before] = Object.values(bodies.songs);
  const after = { ...before, name: name as typeof before.name };
  return applied(bodies, [{ kind: 'songs', id: before.id, before, after } as Change]);
};

describe('the store with a show of the past in it', () => {
  const now = makeStore();
  const bodies = bodiesOf(demo);
  const [song] = Object.values(bodies.songs);
  now.dispatch(loaded({ bodies, setlistId: null }));
  let refusals = 0;
  const then = pastStore(now, { bodies: renamed(bodies, 'Of old'), setlistId: null }, () => refusals++);
  const nameIn = (store: { getState: typeof now.getState }): string =>
    store.getState().show.working.songs[song.id].name;

  it('shows what was, and all else as it is', () => {
    expect(nameIn(then)).toBe('Of old');
    expect(nameIn(now)).toBe(song.name);
    expect(then.getState().live).toBe(now.getState().live);
    expect(then.getState()).toBe(then.getState());
  });

  it('refuses every edit, which reaches nothing', () => {
    const renaming = edited({ label: 'rename', songs: [{ ...song, name: 'Never' as typeof song.name }] });
    (then.dispatch as typeof now.dispatch)(renaming);
    expect(refusals).toBe(1);
    expect([nameIn(then), nameIn(now)]).toEqual(['Of old', song.name]);
    expect(now.getState().show.past).toEqual([]);
  });

  it('lets through what is only looked at', () => {
    then.dispatch(chose({ songId: song.id, patchId: song.patches[1].id }));
    expect(now.getState().ui).toEqual(then.getState().ui);
    expect(refusals).toBe(1);
  });

  it('follows what goes on', () => {
    const before = then.getState();
    now.dispatch(loaded({ bodies: { ...noBodies(), songs: bodies.songs }, setlistId: null }));
    expect(then.getState()).not.toBe(before);
    expect(nameIn(then)).toBe('Of old');
  });
});
