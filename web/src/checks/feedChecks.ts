import type { PlayedShowParts } from '@rackle/core/engine';
import type { ShowNews } from '@rackle/core/show';
import type { Change } from '@rackle/core/show';
import { NO_NEWS, NewsKeeper } from '../show/newsKeeper';
import type { Store } from '../state/store';
import { checked } from './checksSlice';
import type { Checks } from './checks';

/** Half a second after the last edit. */
const RESTS_MS = 500;

/** The checker's end: in a worker, or for tests in the page. */
export interface Checker {
  start(show: PlayedShowParts, setlistId: string | null): unknown;
  take(news: ShowNews, setlistId: string | null): unknown;
  check(): Checks | Promise<Checks>;
}

/**
 * Has the show looked over once for all pages, when the hand has come to rest. One look at a time; an edit made
 * meanwhile brings another.
 */
export function feedChecks(
  store: Store,
  checker: Checker,
  rest: (work: () => void) => () => void = (work) => {
    const id = setTimeout(work, RESTS_MS);
    return () => clearTimeout(id);
  },
): { changed(changes: readonly Change[]): void } {
  const keeper = new NewsKeeper();
  let setlistId: string | null = null;
  let isLooking = false;
  let isStale = false;
  let cancel: (() => void) | null = null;
  const look = async (): Promise<void> => {
    cancel = null;
    if (isLooking) {
      isStale = true;
      return;
    }
    const { show } = store.getState();
    if (show.status !== 'ready') return;
    isLooking = true;
    isStale = false;
    const told = keeper.take(show.working);
    setlistId = show.setlistId;
    try {
      if (told !== null && 'whole' in told) await checker.start(told.whole, setlistId);
      else await checker.take(told === null ? NO_NEWS : told.news, setlistId);
      store.dispatch(checked(await checker.check()));
    } catch (cause) {
      // Mostly it could not be fetched, with the server gone: the next edit has it try again, from the whole show.
      console.warn('the show could not be looked over', cause);
      keeper.forget();
    } finally {
      isLooking = false;
    }
    if (isStale) soon();
  };
  const soon = (): void => {
    cancel?.();
    cancel = rest(() => void look());
  };
  store.subscribe(() => {
    const { show } = store.getState();
    if (show.status === 'ready' && show.setlistId !== setlistId) {
      const first = keeper.knowsNothing && setlistId === null;
      setlistId = show.setlistId;
      if (first) void look();
      else soon();
    }
  });
  return {
    changed: (changes) => {
      if (keeper.touch(changes)) soon();
    },
  };
}
