import { useCallback } from 'react';

let fresh: string | null = null;
let focused: HTMLElement | null = null;

/** How long something that closes may take, to give the focus on. */
const CLOSES_MS = 1000;

/** Something has just been made by hand: its row, when it comes, is what the player goes on with. */
export const madeNow = (id: string): void => void (fresh = id);

/** For what closes, and would give the focus back to where it was: the row of what has just been made has it instead. */
export function keepNewFocus(event: Event): void {
  if (focused === null) return;
  event.preventDefault();
  focused.focus({ preventScroll: true });
}

/** For the row of something: one that has just been made scrolls into sight and gets the focus, once. */
export function useNewRow(id: string): (row: HTMLElement | null) => void {
  return useCallback(
    (row: HTMLElement | null) => {
      if (row === null || fresh !== id) return;
      fresh = null;
      row.scrollIntoView({ block: 'nearest' });
      const field =
        row.tabIndex >= 0
          ? row
          : (row.querySelector<HTMLElement>('input') ?? row.querySelector<HTMLElement>('button, a'));
      field?.focus({ preventScroll: true });
      if (field instanceof HTMLInputElement) field.select();
      focused = field;
      setTimeout(() => {
        if (focused === field) focused = null;
      }, CLOSES_MS);
    },
    [id],
  );
}
