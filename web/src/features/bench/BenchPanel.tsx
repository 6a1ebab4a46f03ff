import { useCallback } from 'react';
import type { BenchGesture } from '../../protocol';
import { useApp, useHost, useSetlist } from '../../state/hooks';
import { Elsewhere } from './Elsewhere';
import { Feet } from './Feet';
import { Hands } from './Hands';

/** Simulated gear: each device is a port like any other. */
export function BenchPanel() {
  const host = useHost();
  const bench = useApp(({ live }) => live.bench);
  const programsFrom = useSetlist()?.programsFrom ?? 1;
  const send = useCallback((gesture: BenchGesture): void => host.post({ type: 'bench', gesture }), [host]);
  if (!bench) return <div className="flex-1 p-3 text-ink2">The bench is being set up …</div>;
  return (
    <div className="flex min-w-0 flex-[4] flex-wrap content-start overflow-auto" data-testid="bench">
      <Hands bench={bench} send={send} />
      <Feet bench={bench} send={send} programsFrom={programsFrom} />
      <Elsewhere bench={bench} send={send} programsFrom={programsFrom} />
    </div>
  );
}
