import { USUAL_BUDGET_MB, USUAL_JUMP_LU } from '../protocol';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What is open and chosen. Only what `remembered.ts` names outlives the window. */
export interface UiState {
  benchOpen: boolean;
  monitorOpen: boolean;
  paletteOpen: boolean;
  keysOpen: boolean;
  /** Learn was asked for, and the running side has not answered yet. */
  learnAsked: boolean;
  /** What waits to be settled of what was edited. */
  keepingOpen: boolean;
  /** The stage lock: on any page the strip and the links only move the cursor. */
  locked: boolean;
  night: boolean;
  /** Single letters are shortcuts (S, L, B, M, P). */
  letterKeys: boolean;
  /** At home: a patch that is looked at on its sheet is recalled. Never while the lock is on. */
  playLooked: boolean;
  /** How much memory sounds may take on this machine, and which of them stay in it. */
  memory: { budgetMb: number; pins: { instrumentId: string; presetId: string }[] };
  /** More than this between the levels of neighbours is told, in LU. */
  jumpLu: number;
  /** A newer version waits; `putOff`: it could not be taken just now. */
  newVersion: 'waits' | 'putOff' | null;
  /** Shared layers whose changes are meant everywhere: answered once a visit. */
  changedEverywhere: string[];
  /** Patch, blend and layer that are looked at, by song. */
  chosen: Record<string, { patchId: string | null; blendId: string | null; layerId: string | null }>;
}

/** What is the same on the next visit. */
export type Remembered = Pick<UiState, 'night' | 'letterKeys' | 'playLooked' | 'memory' | 'jumpLu'>;

const initialState: UiState = {
  benchOpen: false,
  monitorOpen: false,
  paletteOpen: false,
  keysOpen: false,
  learnAsked: false,
  keepingOpen: false,
  locked: false,
  night: false,
  letterKeys: true,
  playLooked: false,
  memory: { budgetMb: USUAL_BUDGET_MB, pins: [] },
  jumpLu: USUAL_JUMP_LU,
  newVersion: null,
  changedEverywhere: [],
  chosen: {},
};

/** Every change of it. */
export const uiSlice = createSlice({
  name: 'ui',
  initialState,
  reducers: {
    toggled(
      state,
      {
        payload,
      }: PayloadAction<
        | 'benchOpen'
        | 'monitorOpen'
        | 'paletteOpen'
        | 'keysOpen'
        | 'keepingOpen'
        | 'locked'
        | 'night'
        | 'letterKeys'
        | 'playLooked'
      >,
    ) {
      state[payload] = !state[payload];
    },
    /** What this browser kept of an earlier visit. */
    remembered(state, { payload }: PayloadAction<Partial<Remembered>>) {
      Object.assign(state, payload);
    },
    jumpWished(state, { payload }: PayloadAction<number>) {
      state.jumpLu = payload;
    },
    memoryWished(state, { payload }: PayloadAction<Partial<UiState['memory']>>) {
      state.memory = { ...state.memory, ...payload };
    },
    learnAsked(state, { payload }: PayloadAction<boolean>) {
      state.learnAsked = payload;
    },
    newVersionCame(state) {
      state.newVersion = 'waits';
    },
    newVersionPutOff(state) {
      state.newVersion = 'putOff';
    },
    newVersionClosed(state) {
      state.newVersion = null;
    },
    keepingShown(state) {
      state.keepingOpen = true;
    },
    closed(state, { payload }: PayloadAction<'paletteOpen' | 'keysOpen'>) {
      state[payload] = false;
    },
    changesMeantEverywhere(state, { payload }: PayloadAction<string>) {
      state.changedEverywhere.push(payload);
    },
    chose(
      state,
      {
        payload,
      }: PayloadAction<{ songId: string; patchId?: string | null; blendId?: string | null; layerId?: string | null }>,
    ) {
      const { songId, ...rest } = payload;
      state.chosen[songId] = { ...(state.chosen[songId] ?? { patchId: null, blendId: null, layerId: null }), ...rest };
    },
  },
});

/** A switch of the frame is turned over. */
export const {
  toggled,
  learnAsked,
  remembered,
  changesMeantEverywhere,
  closed,
  chose,
  jumpWished,
  memoryWished,
  keepingShown,
  newVersionCame,
  newVersionPutOff,
  newVersionClosed,
} = uiSlice.actions;
