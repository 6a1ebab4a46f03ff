import { memo, type CSSProperties, type ReactNode } from 'react';
import { cueSentence } from './cueWords';
import type { Flag } from './chartLayout';
import { useTimeline, type FlagHands } from './timelineContext';

/** A cue as it hangs in the chart: to be chosen, dragged, moved by keys. What is chosen goes along with the hand. */
export const FlagButton = memo(function FlagButton({
  flag,
  hands,
  className,
  left,
  top,
  width,
  maxWidth,
  children,
}: {
  flag: Flag;
  hands: FlagHands;
  className: string;
  left?: string;
  top?: number;
  width?: string;
  maxWidth?: number;
  children?: ReactNode;
}) {
  const { names, showTick } = useTimeline();
  const { cue, atTick, isRepeat } = flag;
  const isChosen = hands.selected.has(cue.id);
  const words = cueSentence(cue, showTick(atTick), names);
  const style: CSSProperties = { left, top, width, maxWidth };
  return (
    <button
      type="button"
      data-cue={cue.id}
      data-tick={atTick}
      aria-pressed={isChosen}
      title={words}
      tabIndex={!isRepeat && cue.id === hands.entry ? 0 : -1}
      className={`touch-none text-left ${isChosen ? 'z-10 outline outline-2 outline-offset-1 outline-ink' : ''} ${isChosen && !isRepeat ? 'translate-x-(--dragged)' : ''} ${cue.off ? 'opacity-40' : ''} ${isRepeat ? 'opacity-70' : 'cursor-grab'} ${className}`}
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
});
