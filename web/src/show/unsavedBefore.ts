import { setlistWithActionKinds } from '@rackle/core/formats';
import { KINDS, type Kind } from '@rackle/core/show';
import { edited, type Edit } from './edits';

const UNSAVED_KEY = 'rackle.unsaved';

/** Edits that an earlier Rackle left in this browser unsaved, taken over once. */
export function unsavedBefore(storage: Pick<Storage, 'getItem' | 'removeItem'>): ReturnType<typeof edited>[] {
  const text = storage.getItem(UNSAVED_KEY);
  if (text === null) return [];
  storage.removeItem(UNSAVED_KEY);
  try {
    const changes = JSON.parse(text) as { kind: Kind; body: unknown }[];
    return changes.flatMap(({ kind, body }) => {
      const read = KINDS[kind].schema.safeParse(kind === 'setlists' ? setlistWithActionKinds(body) : body);
      if (!read.success) return [];
      return [edited({ label: `what was not saved of ${read.data.name}`, [kind]: [read.data] } as unknown as Edit)];
    });
  } catch {
    return [];
  }
}
