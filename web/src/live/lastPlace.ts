import type { LastPlace } from '@rackle/core/engine';

const KEY = 'rackle.place';

/** Where the set was left, kept in this browser over a reload. What cannot be read counts as nothing kept. */
export function readLastPlace(storage: Pick<Storage, 'getItem'> = localStorage): LastPlace | null {
  try {
    const text = storage.getItem(KEY);
    return text === null ? null : (JSON.parse(text) as LastPlace);
  } catch {
    return null;
  }
}

/** Only in a page: the running side never waits for storage. */
export function keepLastPlace(place: LastPlace, storage: Pick<Storage, 'setItem'> = localStorage): void {
  try {
    storage.setItem(KEY, JSON.stringify(place));
  } catch {
    // No room or no permission: the set then starts at its first patch after a reload, which the stage shows.
  }
}
