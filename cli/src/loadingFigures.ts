import { BYTES_IN_MB as MB } from '@rackle/core/show';
import { jumpWaits, planLoading, type LoadTask } from '@rackle/core/loading';
import { cpuMs } from './cpuMs';

/** What planning a long evening of loading takes. */
export interface LoadingFigures {
  /** CPU of a plan of 200 songs of eight steps and 400 presets, ms. */
  planMs: number;
  /** CPU of the waits of all jumps between them, ms. */
  jumpsMs: number;
  loads: number;
  worstWaitMs: number;
}

const SONGS = 200;
const STEPS = 8;
const PRESETS = 400;
const STEP_MS = 30_000;

/** Every song has two presets of its own, and borrows one of any other at each step. */
function longEvening(): LoadTask {
  let seed = 7;
  const among = (count: number): number => {
    seed = (seed * 1_664_525 + 1_013_904_223) >>> 0;
    return seed % count;
  };
  return {
    units: Array.from({ length: PRESETS }, (_, i) => ({
      key: `preset ${i}`,
      bytes: (5 + among(60)) * MB,
      loadMs: 100 + among(1400),
      isPinned: false,
    })),
    stops: Array.from({ length: SONGS * STEPS }, (_, i) => {
      const song = Math.floor(i / STEPS);
      return {
        atMs: i * STEP_MS,
        needs: [among(PRESETS), 2 * song, 2 * song + 1],
        isFirstOfSong: i % STEPS === 0,
      };
    }),
    budgetBytes: 1500 * MB,
    parallel: 2,
    beforeMs: Infinity,
    resident: [],
  };
}

export function loadingFigures(): LoadingFigures {
  const task = longEvening();
  // Once for code that is cold.
  let plan = planLoading(task);
  const planMs = cpuMs(() => (plan = planLoading(task)));
  const jumpsMs = cpuMs(() => jumpWaits(task, plan));
  return { planMs, jumpsMs, loads: plan.cost.loads, worstWaitMs: plan.cost.worstMs };
}
