import type { z } from 'zod';
import { EverySetlist } from './model/everySetlist';
import { GearList } from './model/gearList';
import { Instrument } from './model/instrument';
import { LibraryItem, Shelf } from './model/library';
import { Setlist } from './model/setlist';
import type { Show } from './model/show';
import { Song } from './model/song';

/** The aggregates of a show by the names under which a show file lists them: each is saved, and has a history, by itself. */
export interface Kinds {
  instruments: Instrument;
  gearLists: GearList;
  everySetlist: EverySetlist;
  songs: Song;
  setlists: Setlist;
  libraryItems: LibraryItem;
  shelves: Shelf;
}
/** Kinds of what a show is made of, each stored by itself. */
export type Kind = keyof Kinds;

/** Leads to an id within a body: field names, `*` for each item of a list. */
type Place = readonly string[];

interface KindAbout<K extends Kind> {
  schema: z.ZodType<Kinds[K]>;
  /** Its part of an address of the API. */
  path: string;
  /** In words: “song”. */
  noun: string;
  /** Where a body names aggregates by id. */
  references: readonly { kind: Kind; at: Place }[];
}

const soundsOf = (...before: string[]): { kind: Kind; at: Place } => ({
  kind: 'instruments',
  at: [...before, 'layers', '*', 'sound', 'instrumentId'],
});
const shelved = (...before: string[]): { kind: Kind; at: Place } => ({
  kind: 'instruments',
  at: [...before, '*', 'instrumentId'],
});
const songReferences = (...before: string[]): { kind: Kind; at: Place }[] => [
  soundsOf(...before),
  { kind: 'instruments', at: [...before, 'cues', '*', 'instrumentId'] },
  { kind: 'libraryItems', at: [...before, 'startedFrom'] },
  { kind: 'libraryItems', at: [...before, 'patches', '*', 'startedFrom'] },
];

/** The one table of the aggregates, in the order in which they are written: what is pointed at before what points at it. */
export const KINDS: { readonly [K in Kind]: KindAbout<K> } = {
  instruments: { schema: Instrument, path: 'instruments', noun: 'instrument', references: [] },
  gearLists: { schema: GearList, path: 'gear-lists', noun: 'gear list', references: [] },
  everySetlist: {
    schema: EverySetlist,
    path: 'every-setlist',
    noun: 'list of roles for every setlist',
    references: [],
  },
  songs: { schema: Song, path: 'songs', noun: 'song', references: songReferences() },
  setlists: {
    schema: Setlist,
    path: 'setlists',
    noun: 'setlist',
    references: [
      soundsOf(),
      { kind: 'songs', at: ['entries', '*', 'songId'] },
      { kind: 'songs', at: ['programs', '*', 'target', 'songId'] },
      { kind: 'gearLists', at: ['gearListId'] },
    ],
  },
  libraryItems: {
    schema: LibraryItem,
    path: 'library-items',
    noun: 'library item',
    references: [soundsOf(), { kind: 'libraryItems', at: ['patch', 'startedFrom'] }, ...songReferences('song')],
  },
  shelves: {
    schema: Shelf,
    path: 'shelves',
    noun: 'shelf',
    references: [shelved('stars'), shelved('recent'), shelved('categories', '*', 'sounds')],
  },
};
/** All kinds, in the order in which they may refer to each other. */
export const KIND_NAMES = Object.keys(KINDS) as readonly Kind[];

/** A show by kind and id. */
export type Bodies = { [K in Kind]: Record<string, Kinds[K]> };
/** The content of anything stored. */
export type Body = Kinds[Kind];

/** A show without anything in it. */
export const noBodies = (): Bodies => ({
  instruments: {},
  gearLists: {},
  everySetlist: {},
  songs: {},
  setlists: {},
  libraryItems: {},
  shelves: {},
});

/** A body by kind and id, where the kind is known only when it runs. */
export const bodyOf = (bodies: Bodies, kind: Kind, id: string): Body | null =>
  Object.hasOwn(bodies[kind], id) ? bodies[kind][id] : null;

/** What a show holds, by kind and id. */
export function bodiesOf(show: Pick<Show, Kind>): Bodies {
  const bodies = noBodies();
  for (const kind of KIND_NAMES) for (const body of show[kind]) (bodies[kind] as Record<string, Body>)[body.id] = body;
  return bodies;
}

/** Every id by which a body names another aggregate. */
export function referencesOf(kind: Kind, body: Body): { kind: Kind; id: string }[] {
  const found: { kind: Kind; id: string }[] = [];
  for (const { kind: to, at } of KINDS[kind].references)
    renamedAt(body, at, (id) => {
      found.push({ kind: to, id });
      return id;
    });
  return found;
}

/** The same body, naming other aggregates as `rename` says; its own id too. What is not touched keeps its identity. */
export function withRenamedIds<K extends Kind>(
  kind: K,
  body: Kinds[K],
  rename: (kind: Kind, id: string) => string,
): Kinds[K] {
  let renamed: unknown = body;
  for (const { kind: to, at } of KINDS[kind].references) renamed = renamedAt(renamed, at, (id) => rename(to, id));
  const id = rename(kind, body.id);
  return (id === body.id ? renamed : { ...(renamed as object), id }) as Kinds[K];
}

function renamedAt(value: unknown, [step, ...rest]: Place, rename: (id: string) => string): unknown {
  if (step === undefined) return typeof value === 'string' ? rename(value) : value;
  if (step === '*') {
    if (!Array.isArray(value)) return value;
    const items = value.map((item: unknown) => renamedAt(item, rest, rename));
    return items.some((item, i) => item !== value[i]) ? items : value;
  }
  if (typeof value !== 'object' || value === null || !Object.hasOwn(value, step)) return value;
  const before = (value as Record<string, unknown>)[step];
  const after = renamedAt(before, rest, rename);
  return after === before ? value : { ...value, [step]: after };
}
