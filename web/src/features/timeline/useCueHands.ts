import { useMemo, type KeyboardEvent, type RefObject } from 'react';
import type { Cue } from '@rackle/core/show';
import { stepOf, type Snap } from './chartLayout';
import { useLatest } from '../../ui/useLatest';
import type { ChosenFlags, FlagHands, TimelineNow } from './timelineContext';
import { useChosenCues, type ChosenCues } from './useChosenCues';
import { useCueDrag, type CueDrag } from './useCueDrag';

/** Cues that are chosen, and what hands do with them: drag, move by keys, copy, cut, paste, remove. */
export interface CueHands extends Omit<ChosenCues, 'within'>, Pick<CueDrag, 'snap' | 'setSnap'> {
  /** The same object while nothing else is chosen. */
  chosen: ChosenFlags;
  flags: FlagHands;
  onKeyDown(event: KeyboardEvent<HTMLElement>): void;
}

/** @param chart the box that scrolls the whole sheet */
export function useCueHands(now: TimelineNow, chart: RefObject<HTMLElement | null>): CueHands {
  const chosen = useChosenCues(now);
  const drag = useCueDrag(now, chosen, chart);
  const { within, ...rest } = chosen;
  const { selected } = chosen;
  const onPointerDown = useLatest(drag.onPointerDown);
  const onPointerMove = useLatest(drag.onPointerMove);
  const onPointerUp = useLatest(drag.onPointerUp);
  const toggle = useLatest((cue: Cue) => chosen.toggle(cue, true));
  const { cues } = now.song;
  const entry = cues.find(({ id }) => selected.has(id))?.id ?? cues[0]?.id ?? '';
  const chosenFlags = useMemo(() => ({ selected, entry }), [selected, entry]);
  const flags = useMemo(
    () => ({ onPointerDown, onPointerMove, onPointerUp, toggle }),
    [onPointerDown, onPointerMove, onPointerUp, toggle],
  );
  return {
    ...rest,
    snap: drag.snap,
    setSnap: drag.setSnap,
    chosen: chosenFlags,
    flags,
    onKeyDown: (event) => {
      const focused = now.song.cues.find(({ id }) => id === (event.target as Element).getAttribute('data-cue'));
      const isDone =
        event.ctrlKey || event.metaKey
          ? clipboardKey(event.key, chosen)
          : plainKey(event.key, chosen) || (focused !== undefined && flagKey(event, focused));
      // Escape counts towards a panic wherever it is pressed.
      if (!isDone || event.key === 'Escape') return;
      event.preventDefault();
      event.stopPropagation();
    },
  };

  /** A key on a flag that has the focus. */
  function flagKey(event: KeyboardEvent<HTMLElement>, focused: Cue): boolean {
    const { key } = event;
    if (key === 'ArrowLeft' || key === 'ArrowRight') moveByKey(event, focused);
    else if (key === 'ArrowUp' || key === 'ArrowDown') focusNext(event.currentTarget, event.target, key);
    else return false;
    return true;
  }

  /** The first press chooses what it would move. */
  function moveByKey(event: KeyboardEvent<HTMLElement>, focused: Cue): void {
    const unit: Snap = event.shiftKey ? 'bar' : drag.snap;
    const step = event.altKey ? 1 : stepOf(focused.atTick, unit, now.map);
    if (!chosen.selected.has(focused.id)) return chosen.select(new Set([focused.id]));
    const by = within(event.key === 'ArrowLeft' ? -step : step);
    chosen.moveBy((tick) => tick + by, `move ${[...chosen.selected].join(' ')}`);
  }
}

function clipboardKey(key: string, chosen: ChosenCues): boolean {
  if (key === 'a') chosen.selectAll();
  else if (key === 'c') chosen.copy();
  else if (key === 'x') {
    chosen.copy();
    chosen.remove();
  } else if (key === 'v') chosen.paste();
  else return false;
  return true;
}

function plainKey(key: string, chosen: ChosenCues): boolean {
  if (key === 'Delete' || key === 'Backspace') chosen.remove();
  else if (key === 'Escape' && chosen.selected.size > 0) chosen.select(new Set());
  else return false;
  return true;
}

/** The flag before or behind the one that has the focus, in the order of the song. */
function focusNext(chart: HTMLElement, from: EventTarget, key: string): void {
  const flags = [...chart.querySelectorAll<HTMLElement>('[data-cue]')];
  const order = flags.sort((a, b) => Number(a.dataset.tick) - Number(b.dataset.tick));
  const at = order.indexOf(from as HTMLElement);
  order[at + (key === 'ArrowDown' ? 1 : -1)]?.focus();
}
