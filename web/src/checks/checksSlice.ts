import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { HeldByStep } from '@rackle/core/loading';
import type { LoadTimes } from '../live/loadTimes';
import { NO_CHECKS, type Checks, type LoadingChecks, type LevelsState, type SimulationState } from './checks';

/** What was found over the whole show, and of which state of it. */
export interface ChecksState extends Checks {
  /** Whether the show has been looked over since it was opened. */
  isDone: boolean;
  /** Null: not planned yet. */
  loading: LoadingChecks | null;
  /** What the rest of the evening has in memory since it has gone another way than planned; null: it has not. */
  fromHere: HeldByStep | null;
  simulation: SimulationState;
  levels: LevelsState;
  /** How long what has to be loaded took on this machine, where it has. */
  loads: LoadTimes;
}

const initialState: ChecksState = {
  ...NO_CHECKS,
  isDone: false,
  loading: null,
  fromHere: null,
  simulation: { state: 'none' },
  levels: { state: 'none' },
  loads: {},
};

/** What the checks over the whole show have found, worked out beside the pages a moment after the last edit. */
export const checksSlice = createSlice({
  name: 'checks',
  initialState,
  reducers: {
    checked: (state, { payload }: PayloadAction<Checks>) => ({
      ...state,
      ...payload,
      isDone: true,
    }),
    outdated: (state) => ({
      ...state,
      simulation: state.simulation.state === 'done' ? { ...state.simulation, isStale: true } : state.simulation,
    }),
    simulated: (state, { payload }: PayloadAction<SimulationState>) => ({ ...state, simulation: payload }),
    levelled: (state, { payload }: PayloadAction<LevelsState>) => ({ ...state, levels: payload }),
    loadsMeasured: (state, { payload }: PayloadAction<LoadTimes>) => ({ ...state, loads: payload }),
    planned: (state, { payload }: PayloadAction<LoadingChecks | null>) => ({ ...state, loading: payload }),
    replanned: (state, { payload }: PayloadAction<HeldByStep>) => ({ ...state, fromHere: payload }),
  },
});

/** The worker has looked, planned or played; what it played is of an older state of the show. */
export const { checked, levelled, loadsMeasured, planned, replanned, simulated, outdated } = checksSlice.actions;
