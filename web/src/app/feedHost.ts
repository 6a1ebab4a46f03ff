import type { LastPlace } from '@rackle/core/engine';
import type { HeldByStep } from '@rackle/core/loading';
import type { Change } from '@rackle/core/show';
import { USUAL_BUDGET_MB, type HostConnection, type MemoryWishes } from '../protocol';
import { NO_NEWS, NewsKeeper } from '../show/newsKeeper';
import type { Store } from '../state/store';

/** Runs work once what has just changed is on the screen. */
export const afterPaint = (work: () => void): void => {
  // Without a screen (a page in the background) there is no frame to wait for.
  if (document.visibilityState === 'hidden') setTimeout(work, 0);
  else requestAnimationFrame(() => setTimeout(work, 0));
};

/** As it is where nobody has said anything of it: the host knows that by itself. */
const isUsual = ({ budgetMb, pins }: MemoryWishes): boolean => budgetMb === USUAL_BUDGET_MB && pins.length === 0;

/** What is to be in memory step by step: by the plan of the evening, and by that of what is left of it after a jump. */
const plansIn = (store: Store) => {
  const { loading, fromHere } = store.getState().checks;
  return { evening: loading?.picture.held ?? null, fromHere };
};

/** What the host plays from, fed by edits. */
export interface HostFeed {
  /** The host, for the pages. */
  host: HostConnection;
  /** Every change of the show goes through here: one's own, undo, other windows', settled conflicts. */
  changed(changes: readonly Change[]): void;
}

/**
 * Hands every change of the show on to the host, from the list of changes that an edit is: the fields that are new, and
 * nothing else. It goes once the page has drawn it, so that the page answers first, and one message at a time: what comes
 * before the last one is answered waits, and the later takes the earlier's place. Whatever else is asked of the host
 * takes along what waits, so that the order stays.
 */
export function feedHost(
  store: Store,
  host: HostConnection,
  lastPlace: () => LastPlace | null = () => null,
  later: (work: () => void) => void = afterPaint,
): HostFeed {
  const keeper = new NewsKeeper();
  let sentSetlistId: string | null = null;
  let number = 0;
  let isAnswered = true;
  let isDue = false;
  /** The host does not know where it is: it has just been started, perhaps in the place of one that stopped. */
  let isAnew = true;
  let afterCrash = false;

  let memory = store.getState().ui.memory;
  let plans = plansIn(store);
  let evening = JSON.stringify(plans.evening);
  /** The newest of them. */
  let held: HeldByStep | null = plans.evening;
  const tellMemory = (): void => host.post({ type: 'memory', ...memory, held });

  const followPlans = (wishes: typeof memory): void => {
    const now = plansIn(store);
    if (wishes === memory && now.evening === plans.evening && now.fromHere === plans.fromHere) return;
    // Planned anew it is mostly the same.
    const next = now.evening === plans.evening ? evening : JSON.stringify(now.evening);
    const isOther = wishes !== memory || next !== evening;
    const isFromHere = now.fromHere !== plans.fromHere;
    [memory, plans, evening] = [wishes, now, next];
    if (!isOther && !isFromHere) return;
    held = isFromHere ? now.fromHere : now.evening;
    if (!keeper.knowsNothing) tellMemory();
  };

  const handOver = (): void => {
    isDue = false;
    const { status, setlistId, working } = store.getState().show;
    if (status !== 'ready' || setlistId === null) return;
    const told = keeper.take(working);
    if (told !== null && 'whole' in told)
      host.post({
        type: 'show',
        number: ++number,
        show: told.whole,
        setlistId,
        place: isAnew ? lastPlace() : null,
        afterCrash,
      });
    else if (told !== null || setlistId !== sentSetlistId)
      host.post({ type: 'changed', number: ++number, ...(told?.news ?? NO_NEWS), setlistId });
    else return;
    if (told !== null && 'whole' in told && (held !== null || !isUsual(memory))) tellMemory();
    sentSetlistId = setlistId;
    isAnswered = false;
    isAnew = false;
    afterCrash = false;
  };

  const soon = (): void => {
    if (isDue) return;
    isDue = true;
    if (isAnswered) later(() => isDue && handOver());
  };

  host.listen((event) => {
    if (event.type === 'askShow') {
      keeper.forget();
      isAnew = event.anew === true;
      afterCrash = event.afterCrash === true;
      handOver();
    } else if (event.type === 'took' && event.number === number) {
      isAnswered = true;
      if (isDue) later(() => isDue && handOver());
    }
  });
  store.subscribe(() => {
    const { show, ui } = store.getState();
    followPlans(ui.memory);
    if (show.status !== 'ready' || show.setlistId === sentSetlistId) return;
    if (keeper.knowsNothing) handOver();
    else soon();
  });
  return {
    changed: (changes) => {
      if (keeper.touch(changes)) soon();
    },
    host: {
      post: (command) => {
        if (isDue) handOver();
        host.post(command);
      },
      listen: (listener) => host.listen(listener),
    },
  };
}
