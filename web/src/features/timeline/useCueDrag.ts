import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { Cue } from '@rackle/core/show';
import { snapped, type Snap } from './chartLayout';
import type { TimelineNow } from './timelineContext';
import type { ChosenCues } from './useChosenCues';

/** Cues in the hand of a pointer. */
export interface CueDrag {
  snap: Snap;
  setSnap(snap: Snap): void;
  /** Of a flag. */
  onPointerDown(event: PointerEvent<HTMLElement>, cue: Cue): void;
  onPointerMove(event: PointerEvent<HTMLElement>): void;
  onPointerUp(event: PointerEvent<HTMLElement>): void;
}

interface Held {
  cue: Cue;
  x: number;
  /** How far those that are chosen stand from where they were, in ticks. */
  by: number;
  /** From the first move on. */
  shift: ((px: number) => void) | null;
  layDown(): void;
}

const FIRST_MOVE_PX = 4;

/** As many flags go along as they are; of more than that, one picture of their outlines. */
const MOST_FLAGS = 60;

/** What goes along with the hand. @returns how it is moved by so many px, and how it is laid down again */
function takenUp(chart: HTMLElement): Pick<Held, 'shift' | 'layDown'> {
  const flags = [...chart.querySelectorAll<HTMLElement>('[data-cue][aria-pressed=true]:not([data-repeated])')];
  const isMany = flags.length > MOST_FLAGS;
  const moved: readonly HTMLElement[] = isMany ? [outlines(chart, flags)] : flags;
  // In a layer of its own, so that nothing else is painted on the way.
  for (const { style } of moved) style.willChange = 'transform';
  return {
    shift: (px) => {
      for (const { style } of moved) style.transform = `translateX(${px}px)`;
    },
    layDown: () => {
      for (const one of moved) {
        if (isMany) one.remove();
        one.style.transform = '';
        one.style.willChange = '';
      }
    },
  };
}

/** One picture over the whole sheet: the outlines of flags. */
function outlines(chart: HTMLElement, flags: readonly HTMLElement[]): HTMLElement {
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
  const own = chart.getBoundingClientRect();
  const [left, top] = [own.left - chart.scrollLeft, own.top];
  const boxes = flags.map((flag) => flag.getBoundingClientRect());
  const lines = boxes.map((box) => `M${box.left - left} ${box.top - top}h${box.width}v${box.height}h${-box.width}z`);
  path.setAttribute('d', lines.join(''));
  svg.setAttribute('class', 'size-full overflow-visible fill-none stroke-ink');
  svg.setAttribute('aria-hidden', 'true');
  svg.append(path);
  const picture = document.createElement('div');
  picture.className = 'pointer-events-none absolute inset-0 z-20';
  picture.append(svg);
  chart.append(picture);
  return picture;
}

/**
 * Dragging of the chosen cues: nothing is edited before they are let go; Escape lets them go where they were. Their
 * flags alone move on the way, and nothing is drawn anew.
 * @param chart the box around the flags, as wide as the song where it is not scrolled
 */
export function useCueDrag(
  { song, map }: TimelineNow,
  chosen: ChosenCues,
  chart: RefObject<HTMLElement | null>,
): CueDrag {
  const [snap, setSnap] = useState<Snap>('beat');
  const held = useRef<Held | null>(null);
  const letGo = useCallback((): void => {
    held.current?.layDown();
    held.current = null;
  }, []);
  useEffect(() => {
    const cancel = (event: KeyboardEvent): void => {
      if (event.key === 'Escape') letGo();
    };
    window.addEventListener('keydown', cancel);
    return () => window.removeEventListener('keydown', cancel);
  }, [letGo]);
  return {
    snap,
    setSnap,
    onPointerDown: (event, cue) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      if (event.shiftKey || event.ctrlKey || event.metaKey) return chosen.toggle(cue, true);
      if (!chosen.selected.has(cue.id)) chosen.select(new Set([cue.id]));
      held.current = { cue, x: event.clientX, by: 0, shift: null, layDown: () => {} };
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event) => {
      const now = held.current;
      const outer = chart.current;
      if (now === null || outer === null) return;
      if (now.shift === null && Math.abs(event.clientX - now.x) < FIRST_MOVE_PX) return;
      if (now.shift === null) Object.assign(now, takenUp(outer));
      const to = now.cue.atTick + ((event.clientX - now.x) / outer.scrollWidth) * map.endTick;
      // Held Alt lets go of the grid.
      const by = chosen.within(snapped(to, event.altKey ? 'off' : snap, map, song) - now.cue.atTick);
      if (by === now.by) return;
      now.by = by;
      now.shift?.((by / map.endTick) * outer.scrollWidth);
    },
    onPointerUp: () => {
      const by = held.current?.by ?? 0;
      letGo();
      if (by !== 0) chosen.moveBy((tick) => tick + by);
    },
  };
}
