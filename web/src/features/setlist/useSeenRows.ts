import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useState, type RefObject } from 'react';

/** Up to so many rows all are drawn. */
const ALL_UP_TO = 60;
const ROW_PX = 47;

/**
 * Which rows of a long running order are drawn: those in sight, and the one that is dragged. On paper all are.
 * @returns their numbers, and the room of what stands before and behind them, in px
 */
export function useSeenRows(
  list: RefObject<HTMLElement | null>,
  ids: readonly string[],
  dragged: string | null,
): { seen: readonly number[]; before: number; after: number } {
  const [isPrinting, setIsPrinting] = useState(false);
  useEffect(() => {
    const begin = (): void => setIsPrinting(true);
    const end = (): void => setIsPrinting(false);
    const paper = window.matchMedia?.('print');
    const onPaper = ({ matches }: { matches: boolean }): void => setIsPrinting(matches);
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    paper?.addEventListener('change', onPaper);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
      paper?.removeEventListener('change', onPaper);
    };
  }, []);
  const isLong = ids.length > ALL_UP_TO;
  const held = dragged === null ? -1 : ids.indexOf(dragged);
  const virtual = useVirtualizer({
    count: ids.length,
    enabled: isLong,
    getScrollElement: () => list.current?.closest('main') ?? null,
    estimateSize: () => ROW_PX,
    getItemKey: (index) => ids[index],
    initialRect: { width: 1280, height: 800 },
    overscan: 10,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return held < 0 || seen.includes(held) ? seen : [...seen, held].sort((a, b) => a - b);
    },
  });
  if (!isLong || isPrinting) return { seen: ids.map((_, index) => index), before: 0, after: 0 };
  const items = virtual.getVirtualItems();
  const seen = items.map(({ index }) => index);
  return {
    seen,
    before: items[0]?.start ?? 0,
    after: Math.max(0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)),
  };
}
