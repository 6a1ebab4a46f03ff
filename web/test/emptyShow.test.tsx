import { describe, expect, it } from '@jest/globals';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { bodiesOf, emptyShow } from '@rackle/core/show';
import { EmptyShow } from '../src/features/setlist/EmptyShow';
import { heard } from '../src/live/liveSlice';
import { loaded } from '../src/show/showSlice';
import { makeStore } from '../src/state/store';

describe('the first setlist', () => {
  it('asked for before the running side has said what is plugged in is made of what is there all the same', () => {
    const store = makeStore();
    store.dispatch(loaded({ bodies: bodiesOf(emptyShow()), setlistId: null }));
    render(
      <Provider store={store}>
        <MemoryRouter>
          <EmptyShow />
        </MemoryRouter>
      </Provider>,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Start a setlist' }));
    expect(Object.keys(store.getState().show.working.gearLists)).toEqual([]);
    act(() => {
      store.dispatch(
        heard({ type: 'ports', ports: [{ name: 'Aster 73', direction: 'in', origin: 'bench', alive: true }] }),
      );
    });
    const [gear] = Object.values(store.getState().show.working.gearLists);
    expect(gear.ports.map(({ device }) => device)).toEqual(['Aster 73']);
    expect(Object.values(store.getState().show.working.setlists)).toHaveLength(1);
  });
});
