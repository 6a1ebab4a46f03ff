import { type CSSProperties, type ReactNode } from 'react';
import { cueSentence } from './cueWords';
import type { Flag } from './chartLayout';
import { useChartNow, type ChosenFlags, type FlagHands } from './timelineContext';

/** What each flag is drawn from; the same as long as nothing of it changes. */
export interface FlagProps extends Omit<Flag, 'key'> {
  isChosen: boolean;
  /** The Tab key comes to it. */
  isEntry: boolean;
  hands: FlagHands;
}

/** What a flag is drawn from. */
export const flagProps = ({ cue, atTick, isRepeat }: Flag, chosen: ChosenFlags, hands: FlagHands): FlagProps => ({
  cue,
  atTick,
  isRepeat,
  isChosen: chosen.selected.has(cue.id),
  isEntry: !isRepeat && cue.id === chosen.entry,
  hands,
});

/** A cue as it hangs in the chart: to be chosen, dragged, moved by keys. What is chosen goes along with the hand. */
export function FlagButton({
  cue,
  atTick,
  isRepeat,
  isChosen,
  isEntry,
  hands,
  className,
  left,
  top,
  width,
  maxWidth,
  children,
}: FlagProps & {
  className: string;
  left?: string;
  top?: number;
  width?: string;
  maxWidth?: number;
  children?: ReactNode;
}) {
  const { names, showTick } = useChartNow();
  const words = cueSentence(cue, showTick(atTick), names);
  const style: CSSProperties = { left, top, width, maxWidth };
  return (
    <button
      type="button"
      data-cue={cue.id}
      data-tick={atTick}
      aria-pressed={isChosen}
      data-repeated={isRepeat || undefined}
      title={words}
      tabIndex={isEntry ? 0 : -1}
      className={`touch-none text-left ${isChosen ? 'z-10 outline outline-2 outline-offset-1 outline-ink' : ''} ${cue.off ? 'opacity-40' : ''} ${isRepeat ? 'opacity-70' : 'cursor-grab'} ${className}`}
      style={style}
      onPointerDown={(event) => (isRepeat ? event.stopPropagation() : hands.onPointerDown(event, cue))}
      onPointerMove={hands.onPointerMove}
      onPointerUp={hands.onPointerUp}
      onPointerCancel={hands.onPointerUp}
      // By a key: what a pointer does has been done when it went down.
      onClick={(event) => (event.detail === 0 && !isRepeat ? hands.toggle(cue) : undefined)}
    >
      {/* What stands on it is too short to be read out. */}
      <span className="sr-only">{isRepeat ? `${words}, repeated` : words}</span>
      <span aria-hidden className="contents">
        {children}
      </span>
    </button>
  );
}
