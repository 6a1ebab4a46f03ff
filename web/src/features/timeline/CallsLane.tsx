import { memo } from 'react';
import { callWords, type SongCall } from './useCalls';
import { useChartNow } from './timelineContext';
import type { SeenOfChart } from './useChartView';

/** Nearer than this they stand without words. */
const NARROW_PX = 22;

/** What another player has called in the last run, where the playhead was; inked where a cue recalls the same. */
export const CallsLane = memo(function CallsLane({ calls, view }: { calls: readonly SongCall[]; view: SeenOfChart }) {
  const { map, showTick } = useChartNow();
  if (calls.length === 0) return null;
  const ports = [...new Set(calls.map(({ port }) => port))].join(', ');
  return (
    <div className="relative isolate h-[46px] border-t border-rule" role="group" aria-label={`called by ${ports}`}>
      <span className="sticky left-0 z-10 block h-[18px] w-fit bg-ground pr-2 pl-1 text-[11px] leading-[18px] text-ink2">
        called by {ports}
      </span>
      {calls.map((call, i) => {
        const roomPx = (((calls[i + 1]?.tick ?? map.endTick) - call.tick) / map.endTick) * view.widthPx;
        return (
          <span
            key={`${call.tick} ${call.position}`}
            dir="auto"
            title={callWords(call, showTick)}
            className={`absolute top-[18px] h-7 min-w-2.5 truncate border-l-2 border-dashed border-ink pl-1 leading-7 whitespace-nowrap ${call.cueTick === null ? '' : 'bg-ink text-ground'}`}
            style={{ left: `${(call.tick / map.endTick) * 100}%`, maxWidth: Math.max(10, roomPx - 3) }}
          >
            {roomPx > NARROW_PX && (
              <>
                <b>{call.name}</b>
                {call.cueTick === null ? '' : ' twice'}
              </>
            )}
          </span>
        );
      })}
    </div>
  );
});
