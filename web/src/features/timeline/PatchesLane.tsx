import { memo } from 'react';
import { tapesOf } from '../../state/tapes';
import { Tape } from '../../ui/Tape';
import { FlagButton, flagProps, type FlagProps } from './FlagButton';
import { Hatching } from './Hatching';
import type { Stretch } from './chartLayout';
import { useChartNow, useTimeline, type ChosenFlags, type FlagHands } from './timelineContext';
import type { SeenOfChart } from './useChartView';

/** A stretch narrower than this has no room for an edge and words. */
const NARROW_PX = 10;

/** The patches as the tape they are, filling the time in which they sound: who plays when. */
export function PatchesLane({
  stretches,
  chosen,
  hands,
  view,
}: {
  stretches: readonly Stretch[];
  chosen: ChosenFlags;
  hands: FlagHands;
  view: SeenOfChart;
}) {
  const { song, map, leads } = useTimeline();
  const { endTick } = map;
  const margin = (view.to - view.from) / 2;
  const inSight = stretches.filter(
    ({ fromTick, toTick }) => toTick / endTick >= view.from - margin && fromTick / endTick <= view.to + margin,
  );
  const tapes = new Map(song.patches.map(({ id }) => [id as string, tapesOf(song, id).join(' ')]));
  return (
    <div data-lane="patches" className="relative isolate mt-1 h-[76px]" role="group" aria-label="patches">
      {inSight.map((stretch) => (
        <StretchTape
          key={stretch.key}
          fromTick={stretch.fromTick}
          toTick={stretch.toTick}
          patchId={stretch.patchId}
          blendId={stretch.blendId}
          tapes={tapes.get(stretch.patchId) || 'bone'}
          px={((stretch.toTick - stretch.fromTick) / endTick) * view.widthPx}
          {...(stretch.flag === null ? {} : flagProps(stretch.flag, chosen, hands))}
        />
      ))}
      <Hatching leads={leads.filter(({ cue }) => cue.kind === 'recall')} className="top-8 bottom-0" />
    </div>
  );
}

/** The time of one recall; what sounds before the first of them hangs from no flag. */
const StretchTape = memo(function StretchTape({
  fromTick,
  toTick,
  patchId,
  blendId,
  tapes,
  px,
  ...flag
}: Omit<Stretch, 'key' | 'flag'> & Partial<FlagProps> & { tapes: string; px: number }) {
  const { map, names } = useChartNow();
  const name = names.target(patchId, blendId);
  return (
    <div
      className="absolute inset-y-0"
      style={{ left: `${(fromTick / map.endTick) * 100}%`, width: `${((toTick - fromTick) / map.endTick) * 100}%` }}
    >
      <div
        aria-hidden
        className={`absolute inset-x-0 top-8 bottom-0 flex flex-col ${flag.cue === undefined ? 'opacity-40' : ''}`}
      >
        {tapes.split(' ').map((tape, i) => (
          <Tape key={i} tape={tape} className="min-h-0 flex-1" />
        ))}
      </div>
      {flag.cue === undefined ? (
        <span className="absolute top-0 left-1 truncate leading-8 text-ink2" style={{ maxWidth: Math.max(0, px - 6) }}>
          before the first recall: {name}
        </span>
      ) : (
        <FlagButton
          {...(flag as FlagProps)}
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
});
