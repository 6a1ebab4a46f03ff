import type { Kind } from '@rackle/core/show';

/** Pages that show one thing, by its kind. */
const PAGES: Partial<Record<Kind, string>> = {
  songs: 'songs',
  setlists: 'setlist',
  gearLists: 'gear',
  instruments: 'sounds',
};
/** Those that show tonight's, whichever that is. */
const TONIGHT: readonly Kind[] = ['setlists', 'gearLists'];

/** Where a thing of the past is looked at on its own page; null: it has none. */
export const asItWasPath = (source: string, kind: Kind, id: string): string | null =>
  PAGES[kind] === undefined ? null : `/as-it-was/${encodeURIComponent(source)}/${PAGES[kind]}/${id}`;

/** Where it stands now. */
export const presentPath = (kind: Kind, id: string): string =>
  TONIGHT.includes(kind) ? `/${PAGES[kind]}` : `/${PAGES[kind]}/${id}`;
