import { afterEach, expect, it } from '@jest/globals';
import { act, cleanup, render, screen } from '@testing-library/react';
import { GearPage } from '../src/features/gear/GearPage';
import { SetlistSide } from '../src/features/setlist/SetlistSide';
import { StagePage } from '../src/features/stage/StagePage';
import { NO_CHECKS } from '../src/checks/checks';
import { checked, planned } from '../src/checks/checksSlice';
import { heard } from '../src/live/liveSlice';
import { demoPage } from './demoPage';

// What the pages say before the running side has said where it stands.

afterEach(cleanup);

it('the stage says that the running side is starting, not that there is nothing to play', () => {
  const { Around } = demoPage();
  render(<StagePage />, { wrapper: Around });
  expect(screen.getByText('The running side is starting …')).toBeTruthy();
  expect(screen.queryByText(/Nothing to play/)).toBeNull();
});

it('Gear calls a port missing only once it is known what is plugged in', () => {
  const { Around, store } = demoPage();
  render(<GearPage />, { wrapper: Around });
  expect(screen.queryAllByText('no port')).toEqual([]);
  act(() => {
    store.dispatch(
      heard({ type: 'ports', ports: [{ name: 'Aster 73', direction: 'in', origin: 'bench', alive: true }] }),
    );
  });
  expect(screen.queryAllByText('no port').length).toBeGreaterThan(0);
});

it('the setlist gives no all-clear before the show has been looked over', async () => {
  const { Around, store } = demoPage();
  // The chart is fetched meanwhile.
  await act(async () => {
    render(<SetlistSide />, { wrapper: Around });
    await import('../src/features/setlist/MemoryChart');
  });
  expect(screen.getByText('Looking it over …')).toBeTruthy();
  expect(screen.getByText('being planned …')).toBeTruthy();
  act(() => void store.dispatch(checked(NO_CHECKS)));
  expect(screen.getByText('Nothing wrong in what was checked.')).toBeTruthy();
  const loading = (songs: object[]) => ({ picture: { songs, held: null }, findings: [], looked: [] }) as never;
  act(() => void store.dispatch(planned(loading([]))));
  expect(screen.getByText('nothing has to be loaded')).toBeTruthy();
  const [entry] = Object.values(store.getState().show.working.setlists)[0].entries;
  act(() => void store.dispatch(planned(loading([{ entryId: entry.id, ownMb: 41.2, alwaysMb: 1 }]))));
  expect(screen.getByText('most 42 MB, Biscuit Tin Regatta')).toBeTruthy();
});
