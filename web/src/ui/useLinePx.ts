import { useSyncExternalStore } from 'react';

const FINGER_PX = 44;

const finger = (): MediaQueryList | null => (typeof matchMedia === 'function' ? matchMedia('(pointer: coarse)') : null);
const follow = (onChange: () => void): (() => void) => {
  const query = finger();
  query?.addEventListener('change', onChange);
  return () => query?.removeEventListener('change', onChange);
};

/** The height of a line of a dense list in pixels: its own, or that of a finger where the screen is touched. */
export function useLinePx(px: number): number {
  const isTouched = useSyncExternalStore(follow, () => finger()?.matches ?? false);
  return isTouched ? Math.max(px, FINGER_PX) : px;
}
