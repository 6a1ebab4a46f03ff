const CHANNEL = 'rackle outbox';

/** The windows of this browser among each other: hints that something was kept, and one at a time at the sending. */
export function browserWindows(windowId: string) {
  const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);
  const locks = typeof navigator === 'undefined' ? undefined : navigator.locks;
  // Held for the window's life: the others see by it that the window is there.
  void locks?.request(`rackle window ${windowId}`, () => new Promise(() => undefined)).catch(() => undefined);
  return {
    announce: (): void => channel?.postMessage(null),
    onHint: (act: () => void): void => {
      if (channel) channel.onmessage = act;
      if (typeof document === 'undefined') return;
      document.addEventListener('visibilitychange', () => {
        if (document.visibilityState === 'visible') act();
      });
    },
    alone: (work: () => Promise<void>): Promise<void> =>
      locks ? Promise.resolve(locks.request('rackle sender', work)) : work(),
    living: async (): Promise<ReadonlySet<string>> => {
      const { held = [] } = (await locks?.query()) ?? {};
      const prefix = 'rackle window ';
      return new Set(held.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : [])));
    },
  };
}
