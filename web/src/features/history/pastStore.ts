import type { Bodies } from '@rackle/core/show';
import type { Store, UnknownAction } from '@reduxjs/toolkit';
import type { EditKeeper } from '../../show/edits';
import { newId } from '../../state/ids';
import type { RootState } from '../../state/store';

/**
 * The store as the pages see it, with a show of the past in it: everything else is as it is now. Edits are refused, and
 * reach nothing.
 * @param refused is told of each
 */
export function pastStore(
  now: Store<RootState>,
  then: { bodies: Bodies; setlistId: string | null },
  refused: () => void,
): Store<RootState> {
  let of: RootState | null = null;
  let past: RootState;
  const getState = (): RootState => {
    const state = now.getState();
    if (state !== of) {
      of = state;
      const setlistId = then.setlistId ?? state.show.setlistId;
      past = { ...state, show: { ...state.show, working: then.bodies, setlistId, past: [], future: [], held: [] } };
    }
    return past;
  };
  const keeper: EditKeeper = {
    take: refused,
    isOpen: () => false,
    newId: () => newId('edit'),
    refuse: refused,
  };
  const dispatch = (action: unknown): unknown => {
    if (typeof action === 'function') return (action as (...given: unknown[]) => unknown)(dispatch, getState, keeper);
    const { type } = action as UnknownAction;
    // What changes the show stays here; what is chosen or opened does no harm.
    return type.startsWith('show/') ? action : now.dispatch(action as UnknownAction);
  };
  return { ...now, getState, dispatch: dispatch as Store['dispatch'] };
}
