import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { HOLD_MS } from './useHeldPress';

/** So far a finger may tremble while it stays. */
const BRUSH_PX = 8;

interface Held {
  pointer: number;
  /** Where the pointer and the value stood when it was taken hold of. */
  from: number;
  share: number;
  /** Of the whole travel, in px. */
  length: number;
}

/**
 * A value that a pointer takes hold of: it goes as far as the pointer does.
 * @param of.mustHold a finger has to stay on it before it moves; nothing else moves it
 * @returns where the hand has it (0–1; null: it is not held), and the handlers of what is taken hold of
 */
export function useGrip(of: {
  share: number | null;
  mustHold: boolean;
  upright: boolean;
  onMove: (share: number) => void;
}) {
  const { share, mustHold, upright, onMove } = of;
  const held = useRef<Held | null>(null);
  const waiting = useRef<Held | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const [inHand, setInHand] = useState<number | null>(null);
  useEffect(() => () => clearTimeout(timer.current), []);
  const at = ({ clientX, clientY }: PointerEvent): number => (upright ? -clientY : clientX);
  const letGo = (): void => {
    clearTimeout(timer.current);
    held.current = null;
    waiting.current = null;
    setInHand(null);
  };
  /** The finger that took hold of it has gone; another one changes nothing. */
  const up = ({ pointerId }: PointerEvent): void => {
    if ((held.current ?? waiting.current)?.pointer === pointerId) letGo();
  };
  const take = (event: PointerEvent<HTMLElement>): void => {
    if (share === null || held.current || waiting.current || (mustHold && event.pointerType !== 'touch')) return;
    const { width, height } = event.currentTarget.getBoundingClientRect();
    const taken = { pointer: event.pointerId, from: at(event), share, length: Math.max(1, upright ? height : width) };
    event.currentTarget.setPointerCapture(event.pointerId);
    const hold = (): void => {
      waiting.current = null;
      held.current = taken;
      setInHand(taken.share);
    };
    if (!mustHold) return hold();
    waiting.current = taken;
    timer.current = setTimeout(hold, HOLD_MS);
  };
  const move = (event: PointerEvent): void => {
    const { current } = held;
    // A finger that goes on before it has stayed only brushes it.
    const { current: late } = waiting;
    if (late !== null && late.pointer === event.pointerId && Math.abs(at(event) - late.from) > BRUSH_PX) return letGo();
    if (current === null || current.pointer !== event.pointerId) return;
    const to = Math.min(1, Math.max(0, current.share + (at(event) - current.from) / current.length));
    setInHand(to);
    onMove(to);
  };
  return {
    inHand,
    handlers: { onPointerDown: take, onPointerMove: move, onPointerUp: up, onPointerCancel: up },
  };
}
