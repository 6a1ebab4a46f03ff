import type { PlayedShowParts } from '@rackle/core/engine';
import type { HeldByStep, Jump } from '@rackle/core/loading';
import type { Here } from '@rackle/core/soundcheck';
import type { ShowNews } from '@rackle/core/show';
import type { Bodies, Change } from '@rackle/core/show';
import type { LoadTimes } from '../live/loadTimes';
import { NO_NEWS, NewsKeeper } from '../show/newsKeeper';
import type { RootState, Store } from '../state/store';
import { checked, levelled, outdated, planned, replanned } from './checksSlice';
import type { HostEvent, MemoryWishes } from '../protocol';
import type { Checks, LoadingChecks } from './checks';
import type { HereKeeper } from './here';
import type { LevelChecker } from './leveling';

/** Half a second after the last edit. */
const RESTS_MS = 500;

/** The page's end. */
export interface Checking {
  changed(changes: readonly Change[]): void;
  /** What the running side says, as far as it bears on them. */
  heard(event: HostEvent): void;
}

/** The checker's end: in a worker, or for tests in the page. */
export interface Checker {
  start(show: PlayedShowParts, setlistId: string | null): unknown;
  take(news: ShowNews, setlistId: string | null): unknown;
  /** What only this machine knows. */
  learn(here: Here): unknown;
  check(): Checks | Promise<Checks>;
  plan(wishes: MemoryWishes, loads: LoadTimes): LoadingChecks | null | Promise<LoadingChecks | null>;
  /** What the rest of the evening has in memory after a jump. */
  planFrom(jump: Jump, wishes: MemoryWishes, loads: LoadTimes): HeldByStep | null | Promise<HeldByStep | null>;
  recall: LevelChecker['recall'];
  levels: LevelChecker['levels'];
}

/** Waits until the hand has come to rest. @returns what calls it off. */
export type Rest = (work: () => void) => () => void;

const restsAWhile: Rest = (work) => {
  const id = setTimeout(work, RESTS_MS);
  return () => clearTimeout(id);
};

/**
 * Has the show looked over once for all pages, when the hand has come to rest. One look at a time; an edit made
 * meanwhile brings another.
 */
export function feedChecks(store: Store, checker: Checker, here: HereKeeper, rest: Rest = restsAWhile): Checking {
  const looker = new Looker(store, checker, here, rest);
  let setlistId: string | null = null;
  let machine: readonly unknown[] | null = null;
  let struck: RootState['live']['strikes'] | null = null;
  const follow = (): void => {
    const { show, live, ui, checks } = store.getState();
    if (show.status !== 'ready') return;
    const isSilent = live.strikes !== struck && here.noteStrikes(live.strikes);
    struck = live.strikes;
    const now = [live.sound.midi, live.levels?.voicesPossible ?? null, ui.memory, ui.jumpLu, checks.loads];
    const hasChanged = machine !== null && now.some((value, i) => value !== machine![i]);
    machine = now;
    if (show.setlistId !== setlistId) {
      const isFirst = setlistId === null;
      setlistId = show.setlistId;
      if (isFirst) void looker.look();
      else looker.soon();
    } else if (hasChanged || isSilent) looker.soon();
  };
  store.subscribe(follow);
  follow();
  return {
    changed: (changes) => {
      if (looker.keeper.touch(changes)) looker.soon();
    },
    heard: (event) => {
      if (event.type === 'unanswered' && here.noteProgram(event.heard)) looker.soon();
      else if (event.type === 'jumped') void looker.replan(event.jump);
    },
  };
}

class Looker {
  readonly keeper = new NewsKeeper();
  private isLooking = false;
  private isStale = false;
  private cancel: (() => void) | null = null;
  private told: Here | null = null;
  /** The setlist whose levels were looked at last. */
  private judged: string | null = null;
  private isReplanning = false;
  /** The last that was made while another one was planned. */
  private nextJump: Jump | null = null;

  constructor(
    private readonly store: Store,
    private readonly checker: Checker,
    private readonly here: HereKeeper,
    private readonly rest: Rest,
  ) {}

  soon(): void {
    this.cancel?.();
    this.cancel = this.rest(() => void this.look());
  }

  async look(): Promise<void> {
    this.cancel = null;
    if (this.isLooking) {
      this.isStale = true;
      return;
    }
    const { show } = this.store.getState();
    if (show.status !== 'ready') return;
    this.isLooking = true;
    this.isStale = false;
    try {
      this.store.dispatch(checked(await this.findings(show.working, show.setlistId)));
      this.store.dispatch(planned(await this.plan()));
      await this.judgeLevels(show.setlistId);
    } catch (cause) {
      // Mostly it could not be fetched, with the server gone: the next edit has it try again, from the whole show.
      console.warn('the show could not be looked over', cause);
      this.keeper.forget();
      this.told = null;
    } finally {
      this.isLooking = false;
    }
    if (this.isStale) this.soon();
  }

  /** Plans the rest of the evening from where it has jumped to: one at a time, of several the last. */
  async replan(jump: Jump): Promise<void> {
    this.nextJump = jump;
    if (this.isReplanning) return;
    this.isReplanning = true;
    try {
      while (this.nextJump !== null) {
        const next: Jump = this.nextJump;
        this.nextJump = null;
        const { ui, checks } = this.store.getState();
        const held = await this.checker.planFrom(next, ui.memory, checks.loads);
        if (held !== null) this.store.dispatch(replanned(held));
      }
    } catch (cause) {
      // The whole evening's plan stands; the next look has it asked for again.
      console.warn('the rest of the evening could not be planned', cause);
    } finally {
      this.isReplanning = false;
    }
  }

  private plan(): LoadingChecks | null | Promise<LoadingChecks | null> {
    const { ui, checks } = this.store.getState();
    return this.checker.plan(ui.memory, checks.loads);
  }

  /**
   * What was measured is judged anew: something more may be meant so, and what was edited is not what was measured. Of
   * another setlist it is what earlier visits have measured.
   */
  private async judgeLevels(setlistId: string | null): Promise<void> {
    const isMeasuring = (): boolean => this.store.getState().checks.levels.state === 'running';
    const isOther = setlistId !== this.judged;
    const { state } = this.store.getState().checks.levels;
    if (isMeasuring() || (state === 'none' && !isOther)) return;
    this.judged = setlistId;
    const isKnown = !isOther || (await this.checker.recall());
    const levels = isKnown ? await this.checker.levels(this.store.getState().ui.jumpLu) : null;
    // Measuring may have begun again meanwhile.
    if (!isMeasuring())
      this.store.dispatch(levelled(levels === null ? { state: 'none' } : { state: 'done', ...levels }));
  }

  private async findings(working: Bodies, setlistId: string | null): Promise<Checks> {
    const { checker } = this;
    const news = this.keeper.take(working);
    if (news !== null) this.store.dispatch(outdated());
    if (news !== null && 'whole' in news) await checker.start(news.whole, setlistId);
    else await checker.take(news === null ? NO_NEWS : news.news, setlistId);
    const here = await this.here.read(this.store.getState());
    if (here !== this.told) await checker.learn(here);
    this.told = here;
    return checker.check();
  }
}
