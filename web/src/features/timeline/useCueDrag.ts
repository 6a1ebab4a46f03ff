import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { Cue } from '@rackle/core/show';
import { snapped, type Snap } from './chartLayout';
import type { TimelineNow } from './timelineContext';
import type { ChosenCues } from './useChosenCues';

/** Cues in the hand of a pointer. */
export interface CueDrag {
  /** By how many ticks those that are chosen stand elsewhere now. */
  draggedBy: number;
  snap: Snap;
  setSnap(snap: Snap): void;
  /** Of a flag. */
  onPointerDown(event: PointerEvent<HTMLElement>, cue: Cue): void;
  onPointerMove(event: PointerEvent<HTMLElement>): void;
  onPointerUp(event: PointerEvent<HTMLElement>): void;
}

const FIRST_MOVE_PX = 4;

/** Dragging of the chosen cues: nothing is edited before they are let go; Escape lets them go where they were. */
export function useCueDrag({ song, map }: TimelineNow, chosen: ChosenCues, widthPx: () => number): CueDrag {
  const [draggedBy, setDraggedBy] = useState(0);
  const [snap, setSnap] = useState<Snap>('beat');
  const drag = useRef<{ cue: Cue; x: number; moved: boolean } | null>(null);
  useEffect(() => {
    const cancel = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || drag.current === null) return;
      drag.current = null;
      setDraggedBy(0);
    };
    window.addEventListener('keydown', cancel);
    return () => window.removeEventListener('keydown', cancel);
  }, []);
  return {
    draggedBy,
    snap,
    setSnap,
    onPointerDown: (event, cue) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      if (event.shiftKey || event.ctrlKey || event.metaKey) return chosen.toggle(cue, true);
      if (!chosen.selected.has(cue.id)) chosen.select(new Set([cue.id]));
      drag.current = { cue, x: event.clientX, moved: false };
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event) => {
      const now = drag.current;
      if (now === null || (!now.moved && Math.abs(event.clientX - now.x) < FIRST_MOVE_PX)) return;
      now.moved = true;
      const to = now.cue.atTick + ((event.clientX - now.x) / widthPx()) * map.endTick;
      // Held Alt lets go of the grid.
      setDraggedBy(chosen.within(snapped(to, event.altKey ? 'off' : snap, map, song) - now.cue.atTick));
    },
    onPointerUp: () => {
      const now = drag.current;
      drag.current = null;
      setDraggedBy(0);
      if (now?.moved && draggedBy !== 0) chosen.moveBy((tick) => tick + draggedBy);
    },
  };
}
