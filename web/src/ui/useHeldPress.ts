import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';

/** How long a finger has to stay on what must be held. */
export const HOLD_MS = 300;

interface HeldPress {
  isHolding: boolean;
  handlers: {
    onPointerDown: (event: PointerEvent) => void;
    onPointerUp: () => void;
    onPointerLeave: () => void;
    onPointerCancel: () => void;
    onKeyDown: (event: KeyboardEvent) => void;
    onClick: (event: MouseEvent) => void;
  };
}

/**
 * For a button on stage: it acts at once, or where an accidental touch must do nothing, once it has been held. A key
 * acts at once.
 * @param mustHold for a pointer of this kind
 */
export function useHeldPress(act: () => void, mustHold: (pointer: string) => boolean): HeldPress {
  const [isHolding, setIsHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const release = (): void => {
    setIsHolding(false);
    clearTimeout(timer.current);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return {
    isHolding,
    handlers: {
      onPointerDown: ({ pointerType }) => {
        if (!mustHold(pointerType)) return act();
        setIsHolding(true);
        timer.current = setTimeout(() => {
          release();
          act();
        }, HOLD_MS);
      },
      onPointerUp: release,
      onPointerLeave: release,
      onPointerCancel: release,
      onKeyDown: (event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        if (!event.repeat) act();
      },
      // What reads the page aloud presses without either.
      onClick: ({ detail }) => {
        if (detail === 0) act();
      },
    },
  };
}
