import { memo } from 'react';
import { tapesOf } from '../../state/tapes';
import { Tape } from '../../ui/Tape';
import { FlagButton } from './FlagButton';
import type { Stretch } from './chartLayout';
import { useTimeline, type FlagHands } from './timelineContext';
import type { SeenOfChart } from './useChartView';

/** A stretch narrower than this has no room for an edge and words. */
const NARROW_PX = 10;

/** The patches as the tape they are, filling the time in which they sound: who plays when. */
export const PatchesLane = memo(function PatchesLane({
  stretches,
  hands,
  view,
}: {
  stretches: readonly Stretch[];
  hands: FlagHands;
  view: SeenOfChart;
}) {
  const { map } = useTimeline();
  const { endTick } = map;
  const margin = (view.to - view.from) / 2;
  const inSight = stretches.filter(
    ({ fromTick, toTick }) => toTick / endTick >= view.from - margin && fromTick / endTick <= view.to + margin,
  );
  return (
    <div data-lane="patches" className="relative mt-1 h-[76px]" role="group" aria-label="patches">
      {inSight.map((stretch) => (
        <StretchTape key={stretch.key} stretch={stretch} hands={hands} view={view} />
      ))}
    </div>
  );
});

function StretchTape({ stretch, hands, view }: { stretch: Stretch; hands: FlagHands; view: SeenOfChart }) {
  const { song, map, names } = useTimeline();
  const { fromTick, toTick, patchId, blendId, flag } = stretch;
  const tapes = tapesOf(song, patchId);
  const px = ((toTick - fromTick) / map.endTick) * view.widthPx;
  const name = names.target(patchId, blendId);
  return (
    <div
      className="absolute inset-y-0"
      style={{ left: `${(fromTick / map.endTick) * 100}%`, width: `${((toTick - fromTick) / map.endTick) * 100}%` }}
    >
      <div
        aria-hidden
        className={`absolute inset-x-0 top-8 bottom-0 flex flex-col ${flag === null ? 'opacity-40' : ''}`}
      >
        {(tapes.length > 0 ? tapes : ['bone']).map((tape, i) => (
          <Tape key={i} tape={tape} className="min-h-0 flex-1" />
        ))}
      </div>
      {flag === null ? (
        <span className="absolute top-0 left-1 truncate leading-8 text-ink2" style={{ maxWidth: Math.max(0, px - 6) }}>
          before the first recall: {name}
        </span>
      ) : (
        <FlagButton
          flag={flag}
          hands={hands}
          // Where many stand close by, their edges would hide what they are the edges of.
          className={`absolute inset-y-0 left-0 flex items-start gap-1.5 overflow-hidden whitespace-nowrap ${px > NARROW_PX ? 'border-l-2 border-ink pl-1.5' : 'w-1'}`}
          maxWidth={Math.max(10, px - 2)}
        >
          {px > NARROW_PX && (
            <>
              <span className="mono pt-1.5 text-xs">{names.number(patchId, blendId)}</span>
              <span className="named text-xl leading-8" dir="auto">
                {name}
              </span>
            </>
          )}
        </FlagButton>
      )}
    </div>
  );
}
