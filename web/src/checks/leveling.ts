import type { Stereo } from '@rackle/core/loudness';
import type { LevelResult, LevelTake, PlayedKey } from '@rackle/core/soundcheck';
import type { HostConnection } from '../protocol';
import type { Store } from '../state/store';
import { levelled } from './checksSlice';

/** So many different keys of what was last played are struck in each patch. */
const MOST_PLAYED = 10;

/** A take with the name that it is measured by. */
export interface NamedTake {
  key: string;
  take: LevelTake;
}

/** Levels of the show as it was when its takes were recorded; stale: it has been edited since. */
export type Levels = LevelResult & { isStale: boolean };

/** The worker's end of the levels. */
export interface LevelChecker {
  /** Has the engine play every step. @returns what is to be rendered of it and was not before; null: there is nothing */
  recordTakes(played: readonly PlayedKey[]): Promise<NamedTake[] | null>;
  /** Takes up what was measured in earlier visits. @returns whether there is anything of this setlist */
  recall(): boolean | Promise<boolean>;
  /** Measures what was rendered. */
  measure(key: string, sound: Stereo): unknown;
  /** What the levels come to; null: no takes were recorded. */
  levels(jumpLu: number): Levels | null | Promise<Levels | null>;
}

/** Has every patch rendered by the running side and measured beside the pages. */
export interface Leveling {
  start(): void;
  callOff(): void;
}

export function leveling(store: Store, host: Pick<HostConnection, 'post' | 'listen'>, checker: LevelChecker): Leveling {
  let run = 0;
  const render = renderer(host);

  /** @returns whether it was gone through to its end. */
  const measureAll = async (takes: readonly NamedTake[], isOn: () => boolean): Promise<boolean> => {
    for (const [done, { key, take }] of takes.entries()) {
      store.dispatch(levelled({ state: 'running', done, of: takes.length }));
      const sound = await render(take);
      if (!isOn()) return false;
      if (sound !== null) await checker.measure(key, sound);
      if (!isOn()) return false;
    }
    return true;
  };

  const start = async (): Promise<void> => {
    const { checks, live, ui } = store.getState();
    if (checks.levels.state === 'running') return;
    const mine = ++run;
    const isOn = (): boolean => run === mine;
    store.dispatch(levelled({ state: 'running', done: 0, of: 0 }));
    try {
      const takes = await checker.recordTakes(lastPlayed(live.strikes));
      if (!isOn()) return;
      const isDone = takes !== null && (await measureAll(takes, isOn));
      if (!isOn()) return;
      const levels = isDone ? await checker.levels(ui.jumpLu) : null;
      store.dispatch(levelled(levels === null ? { state: 'none' } : { state: 'done', ...levels }));
    } catch (cause) {
      console.warn('levels could not be measured', cause);
      if (isOn()) store.dispatch(levelled({ state: 'none' }));
    }
  };

  return {
    start: () => void start(),
    // What has been measured is kept: the next run goes on from there.
    callOff: () => {
      run++;
      store.dispatch(levelled({ state: 'none' }));
    },
  };
}

/** Asks the running side for one take at a time; one that was started anew meanwhile is asked again. */
function renderer(host: Pick<HostConnection, 'post' | 'listen'>): (take: LevelTake) => Promise<Stereo | null> {
  let asked: { number: number; take: LevelTake; settle: (sound: Stereo | null) => void } | null = null;
  let number = 0;
  host.listen((event) => {
    if (event.type === 'askShow' && asked !== null) host.post({ type: 'renderTake', number, take: asked.take });
    if (event.type !== 'takeRendered' || event.number !== asked?.number) return;
    const { settle } = asked;
    asked = null;
    settle(event.sound);
  });
  return (take) =>
    new Promise((settle) => {
      asked = { number: ++number, take, settle };
      host.post({ type: 'renderTake', number, take });
    });
}

/** The last different keys, each as hard as it was struck last. */
function lastPlayed(strikes: readonly PlayedKey[]): PlayedKey[] {
  const byKey = new Map<number, PlayedKey>();
  for (const { key, velocity } of [...strikes].reverse())
    if (byKey.size < MOST_PLAYED && !byKey.has(key)) byKey.set(key, { key, velocity });
  return [...byKey.values()];
}
