import { useApp, useGear, useIsAlive } from './hooks';

/** Counting controllers of which nothing is known yet: the first number of each only says where it stands. */
export function useCountersAwaited(): string[] {
  const gear = useGear();
  const isAlive = useIsAlive();
  // By their devices: where a set stands changes all the while, which counters are known hardly ever.
  const known = useApp(({ live }) => live.restart.last?.counters.map(({ device }) => device).join('\n') ?? null);
  if (known === null) return [];
  const devices = known.split('\n');
  return (gear?.ports ?? []).flatMap((port) =>
    port.direction === 'in' &&
    port.on &&
    port.programs.kind === 'counter' &&
    isAlive(port) &&
    !devices.includes(port.device)
      ? [port.alias as string]
      : [],
  );
}
