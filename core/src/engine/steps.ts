import type { CompiledShow, CompiledStep } from './compiled';

// Where next and previous lead: song after song in running order, past what is skipped; nothing wraps.

/** First position that is walked, or 0 when none is; −1 for an empty setlist. */
export function firstWalked(show: CompiledShow): number {
  const found = show.steps.findIndex((step) => step.walked);
  return found >= 0 ? found : show.steps.length > 0 ? 0 : -1;
}

/** The nearest walked position in a direction; −1 past the ends. `from` may lie between positions. */
export function walk(show: CompiledShow, from: number, direction: 1 | -1): number {
  for (let i = direction > 0 ? Math.floor(from) + 1 : Math.ceil(from) - 1; i >= 0 && i < show.steps.length; i += direction) if (show.steps[i].walked) return i;
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
