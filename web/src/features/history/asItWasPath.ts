import type { Kind } from '@rackle/core/show';

const PAGES: Partial<Record<Kind, (id: string) => string>> = {
  songs: (id) => `songs/${id}`,
  setlists: (id) => `setlist/${id}`,
  gearLists: (id) => `gear/${id}`,
  instruments: (id) => `sounds/${id}`,
};

/** Where a thing of the past is looked at on its own page; null: it has none. */
export const asItWasPath = (source: string, kind: Kind, id: string): string | null => {
  const page = PAGES[kind]?.(id);
  return page === undefined ? null : `/as-it-was/${encodeURIComponent(source)}/${page}`;
};
