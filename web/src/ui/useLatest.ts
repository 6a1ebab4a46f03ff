import { useCallback, useLayoutEffect, useRef } from 'react';

/**
 * The same function over all renderings, that does what the last one did: for handlers of parts that are drawn only
 * when they change.
 */
export function useLatest<Arguments extends unknown[], Result>(
  work: (...given: Arguments) => Result,
): (...given: Arguments) => Result {
  const latest = useRef(work);
  useLayoutEffect(() => {
    latest.current = work;
  });
  return useCallback((...given: Arguments) => latest.current(...given), []);
}
