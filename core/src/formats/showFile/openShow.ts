import {
  KINDS,
  KIND_NAMES,
  SHOW_FORMAT,
  SHOW_VERSION,
  applied,
  bodiesOf,
  bodyOf,
  changesOf,
  sameBody,
  withRenamedIds,
  type Bodies,
  type Body,
  type Draft,
  type Kind,
  type Show,
} from '../../show';
import { repairShow } from './repair';

/** What is done with things that are here already, in another version. */
export type Choice = 'mine' | 'theirs' | 'both';

/** Something that stands in the file and here, and differs. */
export interface Clash {
  kind: Kind;
  id: string;
  mine: Body;
  theirs: Body;
}

/** What a file has in another version than what is here; what is equal is not asked about. */
export function clashesOf(here: Bodies, file: Show): Clash[] {
  return KIND_NAMES.flatMap((kind) =>
    (file[kind] as readonly Body[]).flatMap((theirs): Clash[] => {
      const mine = bodyOf(here, kind, theirs.id);
      return mine && !sameBody(mine, theirs) ? [{ kind, id: theirs.id, mine, theirs }] : [];
    }),
  );
}

/** Rows that another Rackle could not read: those that can be read here, and the names of those that cannot. */
export function rereadRows(file: Show): { show: Show; left: string[] } {
  const { unreadable = [], ...rest } = file;
  const left: string[] = [];
  const show: Show = { ...rest };
  for (const { kind, name, text } of unreadable) {
    const read = KINDS[kind].schema.safeParse(parsed(text));
    if (read.success && !(show[kind] as readonly Body[]).some(({ id }) => id === read.data.id))
      (show[kind] as Body[]) = [...show[kind], read.data];
    else left.push(name);
  }
  return { show, left };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const ONE_OF_A_KIND: ReadonlySet<Kind> = new Set<Kind>(['shelves', 'everySetlist']);

/**
 * The edit that brings a file in: one edit, which undo takes back. Faults that it would make are repaired.
 * @param file repaired already
 * @param mint new ids for copies
 */
export function openedShow(
  here: Bodies,
  file: Show,
  choice: Choice,
  mint: (kind: Kind) => string,
): { draft: Draft; repairs: string[] } {
  const clashing = new Set(clashesOf(here, file).map(({ kind, id }) => `${kind} ${id}`));
  const copies = new Map<string, string>();
  // There is one shelf, and one of what is done in every setlist: they cannot stand twice.
  if (choice === 'both')
    for (const key of clashing) {
      const kind = key.slice(0, key.indexOf(' ')) as Kind;
      if (!ONE_OF_A_KIND.has(kind)) copies.set(key, mint(kind));
    }
  const renamed = (kind: Kind, id: string): string => copies.get(`${kind} ${id}`) ?? id;
  const incoming = (kind: Kind): Body[] =>
    (file[kind] as readonly Body[])
      .filter(({ id }) => choice === 'theirs' || !clashing.has(`${kind} ${id}`) || copies.has(`${kind} ${id}`))
      .map((body) => withRenamedIds(kind, body as never, renamed));
  const draft = Object.fromEntries(KIND_NAMES.map((kind) => [kind, incoming(kind)])) as Draft;
  const merged = applied(here, changesOf(here, draft));
  const lists = KIND_NAMES.map((kind) => [kind, Object.values(merged[kind])]);
  const whole = { format: SHOW_FORMAT, version: SHOW_VERSION, ...Object.fromEntries(lists) } as Show;
  const { show, repairs } = repairShow(whole);
  const mended = bodiesOf(show);
  const own = KIND_NAMES.map((kind) => [kind, (draft[kind] ?? []).flatMap(({ id }) => bodyOf(mended, kind, id) ?? [])]);
  return { draft: Object.fromEntries(own) as Draft, repairs };
}
