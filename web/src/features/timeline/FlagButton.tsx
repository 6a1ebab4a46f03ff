import type { CSSProperties, ReactNode } from 'react';
import { cueSentence } from './cueWords';
import type { Flag } from './chartLayout';
import { useTimeline } from './timelineContext';
import type { CueHands } from './useCueHands';

/** A cue as it hangs in the chart: to be chosen, dragged, moved by keys. */
export function FlagButton({
  flag,
  hands,
  className,
  style,
  children,
}: {
  flag: Flag;
  hands: CueHands;
  className: string;
  style?: CSSProperties;
  children: ReactNode;
}) {
  const { names, showTick } = useTimeline();
  const { cue, atTick, isRepeat } = flag;
  const isChosen = hands.selected.has(cue.id);
  const words = cueSentence(cue, showTick(atTick), names);
  return (
    <button
      type="button"
      data-cue={cue.id}
      data-tick={atTick}
      aria-pressed={isChosen}
      title={words}
      tabIndex={isRepeat ? -1 : 0}
      className={`touch-none text-left ${isChosen ? 'outline outline-2 outline-offset-1 outline-ink' : ''} ${cue.off ? 'opacity-40' : ''} ${isRepeat ? 'opacity-70' : 'cursor-grab'} ${className}`}
      style={style}
      onPointerDown={(event) => (isRepeat ? event.stopPropagation() : hands.onPointerDown(event, cue))}
      onPointerMove={hands.onPointerMove}
      onPointerUp={hands.onPointerUp}
      onPointerCancel={hands.onPointerUp}
    >
      {/* What stands on it is too short to be read out. */}
      <span className="sr-only">{isRepeat ? `${words}, repeated` : words}</span>
      <span aria-hidden className="contents">
        {children}
      </span>
    </button>
  );
}
