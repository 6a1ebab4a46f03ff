import { useEffect } from 'react';

/** Keeps the screen awake while it is wanted; taken up again when the page comes back into view. */
export function useWakeLock(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let sentinel: WakeLockSentinel | null = null;
    let over = false;
    const take = async (): Promise<void> => {
      if (document.visibilityState !== 'visible' || over) return;
      // Refused (low battery, no permission): the screen follows the machine's own settings.
      sentinel = await navigator.wakeLock.request('screen').catch(() => null);
      if (over) void sentinel?.release();
    };
    const onVisible = (): void => void take();
    document.addEventListener('visibilitychange', onVisible);
    void take();
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', onVisible);
      void sentinel?.release();
    };
  }, [wanted]);
}
