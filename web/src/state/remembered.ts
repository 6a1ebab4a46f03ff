import { z } from 'zod';
import type { Store } from './store';
import { remembered } from './uiSlice';

const KEPT = 'rackle.ui';
const memorySchema = z.object({
  budgetMb: z.number().int().min(50).max(100_000),
  pins: z.array(z.object({ instrumentId: z.string(), presetId: z.string() })).max(500),
});
const keptSchema = z
  .object({
    night: z.boolean(),
    letterKeys: z.boolean(),
    playLooked: z.boolean(),
    memory: memorySchema,
    jumpLu: z.number().min(1).max(40),
  })
  .partial();

/**
 * How the player has set up these pages, kept by this browser: ground, shortcuts, whether looking plays, what memory
 * sounds may take, what a jump in levels is. Before anything was set the ground is the one that the system asks for.
 */
export function rememberSettings(store: Store): void {
  const read = (): unknown => JSON.parse(localStorage.getItem(KEPT) ?? '{}');
  let kept: z.infer<typeof keptSchema> = {};
  try {
    kept = keptSchema.parse(read());
  } catch {
    // What cannot be read is as if it had never been set.
  }
  store.dispatch(remembered({ night: matchMedia('(prefers-color-scheme: dark)').matches, ...kept }));
  let last = JSON.stringify(settingsOf(store));
  store.subscribe(() => {
    const now = JSON.stringify(settingsOf(store));
    if (now !== last) localStorage.setItem(KEPT, (last = now));
  });
}

function settingsOf(store: Store): z.infer<typeof keptSchema> {
  const { night, letterKeys, playLooked, memory, jumpLu } = store.getState().ui;
  return { night, letterKeys, playLooked, memory, jumpLu };
}
