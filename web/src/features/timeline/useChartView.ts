import { useCallback, useEffect, useRef, useState, type RefObject, type WheelEvent } from 'react';

/** What of the chart is in sight. */
export interface SeenOfChart {
  /** Of the whole sheet, in px. */
  widthPx: number;
  /** Shares of the sheet; they change by eighths of what is in sight, so that scrolling draws little anew. */
  from: number;
  to: number;
}

/** How the chart is looked at: how wide it is drawn, and what of it is in sight. */
export interface ChartView extends SeenOfChart {
  zoom: number;
  /** The playhead is kept in sight while it moves. */
  follows: boolean;
  setZoom(zoom: number): void;
  setFollows(follows: boolean): void;
  onWheel(event: WheelEvent): void;
  /** Scrolls so that a share of the sheet is in sight. */
  bringInSight(share: number): void;
}

const MOST_ZOOM = 64;
const limited = (zoom: number): number => Math.max(1, Math.min(MOST_ZOOM, zoom));

/** Zoom and scroll of the chart; what stands in its middle stays there. @returns how it is looked at, and the box that scrolls */
export function useChartView(): [ChartView, RefObject<HTMLDivElement | null>] {
  const box = useRef<HTMLDivElement>(null);
  const [zoom, setZoomed] = useState(1);
  const [follows, setFollows] = useState(true);
  const [seen, setSeen] = useState({ widthPx: 1200, from: 0, to: 1 });
  const anchor = useRef<{ share: number; at: number } | null>(null);
  useEffect(() => {
    const outer = box.current;
    if (outer === null) return;
    const look = (): void => {
      const width = Math.max(1, outer.scrollWidth);
      const step = Math.max(1, outer.clientWidth / 8);
      const from = (Math.floor(outer.scrollLeft / step) * step) / width;
      const to = (Math.ceil((outer.scrollLeft + outer.clientWidth) / step) * step) / width;
      setSeen((old) =>
        old.widthPx === width && old.from === from && old.to === to ? old : { widthPx: width, from, to },
      );
    };
    const kept = anchor.current;
    anchor.current = null;
    if (kept !== null) outer.scrollLeft = kept.share * outer.scrollWidth - kept.at;
    look();
    const watch = new ResizeObserver(look);
    watch.observe(outer);
    outer.addEventListener('scroll', look, { passive: true });
    return () => {
      watch.disconnect();
      outer.removeEventListener('scroll', look);
    };
  }, [zoom]);
  const zoomAbout = (next: number, at: number): void => {
    const outer = box.current;
    if (outer !== null) anchor.current = { share: (outer.scrollLeft + at) / Math.max(1, outer.scrollWidth), at };
    setZoomed(limited(next));
  };
  const bringInSight = useCallback((share: number): void => {
    const outer = box.current;
    if (outer === null) return;
    const at = share * outer.scrollWidth;
    if (at < outer.scrollLeft || at > outer.scrollLeft + outer.clientWidth * 0.9)
      outer.scrollLeft = at - outer.clientWidth * 0.1;
  }, []);
  const view: ChartView = {
    zoom,
    ...seen,
    follows,
    bringInSight,
    setZoom: (next) => zoomAbout(next, (box.current?.clientWidth ?? 0) / 2),
    setFollows,
    onWheel: (event) => {
      // Ctrl and wheel, which is also what two fingers make of a pinch.
      if (!event.ctrlKey && !event.metaKey) return;
      const { left } = event.currentTarget.getBoundingClientRect();
      zoomAbout(zoom * 1.2 ** -Math.sign(event.deltaY), event.clientX - left);
    },
  };
  return [view, box];
}
