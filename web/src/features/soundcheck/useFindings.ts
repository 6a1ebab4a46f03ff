import type { Finding } from '@rackle/core/soundcheck';
import { useApp, useGear, useIsAlive } from '../../state/hooks';
import { portFindings } from './portFindings';

/** What is wrong with the present setlist, as it was a moment ago, and with tonight’s ports as they are now. */
export function useFindings(): Finding[] {
  const findings = useApp(({ checks }) => checks.findings);
  const gear = useGear();
  const isAlive = useIsAlive();
  return gear ? [...portFindings(gear, isAlive), ...findings] : findings;
}
