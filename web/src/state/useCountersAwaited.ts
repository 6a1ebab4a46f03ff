import { useApp, useGear, useIsAlive } from './hooks';

/** Counting controllers of which nothing is known yet: the first number of each only says where it stands. */
export function useCountersAwaited(): string[] {
  const gear = useGear();
  const isAlive = useIsAlive();
  const last = useApp(({ live }) => live.restart.last);
  if (last === null) return [];
  return (gear?.ports ?? []).flatMap((port) =>
    port.direction === 'in' &&
    port.on &&
    port.programs.kind === 'counter' &&
    isAlive(port) &&
    !last.counters.some(({ device }) => device === port.device)
      ? [port.alias as string]
      : [],
  );
}
