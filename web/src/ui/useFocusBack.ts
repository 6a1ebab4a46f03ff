import { useRef } from 'react';
import { keepNewFocus } from './newRow';

interface FocusBack {
  /** For what takes the focus as it opens. */
  onOpenAutoFocus: () => void;
  /** For what gives it on as it closes. */
  onCloseAutoFocus: (event: Event) => void;
}

/**
 * The focus comes back where it came from when what had it closes, unless something else has it by then or has just been
 * made. What a pointer pressed does not get it back: keys are the player's after a click.
 */
export function useFocusBack(): FocusBack {
  const from = useRef<HTMLElement | null>(null);
  return {
    onOpenAutoFocus: () => {
      const { activeElement } = document;
      const isKeyed = activeElement instanceof HTMLElement && activeElement.matches(':focus-visible');
      from.current = isKeyed ? activeElement : null;
    },
    onCloseAutoFocus: (event) => {
      keepNewFocus(event);
      if (event.defaultPrevented) return;
      event.preventDefault();
      const { activeElement, body } = document;
      if (activeElement === null || activeElement === body) from.current?.focus({ preventScroll: true });
    },
  };
}
