import {
  bodyOf,
  changesOf,
  conflicting,
  folded,
  inverted,
  refusalOf,
  type Bodies,
  type Change,
  type Draft,
  type Edit as CoreEdit,
} from '@rackle/core/show';
import type { ThunkAction, UnknownAction } from '@reduxjs/toolkit';
import { made, stepRefused, wentBack, wentForth, type RefusedStep, type ShowState } from './showSlice';

/** One edit as a page makes it: what changes, what it is called in undo, and with which edits before it it makes one. */
export interface Edit extends Draft {
  label: string;
  /** While the same gesture goes on, edits of one key are one. */
  mergeKey?: string;
}

/** Keeps edits from the moment in which they are made. */
export interface EditKeeper {
  take(edit: CoreEdit, open: boolean): void;
  /** Whether this edit may still grow. */
  isOpen(id: string): boolean;
  newId(): string;
  /** Says why an edit was not made. */
  refuse(words: string): void;
}

type Act<T = void> = ThunkAction<T, { show: ShowState }, EditKeeper, UnknownAction>;

/** Makes an edit: at once on the page and in the sound, kept in the same task, saved by itself, undone as one step. */
export const edited =
  ({ label, mergeKey, ...draft }: Edit): Act =>
  (dispatch, getState, keeper) => {
    const { working, past, future } = getState().show;
    const changes = changesOf(working, draft);
    if (changes.length === 0) return;
    const refusal = refusalOf(working, changes);
    if (refusal) return keeper.refuse(`${refusal.message}. Nothing was changed.`);
    if (isTooLarge(changes))
      return keeper.refuse('This is larger than Rackle’s server takes (24 MB). Nothing was changed.');
    const last = past.at(-1);
    const merges =
      mergeKey !== undefined && last?.mergeKey === mergeKey && future.length === 0 && keeper.isOpen(last.edit.id);
    const edit = { id: merges ? last.edit.id : keeper.newId(), label, changes };
    const whole = merges ? { ...edit, changes: folded(last.edit.changes, changes) } : edit;
    keeper.take(whole, mergeKey !== undefined);
    dispatch(made({ edit, mergeKey: mergeKey ?? null, merges }));
  };

/** Few things are never so large; many together may be. */
const SURELY_SMALL = 20;
const LARGEST_CHARACTERS = 23_000_000;
const isTooLarge = (changes: readonly Change[]): boolean =>
  changes.length > SURELY_SMALL && JSON.stringify(changes.map(({ after }) => after)).length > LARGEST_CHARACTERS;

/** Takes the last step back. */
export const undone = (): Act => step('undo');
/** Does again what was taken back. */
export const redone = (): Act => step('redo');

/** A step is a new edit, made only where everything still stands as the step left it. */
const step =
  (direction: RefusedStep['direction']): Act =>
  (dispatch, getState, keeper) => {
    const { working, past, future } = getState().show;
    const from = (direction === 'undo' ? past : future).at(-1);
    if (!from) return;
    const { label } = from.edit;
    const wanted = direction === 'undo' ? inverted(from.edit.changes) : from.edit.changes;
    const why = elsewhere(working, conflicting(working, wanted)) ?? refusalOf(working, wanted)?.message ?? null;
    if (why !== null) return void dispatch(stepRefused({ direction, label, why }));
    const edit = {
      id: keeper.newId(),
      label: `${direction}: ${label}`.slice(0, 200),
      changes: onPresent(working, wanted),
    };
    keeper.take(edit, false);
    dispatch(direction === 'undo' ? wentBack(edit) : wentForth(edit));
  };

const onPresent = (working: Bodies, changes: readonly Change[]): Change[] =>
  changes.map((change) => ({ ...change, before: bodyOf(working, change.kind, change.id) }) as Change);

function elsewhere(working: Bodies, conflicts: readonly Change[]): string | null {
  if (conflicts.length === 0) return null;
  const names = conflicts.map(
    ({ kind, id, before, after }) => (bodyOf(working, kind, id) ?? before ?? after)?.name ?? id,
  );
  return `${names.join(', ')} ${names.length === 1 ? 'has' : 'have'} been changed elsewhere since`;
}
