import { z } from 'zod';
import { EverySetlist } from './everySetlist';
import { GearList } from './gearList';
import { Instrument } from './instrument';
import { LibraryItem, Shelf } from './library';
import { Setlist } from './setlist';
import { Song } from './song';

/** Says in a file that it is a show. */
export const SHOW_FORMAT = 'rackle-show';
/** Version of the show file that is written. */
export const SHOW_VERSION = 11;

/** A row that Rackle could not read when it wrote the file, as it stood: so that no export leaves one out unsaid. */
export const UnreadableRow = z.strictObject({
  kind: z.enum(['instruments', 'gearLists', 'everySetlist', 'songs', 'setlists', 'libraryItems', 'shelves']),
  id: z.string().max(200),
  name: z.string().max(500),
  text: z.string(),
});
export type UnreadableRow = z.infer<typeof UnreadableRow>;

/** A whole show: everything that a setlist needs, in one JSON document. */
export const Show = z.strictObject({
  format: z.literal(SHOW_FORMAT),
  version: z.literal(SHOW_VERSION),
  songs: z.array(Song).max(5000).default([]),
  setlists: z.array(Setlist).max(1000).default([]),
  instruments: z.array(Instrument).max(500).default([]),
  gearLists: z.array(GearList).max(200).default([]),
  everySetlist: z.array(EverySetlist).max(1).default([]),
  libraryItems: z.array(LibraryItem).max(5000).default([]),
  shelves: z.array(Shelf).max(1).default([]),
  unreadable: z.array(UnreadableRow).max(5000).optional(),
});
export type Show = z.infer<typeof Show>;

/** A show with nothing in it. */
export const emptyShow = (): Show => ({
  format: SHOW_FORMAT,
  version: SHOW_VERSION,
  songs: [],
  setlists: [],
  instruments: [],
  gearLists: [],
  everySetlist: [],
  libraryItems: [],
  shelves: [],
});
