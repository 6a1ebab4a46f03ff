import { memo, useMemo } from 'react';
import { backingEvents, eventsByTick, type BackingPart, type Section } from '@rackle/core/show';
import { useChartNow } from './timelineContext';
import type { SeenOfChart } from './useChartView';

const ROLL_PX = 40;
const HEAD_PX = 18;

/** A backing part as a small roll: its notes along the time, by key. */
export const BackingLane = memo(function BackingLane({
  part,
  sections,
  isFolded,
  onFold,
  view,
}: {
  part: BackingPart;
  sections: readonly Section[];
  isFolded: boolean;
  onFold: (id: string) => void;
  view: SeenOfChart;
}) {
  const { endTick } = useChartNow().map;
  const { events } = part;
  const notes = useMemo(
    () =>
      eventsByTick(backingEvents({ events }), sections).flatMap((event) =>
        event.kind === 'note' && event.atTick < endTick ? [event] : [],
      ),
    [events, sections, endTick],
  );
  const path = useMemo(() => (isFolded ? '' : rollPath(notes, endTick, view)), [notes, endTick, view, isFolded]);
  const about = `${part.name}: a backing part of ${notes.length} note${notes.length === 1 ? '' : 's'}${part.off ? ', switched off' : ''}`;
  return (
    <div
      className={`relative isolate border-t border-rule ${part.off ? 'opacity-40' : ''}`}
      style={{ height: isFolded ? 20 : HEAD_PX + ROLL_PX }}
      role="group"
      aria-label={about}
    >
      <button
        type="button"
        aria-expanded={!isFolded}
        className="sticky left-0 z-10 block h-[18px] max-w-72 truncate bg-ground pr-2 pl-1 text-[11px] leading-[18px] text-ink2"
        onClick={() => onFold(part.id)}
      >
        {isFolded ? '▸' : '▾'} <bdi>{part.name}</bdi>
      </button>
      {!isFolded && (
        <svg
          aria-hidden
          className="pointer-events-none absolute inset-x-0 w-full"
          style={{ top: HEAD_PX, height: ROLL_PX }}
          viewBox={`0 0 ${endTick} ${ROLL_PX}`}
          preserveAspectRatio="none"
        >
          <path d={path} fill="none" stroke="var(--ink)" strokeWidth={2} vectorEffect="non-scaling-stroke" />
        </svg>
      )}
    </div>
  );
});

/** Lines of the notes in sight; where several would fall on one point, one is drawn. */
function rollPath(
  notes: readonly { atTick: number; endTick: number; key: number }[],
  endTick: number,
  view: SeenOfChart,
): string {
  if (notes.length === 0) return '';
  let [low, high] = [127, 0];
  for (const { key } of notes) {
    low = Math.min(low, key);
    high = Math.max(high, key);
  }
  const margin = (view.to - view.from) / 2;
  const [from, to] = [(view.from - margin) * endTick, (view.to + margin) * endTick];
  const tickOfPx = endTick / Math.max(1, view.widthPx);
  const drawnTo = new Float64Array(128).fill(-1);
  const lines: string[] = [];
  for (const { atTick, endTick: end, key } of notes) {
    if (atTick > to || end < from || end < drawnTo[key] + tickOfPx) continue;
    const y = 2 + (1 - (key - low) / Math.max(1, high - low)) * (ROLL_PX - 6);
    lines.push(`M${Math.round(atTick)} ${y.toFixed(1)}H${Math.round(Math.max(end - tickOfPx, atTick + tickOfPx))}`);
    drawnTo[key] = end;
  }
  return lines.join('');
}
