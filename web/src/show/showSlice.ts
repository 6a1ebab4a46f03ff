import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { applied, folded, noBodies, type Bodies, type Change, type Edit } from '@rackle/core/show';
import type { UnreadableItem } from './api';
import type { HeldEdit, OutboxView, SaveState } from './outboxView';

/** A step of undo: an edit, and with which edits after it it makes one. */
export interface Step {
  edit: Edit;
  mergeKey: string | null;
}

/** A step back or forth that cannot be taken, and why. */
export interface RefusedStep {
  direction: 'undo' | 'redo';
  label: string;
  why: string;
}

/** The show as the pages work on it, with its undo. */
export interface ShowState {
  status: 'loading' | 'ready' | 'failed';
  failure: string | null;
  /** The show as it is edited: by kind and id. */
  working: Bodies;
  setlistId: string | null;
  past: Step[];
  future: Step[];
  refusedStep: RefusedStep | null;
  saveState: SaveState;
  held: HeldEdit[];
  unreadable: UnreadableItem[];
}

const UNDO_STEPS = 200;

const initialState: ShowState = {
  status: 'loading',
  failure: null,
  working: noBodies(),
  setlistId: null,
  past: [],
  future: [],
  refusedStep: null,
  saveState: { kind: 'saved', at: null, serial: 0, isAway: false, waiting: 0, message: null, isOnlyHere: false },
  held: [],
  unreadable: [],
};

/** Bodies are values that nobody writes to; drafts of the whole show would only cost time. */
const withChanges = (state: ShowState, changes: readonly Change[]): ShowState => {
  const working = applied(state.working, changes);
  const made = changes.find(({ kind, after }) => kind === 'setlists' && after !== null)?.id ?? null;
  const stands = state.setlistId !== null && Object.hasOwn(working.setlists, state.setlistId);
  const setlistId = stands ? state.setlistId : (made ?? Object.keys(working.setlists)[0] ?? null);
  return { ...state, working, setlistId };
};

const withStep = (steps: readonly Step[], step: Step): Step[] => [...steps, step].slice(-UNDO_STEPS);

/** Every change of it. */
export const showSlice = createSlice({
  name: 'show',
  initialState: initialState as ShowState,
  reducers: {
    loaded(
      state: ShowState,
      { payload }: PayloadAction<{ bodies: Bodies; setlistId: string | null; unreadable?: UnreadableItem[] }>,
    ): ShowState {
      const ids = Object.keys(payload.bodies.setlists);
      const isThere = payload.setlistId !== null && ids.includes(payload.setlistId);
      return {
        ...state,
        working: payload.bodies,
        setlistId: isThere ? payload.setlistId : (ids[0] ?? null),
        status: 'ready',
        past: [],
        future: [],
        refusedStep: null,
        unreadable: payload.unreadable ?? [],
      };
    },
    failed(state: ShowState, { payload }: PayloadAction<string>): ShowState {
      return { ...state, status: 'failed', failure: payload };
    },
    /** An edit was made; `merges`: it is the last one, grown by these changes. */
    made(
      state: ShowState,
      { payload }: PayloadAction<{ edit: Edit; mergeKey: string | null; merges: boolean }>,
    ): ShowState {
      const { edit, mergeKey, merges } = payload;
      const last = state.past.at(-1);
      const next = withChanges(state, edit.changes);
      const past =
        merges && last
          ? [
              ...state.past.slice(0, -1),
              { edit: { ...edit, changes: folded(last.edit.changes, edit.changes) }, mergeKey },
            ]
          : withStep(state.past, { edit, mergeKey });
      const changes = past.at(-1)!.edit.changes;
      return { ...next, past: changes.length === 0 ? past.slice(0, -1) : past, future: [], refusedStep: null };
    },
    /** The last step was taken back, by an edit of its own. */
    wentBack(state: ShowState, { payload }: PayloadAction<Edit>): ShowState {
      const step = state.past.at(-1);
      if (!step) return state;
      const next = withChanges(state, payload.changes);
      return { ...next, past: state.past.slice(0, -1), future: [...state.future, step], refusedStep: null };
    },
    wentForth(state: ShowState, { payload }: PayloadAction<Edit>): ShowState {
      const step = state.future.at(-1);
      if (!step) return state;
      const next = withChanges(state, payload.changes);
      const again = { edit: { ...payload, label: step.edit.label }, mergeKey: null };
      return { ...next, past: withStep(state.past, again), future: state.future.slice(0, -1), refusedStep: null };
    },
    stepRefused(state: ShowState, { payload }: PayloadAction<RefusedStep>): ShowState {
      return { ...state, refusedStep: payload };
    },
    /** Passes over the step that cannot be taken, so that older ones can be reached. */
    stepSkipped(state: ShowState): ShowState {
      if (!state.refusedStep) return state;
      const of = state.refusedStep.direction === 'undo' ? 'past' : 'future';
      return { ...state, [of]: state[of].slice(0, -1), refusedStep: null };
    },
    /** Other windows' edits, or a version from elsewhere: no step of this window's. */
    synced(state: ShowState, { payload }: PayloadAction<Change[]>): ShowState {
      return withChanges(state, payload);
    },
    /** What stands elsewhere was taken in place of ours: one step, whose undo saves ours on top. */
    tookTheirs(state: ShowState, { payload }: PayloadAction<Edit>): ShowState {
      if (payload.changes.length === 0) return state;
      return { ...state, past: withStep(state.past, { edit: payload, mergeKey: null }), future: [] };
    },
    /** What the server cannot read, as it says now. */
    unreadableHeard(state: ShowState, { payload }: PayloadAction<UnreadableItem[]>): ShowState {
      return { ...state, unreadable: payload };
    },
    setlistChosen(state: ShowState, { payload }: PayloadAction<string>): ShowState {
      return { ...state, setlistId: payload };
    },
    outboxChanged(state: ShowState, { payload }: PayloadAction<OutboxView>): ShowState {
      return { ...state, ...payload };
    },
    readable(state: ShowState, { payload }: PayloadAction<{ kind: string; id: string }>): ShowState {
      const unreadable = state.unreadable.filter(({ kind, id }) => kind !== payload.kind || id !== payload.id);
      return { ...state, unreadable };
    },
  },
});

export const {
  loaded,
  failed,
  made,
  wentBack,
  wentForth,
  stepRefused,
  stepSkipped,
  synced,
  tookTheirs,
  unreadableHeard,
  setlistChosen,
  outboxChanged,
  readable,
} = showSlice.actions;
