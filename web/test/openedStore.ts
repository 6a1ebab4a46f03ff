import { bodiesOf, type Show } from '@rackle/core/show';
import { loaded } from '../src/show/showSlice';
import { makeStore, type Store } from '../src/state/store';

/** A store with a show in it, whose edits go nowhere; one that is refused fails the test. */
export function openedStore(show: Show): Store {
  const store = makeStore({
    take: () => undefined,
    isOpen: () => true,
    newId: () => 'e',
    refuse: (words) => {
      throw new Error(words);
    },
  });
  store.dispatch(loaded({ bodies: bodiesOf(show), setlistId: show.setlists[0].id }));
  return store;
}
