import type { KeyboardEvent } from 'react';
import type { Blend, Patch, Song } from '@rackle/core/show';

/** A column of the score: a patch, or one of its blends. */
export interface Column {
  patch: Patch;
  blend: Blend | null;
}

/** What keys and buttons do to a song sheet. */
export interface SheetActions {
  choose(next: { patchId?: string; blendId?: string | null; layerId?: string }): void;
  /** The chosen layer plays in the chosen patch, or is silent there. */
  setPlays(plays: boolean): void;
  movePatch(by: 1 | -1): void;
  moveLayer(by: 1 | -1): void;
  addPatch(): void;
  addLayer(): void;
  duplicatePatch(): void;
  duplicateLayer(): void;
  captureBlend(): void;
  removePatch(): void;
  removeLayer(): void;
  runOn(): void;
}

/**
 * The keys of the score: arrows go from cell to cell, with Alt they move patch and layer; letters do the rest. What
 * they do not use goes on.
 */
export function useSheetKeys(
  song: Song,
  columns: readonly Column[],
  column: number,
  row: number,
  actions: SheetActions,
): (event: KeyboardEvent) => void {
  const toColumn = (to: number): void => {
    const found = columns[Math.max(0, Math.min(columns.length - 1, to))];
    if (found) actions.choose({ patchId: found.patch.id, blendId: found.blend?.id ?? null });
  };
  const toRow = (to: number): void => {
    const layer = song.layers[Math.max(0, Math.min(song.layers.length - 1, to))];
    if (layer) actions.choose({ layerId: layer.id });
  };
  const plain: Record<string, () => void> = {
    ArrowLeft: () => toColumn(column - 1),
    ArrowRight: () => toColumn(column + 1),
    ArrowUp: () => toRow(row - 1),
    ArrowDown: () => toRow(row + 1),
    Home: () => toColumn(0),
    End: () => toColumn(columns.length - 1),
    Delete: () => actions.setPlays(false),
    Backspace: () => actions.setPlays(false),
    Enter: () => actions.setPlays(true),
    n: actions.addPatch,
    a: actions.addLayer,
    d: actions.duplicatePatch,
    c: actions.captureBlend,
    r: actions.runOn,
  };
  const shifted: Record<string, () => void> = {
    D: actions.duplicateLayer,
    Delete: actions.removePatch,
    Backspace: actions.removeLayer,
  };
  const alt: Record<string, () => void> = {
    ArrowLeft: () => actions.movePatch(-1),
    ArrowRight: () => actions.movePatch(1),
    ArrowUp: () => actions.moveLayer(-1),
    ArrowDown: () => actions.moveLayer(1),
  };
  return (event) => {
    if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey) return;
    const does = (event.altKey ? alt : event.shiftKey ? shifted : plain)[event.key];
    if (!does) return;
    event.preventDefault();
    event.stopPropagation();
    does();
  };
}
