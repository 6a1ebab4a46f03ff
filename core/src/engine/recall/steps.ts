import type { CompiledShow, CompiledStep } from '../compile/compiled';

// Where next and previous lead: song after song in running order, past what is skipped; nothing wraps.

/** First position that is walked, or 0 when none is; −1 for an empty setlist. */
export function firstWalked(show: CompiledShow): number {
  const found = show.steps.findIndex((step) => step.walked);
  return found >= 0 ? found : show.steps.length > 0 ? 0 : -1;
}

/** The nearest walked position in a direction; −1 past the ends. `from` may lie between positions. */
export function walk(show: CompiledShow, from: number, direction: 1 | -1): number {
  for (
    let i = direction > 0 ? Math.floor(from) + 1 : Math.ceil(from) - 1;
    i >= 0 && i < show.steps.length;
    i += direction
  )
    if (show.steps[i].walked) return i;
  return -1;
}

/** First walked position of the next or previous song in running order; −1 past the ends. */
export function walkSongs(show: CompiledShow, step: CompiledStep, direction: 1 | -1): number {
  for (let entry = step.entry + direction; entry >= 0 && entry < show.entries.length; entry += direction) {
    const { first, end } = show.entries[entry];
    for (let i = first; i < end; i++) if (show.steps[i].walked) return i;
  }
  return -1;
}

/** Where the patches of an entry begin, one after the other; blends are passed over. */
function patchStart(show: CompiledShow, entry: number, number: number): number {
  const { first, end } = show.entries[entry];
  for (let i = first, left = number; i < end; i++)
    if (show.steps[i].balance === show.steps[i].patch.balances[0] && --left === 0) return i;
  return -1;
}

/** Position of patch n (from 1) of an entry; −1 when it has not that many. */
export const ofPatch = (show: CompiledShow | null, entry: number, number: number): number =>
  show === null || entry < 0 ? -1 : patchStart(show, entry, number);

/** First step of song n of the setlist (from 1); −1 when there are not that many. */
export function ofSong(show: CompiledShow | null, number: number): number {
  const entry = show?.entries[number - 1];
  if (!entry) return -1;
  for (let i = entry.first; i < entry.end; i++) if (show!.steps[i].isStep) return i;
  return entry.end > entry.first ? entry.first : -1;
}

/** Position of blend n of the present patch, 0 its own balance; −1 when it has not that many. */
export function ofBlend(show: CompiledShow | null, step: CompiledStep | null, number: number): number {
  if (show === null || step === null || !Number.isInteger(step.position)) return -1;
  const at = step.position - step.patch.balances.indexOf(step.balance) + number;
  return number < step.patch.balances.length ? at : -1;
}
