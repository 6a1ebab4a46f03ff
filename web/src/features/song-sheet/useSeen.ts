import { useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import { useEffect, type RefObject } from 'react';

/** Columns and rows of the score that are in sight, both ends included, with a few beside them. */
export interface Seen {
  fromColumn: number;
  toColumn: number;
  fromRow: number;
  toRow: number;
}

/** Sizes of the score, in px: the column of layers, a column of a blend, the least of a patch, a row, the head. */
export const SCORE_PX = { layers: 188, blend: 118, patch: 110, row: 47, head: 41 } as const;

const BESIDE = 3;

type Axis = Virtualizer<HTMLDivElement, Element>;
const firstOf = (axis: Axis): number => axis.getVirtualItems()[0]?.index ?? 0;
const lastOf = (axis: Axis): number => axis.getVirtualItems().at(-1)?.index ?? -1;

/**
 * Which columns and rows need to be drawn.
 * @param blends by column: whether it is a blend's, whose width is given; patches share what is left.
 */
export function useSeen(box: RefObject<HTMLDivElement | null>, blends: readonly boolean[], rows: number): Seen {
  const getScrollElement = () => box.current;
  const down: Axis = useVirtualizer<HTMLDivElement, Element>({
    count: rows,
    getScrollElement,
    estimateSize: () => SCORE_PX.row,
    overscan: BESIDE,
    scrollMargin: SCORE_PX.head,
  });
  const across: Axis = useVirtualizer<HTMLDivElement, Element>({
    horizontal: true,
    count: blends.length,
    getScrollElement,
    estimateSize: (column) => (blends[column] ? SCORE_PX.blend : patchPx(blends, box.current?.clientWidth ?? 0)),
    overscan: BESIDE,
    scrollMargin: SCORE_PX.layers,
  });
  const widthPx = across.scrollRect?.width;
  useEffect(() => across.measure(), [across, widthPx, blends]);
  return { fromColumn: firstOf(across), toColumn: lastOf(across), fromRow: firstOf(down), toRow: lastOf(down) };
}

/** Width of a patch's column in a box of a width. */
function patchPx(blends: readonly boolean[], boxPx: number): number {
  const ofBlends = blends.filter(Boolean).length;
  const patches = blends.length - ofBlends;
  const tablePx = Math.max(boxPx, scoreWidthPx(blends.length));
  return Math.max(1, (tablePx - SCORE_PX.layers - ofBlends * SCORE_PX.blend) / Math.max(1, patches));
}

/** The least width of a score of so many columns. */
export const scoreWidthPx = (columns: number): number => SCORE_PX.layers + 2 + columns * SCORE_PX.patch;
