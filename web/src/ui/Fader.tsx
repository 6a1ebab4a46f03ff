import type { KeyboardEvent } from 'react';
import { useGrip } from './useGrip';

interface Props {
  label: string;
  /** Where the value stands, 0–1; null: it has none here. */
  share: number | null;
  /** The value in words. */
  text: string;
  /** Where a knob stands that waits to meet the value, 0–1; null: there is none, or it stands there. */
  waitsAt?: number | null;
  isMoving?: boolean;
  /** Nothing but a held finger moves it. */
  mustHold: boolean;
  upright?: boolean;
  onMove: (share: number) => void;
  className?: string;
}

const STEP = 0.01;
const PAGE = 0.1;

function nudged(key: string, share: number): number | null {
  switch (key) {
    case 'ArrowUp':
    case 'ArrowRight':
      return share + STEP;
    case 'ArrowDown':
    case 'ArrowLeft':
      return share - STEP;
    case 'PageUp':
      return share + PAGE;
    case 'PageDown':
      return share - PAGE;
    case 'Home':
      return 0;
    case 'End':
      return 1;
    default:
      return null;
  }
}

/**
 * A value as a bar with a grip. It is taken hold of wherever it is touched, and goes as far as the pointer does, so that
 * it never jumps; keys move it too. A pointer leaves the focus where it was.
 */
export function Fader({
  label,
  share,
  text,
  waitsAt = null,
  isMoving = false,
  mustHold,
  upright = false,
  onMove,
  className = '',
}: Props) {
  const { inHand, handlers } = useGrip({ share, mustHold, upright, onMove });
  const shown = inHand ?? share ?? 0;
  const onKeyDown = (event: KeyboardEvent): void => {
    const to = share === null || mustHold ? null : nudged(event.key, share);
    if (to === null) return;
    event.preventDefault();
    onMove(Math.min(1, Math.max(0, to)));
  };
  return (
    <span
      role="slider"
      tabIndex={share === null || mustHold ? -1 : 0}
      aria-label={label}
      aria-disabled={share === null}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(shown * 100)}
      aria-valuetext={text}
      data-held={inHand !== null}
      onMouseDown={(event) => event.preventDefault()}
      {...handlers}
      onKeyDown={onKeyDown}
      className={`relative block touch-none select-none ${share === null ? 'opacity-30' : 'cursor-grab active:cursor-grabbing'} ${className}`}
    >
      <Track
        shown={shown}
        waitsAt={waitsAt}
        look={inHand !== null ? 'held' : isMoving ? 'moving' : 'still'}
        upright={upright}
        hasGrip={share !== null}
      />
    </span>
  );
}

interface TrackProps {
  shown: number;
  waitsAt: number | null;
  look: 'held' | 'moving' | 'still';
  upright: boolean;
  hasGrip: boolean;
}

const ACROSS = {
  track: 'inset-x-0 top-1/2 h-2.5 -translate-y-1/2',
  fill: 'h-full',
  mark: '-inset-y-1 w-0.5',
  grip: '-inset-y-2 w-3 -translate-x-1/2',
};
const UPRIGHT = {
  track: 'inset-y-0 left-1/2 w-4 -translate-x-1/2',
  fill: 'w-full',
  mark: '-inset-x-1 h-0.5',
  grip: '-inset-x-4 h-5 translate-y-1/2',
};

/** How far it is filled, where a knob waits, and what it is held by. */
function Track({ shown, waitsAt, look, upright, hasGrip }: TrackProps) {
  const shape = upright ? UPRIGHT : ACROSS;
  const at = (share: number) => ({ [upright ? 'bottom' : 'left']: `${share * 100}%` });
  return (
    <span aria-hidden className={`absolute bg-ground2 ${shape.track}`}>
      <span
        className={`absolute bottom-0 left-0 ${shape.fill} ${look === 'still' ? 'bg-ink' : 'bg-live'}`}
        style={{ [upright ? 'height' : 'width']: `${shown * 100}%` }}
      />
      {waitsAt !== null && <span className={`absolute bg-ink ${shape.mark}`} style={at(waitsAt)} />}
      {hasGrip && (
        <span
          className={`absolute border border-ink bg-ground ${shape.grip} ${look === 'held' ? 'outline-2 outline-live' : ''}`}
          style={at(shown)}
        />
      )}
    </span>
  );
}
