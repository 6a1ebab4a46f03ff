import { createContext, use, useMemo, useState, type ReactNode } from 'react';
import type { Song } from '@rackle/core/show';
import { cueWords } from './cueWords';
import { useChartNow, useTimeline } from './timelineContext';

/** A song, and what is proposed for it. */
interface Proposed {
  of: Song;
  next: Song;
}
type Show = (proposed: Proposed | null) => void;
const ShownContext = createContext<Proposed | null>(null);
const ShowContext = createContext<Show>(() => undefined);

/** What is proposed under the pointer or the focus, for the chart to draw before it is done. */
export function Proposals({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Proposed | null>(null);
  return (
    <ShowContext value={setShown}>
      <ShownContext value={shown}>{children}</ShownContext>
    </ShowContext>
  );
}

/** For a button that does something to the song: it is drawn while pointer or focus are on it, and done by a press. */
export function useProposal(): (
  label: string,
  next: () => Song,
) => {
  onPointerEnter: () => void;
  onPointerLeave: () => void;
  onFocus: () => void;
  onBlur: () => void;
  onClick: () => void;
} {
  const show = use(ShowContext);
  const { song, change } = useTimeline();
  return (label, next) => {
    const draw = (): void => show({ of: song, next: next() });
    const hide = (): void => show(null);
    return {
      onPointerEnter: draw,
      onPointerLeave: hide,
      onFocus: draw,
      onBlur: hide,
      onClick: () => change(label, next()),
    };
  };
}

/** Where cues would stand: a dashed flag each, and its way from where it stands now. */
export function ProposedCues() {
  const { song } = useTimeline();
  const { map, names, showTick } = useChartNow();
  const shown = use(ShownContext);
  const moves = useMemo(() => {
    // What was proposed for the song as it was is over.
    if (shown?.of !== song) return [];
    const ticks = new Map(song.cues.map(({ id, atTick }) => [id, atTick]));
    return shown.next.cues.flatMap((cue) => {
      const fromTick = ticks.get(cue.id);
      return fromTick === cue.atTick ? [] : [{ cue, fromTick: fromTick ?? cue.atTick }];
    });
  }, [song, shown]);
  const share = (tick: number): string => `${(tick / map.endTick) * 100}%`;
  return moves.map(({ cue, fromTick }) => (
    <span key={cue.id} aria-hidden data-testid="proposed" className="pointer-events-none absolute inset-0 z-20">
      <span
        className="absolute inset-y-0 border-l-2 border-dashed border-ink"
        style={{ left: share(Math.min(fromTick, cue.atTick)), width: share(Math.abs(fromTick - cue.atTick)) }}
      >
        <span className="absolute inset-x-0 bottom-6 border-b-2 border-dashed border-ink" />
        <span
          className={`absolute bottom-0 bg-ink px-1.5 leading-5 whitespace-nowrap text-ground ${cue.atTick > map.endTick * 0.85 ? 'right-0' : 'left-0'}`}
        >
          <b>{cueWords(cue, names).value}</b> <span className="mono">{showTick(cue.atTick)}</span>
        </span>
      </span>
    </span>
  ));
}
