import { useEffect, useRef } from 'react';
import { useGear, useIsAlive } from '../state/hooks';
import { useCountersAwaited } from '../state/useCountersAwaited';
import { say } from './say';

/** Says what the first press of a counting controller was for, when it comes: it steps nowhere, which looks like a fault. */
export function CountersFound() {
  const awaited = useCountersAwaited();
  const gear = useGear();
  const isAlive = useIsAlive();
  const before = useRef<readonly string[]>([]);
  const names = awaited.join('\n');
  useEffect(() => {
    const now = names === '' ? [] : names.split('\n');
    for (const alias of before.current) {
      const port = gear?.ports.find((one) => one.alias === alias);
      if (now.includes(alias) || !port || !isAlive(port)) continue;
      const words = `${alias}: now it is known where it stands. From the next press on it steps.`;
      say(words, { duration: 6000 });
    }
    before.current = now;
  }, [names, gear, isAlive]);
  return null;
}
