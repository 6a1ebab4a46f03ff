import { useMemo } from 'react';
import type { Finding } from '@rackle/core/soundcheck';
import { useApp, useGear, useIsAlive } from '../../state/hooks';
import { portFindings } from './portFindings';

/** What is wrong with the present setlist, as it was a moment ago, and with tonight’s ports as they are now. */
export function useFindings(): Finding[] {
  const findings = useApp(({ checks }) => checks.findings);
  const gear = useGear();
  const isAlive = useIsAlive();
  const ports = gear ? portFindings(gear, isAlive) : [];
  const missing = ports.map(({ message }) => message).join('|');
  // eslint-disable-next-line react-hooks/exhaustive-deps -- `missing` says when the ports are other ones
  return useMemo(() => [...ports, ...findings], [missing, findings]);
}
