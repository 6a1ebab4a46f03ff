import { useLayoutEffect, useState, type RefObject } from 'react';
import { useLatest } from '../../ui/useLatest';

export interface Seen {
  fromColumn: number;
  toColumn: number;
  fromRow: number;
  toRow: number;
}

const BESIDE = 3;
const ROW_PX = 47;
const ALL: Seen = { fromColumn: 0, toColumn: 24, fromRow: 0, toRow: 24 };

/** Which columns and rows of the score are in sight, with a few beside them: the others need not be drawn. */
export function useWindow(
  box: RefObject<HTMLDivElement | null>,
  columns: number,
  rows: number,
): { seen: Seen; onScroll: () => void } {
  const [seen, setSeen] = useState(ALL);
  const look = useLatest(() => {
    const view = box.current;
    if (!view) return;
    const heads = [...view.querySelectorAll<HTMLElement>('thead th[data-head]')];
    const inSight = heads.flatMap((head, i) =>
      head.offsetLeft + head.offsetWidth > view.scrollLeft && head.offsetLeft < view.scrollLeft + view.clientWidth
        ? [i]
        : [],
    );
    const next: Seen = {
      fromColumn: Math.max(0, (inSight[0] ?? 0) - BESIDE),
      toColumn: (inSight.at(-1) ?? heads.length) + BESIDE,
      fromRow: Math.max(0, Math.floor(view.scrollTop / ROW_PX) - BESIDE),
      toRow: Math.ceil((view.scrollTop + view.clientHeight) / ROW_PX) + BESIDE,
    };
    setSeen((before) =>
      before.fromColumn === next.fromColumn &&
      before.toColumn === next.toColumn &&
      before.fromRow === next.fromRow &&
      before.toRow === next.toRow
        ? before
        : next,
    );
  });
  // It says itself how large it is when it is first looked at, and whenever its size or that of the score changes.
  useLayoutEffect(() => {
    const view = box.current;
    if (!view || typeof ResizeObserver === 'undefined') return undefined;
    const observer = new ResizeObserver(look);
    observer.observe(view);
    if (view.firstElementChild) observer.observe(view.firstElementChild);
    return () => observer.disconnect();
  }, [box, look, columns, rows]);
  return { seen, onScroll: look };
}
