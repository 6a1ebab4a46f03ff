import { z } from 'zod';
import { GearList } from './gearList';
import { Instrument } from './instrument';
import { LibraryItem, Shelf } from './library';
import { Setlist } from './setlist';
import { Song } from './song';

export const SHOW_FORMAT = 'rackle-show';
export const SHOW_VERSION = 3;

/** A whole show: everything that a setlist needs, in one JSON document. */
export const Show = z.strictObject({
  format: z.literal(SHOW_FORMAT),
  version: z.literal(SHOW_VERSION),
  songs: z.array(Song).max(5000).default([]),
  setlists: z.array(Setlist).max(1000).default([]),
  instruments: z.array(Instrument).max(500).default([]),
  gearLists: z.array(GearList).max(200).default([]),
  libraryItems: z.array(LibraryItem).max(5000).default([]),
  shelves: z.array(Shelf).max(1).default([]),
});
export type Show = z.infer<typeof Show>;

export const emptyShow = (): Show => ({
  format: SHOW_FORMAT,
  version: SHOW_VERSION,
  songs: [],
  setlists: [],
  instruments: [],
  gearLists: [],
  libraryItems: [],
  shelves: [],
});
