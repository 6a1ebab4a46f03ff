import { useEffect, useMemo } from 'react';
import { ClickedFocus, PRESSES, belongsToFocus, isStray, keepFromFocus } from './focusKeys';
import { pageChange } from './pageChange';

/**
 * Keeps keys from what only happens to have the focus: what a pointer left it on, and a page that was not there yet
 * when they were typed.
 *
 * @returns whether a key belongs to what has the focus
 */
export function useFocusKeys(): (event: KeyboardEvent) => boolean {
  const clicked = useMemo(() => new ClickedFocus(), []);
  useEffect(() => {
    const stop = clicked.listen(window);
    const onKey = (event: KeyboardEvent): void => {
      if (!event.isTrusted || event.ctrlKey || event.metaKey || event.altKey) return;
      const { target, key } = event;
      const isInPage = target instanceof Element && target.closest('[data-keys="own"], [role="dialog"]') === null;
      if (isInPage && pageChange.isBetween(event.timeStamp)) return keepFromFocus(event);
      if (!PRESSES.has(key) || !clicked.has(target)) return;
      if (belongsToFocus(key, target, true) || !belongsToFocus(key, target, false)) return;
      (target as HTMLElement).blur();
      keepFromFocus(event);
    };
    window.addEventListener('keydown', onKey, true);
    return () => {
      stop();
      window.removeEventListener('keydown', onKey, true);
    };
  }, [clicked]);
  return (event) => isStray(event) || belongsToFocus(event.key, event.target, clicked.has(event.target));
}
