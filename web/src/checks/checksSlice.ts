import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { NO_CHECKS, type Checks } from './checks';

/** What was found over the whole show, and of which state of it. */
export interface ChecksState extends Checks {
  /** Whether the show has been looked over since it was opened. */
  isDone: boolean;
}

const initialState: ChecksState = { ...NO_CHECKS, isDone: false };

/** What the checks over the whole show have found, worked out beside the pages a moment after the last edit. */
export const checksSlice = createSlice({
  name: 'checks',
  initialState,
  reducers: {
    checked: (_state, { payload }: PayloadAction<Checks>) => ({ ...payload, isDone: true }),
  },
});

/** The worker has looked. */
export const { checked } = checksSlice.actions;
