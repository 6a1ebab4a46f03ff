import { useEffect } from 'react';
import { useApp } from '../../state/hooks';
import { useTimeline } from './timelineContext';
import type { ChartView } from './useChartView';

/** Where the timeline stands, over the whole chart; what is played over and over lies in brackets. */
export function Playhead({ view }: { view: ChartView }) {
  const { map, here, showTick } = useTimeline();
  const transport = useApp(({ live }) => live.transport);
  const tick = here ? transport.tick : 0;
  const share = Math.min(1, tick / map.endTick);
  const { bringInSight, follows } = view;
  useEffect(() => {
    if (follows && transport.playing && here) bringInSight(share);
  }, [share, follows, transport.playing, here, bringInSight]);
  const { loop } = transport;
  return (
    <>
      {here && loop !== null && (
        <span
          aria-hidden
          data-testid="loop"
          className="pointer-events-none absolute top-0 h-8 border-x-4 border-t-2 border-ink"
          style={{
            left: `${(loop.fromTick / map.endTick) * 100}%`,
            width: `${((Math.min(loop.toTick, map.endTick) - loop.fromTick) / map.endTick) * 100}%`,
          }}
        />
      )}
      <span className="pointer-events-none absolute inset-y-0 w-0.5 bg-live" style={{ left: `${share * 100}%` }}>
        <span
          data-testid="playhead"
          className={`mono absolute top-0 whitespace-nowrap bg-[#bd3212] px-1 text-[11px] text-white ${share > 0.85 ? 'right-0' : 'left-0'}`}
        >
          {showTick(tick)}
        </span>
      </span>
    </>
  );
}
