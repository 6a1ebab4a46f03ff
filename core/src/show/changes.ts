import type { z } from 'zod';
import { KINDS, KIND_NAMES, bodyOf, type Bodies, type Body, type Kind, type Kinds } from './kinds';
import { faultsAround, pointingAt, type Fault } from './references';
import { sameBody } from './sameBody';
import type { Setlist } from './model/setlist';
import type { Song } from './model/song';

/** One aggregate before and after an edit; null: it is not there. */
export type Change = {
  [K in Kind]: { kind: K; id: string; before: Kinds[K] | null; after: Kinds[K] | null };
}[Kind];

/**
 * What a hand has done, as a value: the one currency of undo, saving, history and the engine's feed. An id that was ever
 * sent never changes its content.
 */
export interface Edit {
  id: string;
  /** As a verb, for undo and history: “move a song”. */
  label: string;
  changes: Change[];
}

/** An edit as a page says it: what stands there afterwards, by kind; what is deleted by its id. */
export type Draft = { [K in Kind]?: readonly (Kinds[K] | { id: string; deleted: true })[] };

/** A draft of things by their ids, each as it is to be; null: it is deleted. */
export function draftOf(items: readonly { kind: Kind; id: string; body: Body | null }[]): Draft {
  const draft: { [kind: string]: (Body | { id: string; deleted: true })[] } = {};
  for (const { kind, id, body } of items) (draft[kind] ??= []).push(body ?? { id, deleted: true });
  return draft as Draft;
}

const change = (kind: Kind, id: string, before: Body | null, after: Body | null): Change =>
  ({ kind, id, before, after }) as Change;

/** The changes that a draft makes, with what follows from them; a draft that changes nothing makes none. */
export function changesOf(bodies: Bodies, draft: Draft): Change[] {
  const changes: Change[] = [];
  for (const kind of KIND_NAMES)
    for (const thing of draft[kind] ?? [])
      changes.push(change(kind, thing.id, bodyOf(bodies, kind, thing.id), 'deleted' in thing ? null : thing));
  return folded([], withWhatFollows(bodies, changes));
}

/** The show after these changes. What they do not touch keeps its identity. */
export function applied(bodies: Bodies, changes: readonly Change[]): Bodies {
  const result = { ...bodies };
  const own = new Set<Kind>();
  for (const { kind, id, after } of changes) {
    if (!own.has(kind)) (result as Record<Kind, object>)[kind] = { ...result[kind] };
    own.add(kind);
    if (after === null) delete result[kind][id];
    else (result[kind] as Record<string, Body>)[id] = after;
  }
  return result;
}

/** The way back. */
export const inverted = (changes: readonly Change[]): Change[] =>
  [...changes].reverse().map(({ kind, id, before, after }) => change(kind, id, after, before));

/** Changes that no longer meet what they were made on: their `before` is not what stands there now. */
export const conflicting = (bodies: Bodies, changes: readonly Change[]): Change[] =>
  changes.filter(({ kind, id, before }) => !sameBody(bodyOf(bodies, kind, id), before));

/** Changes after one another as one: of each id its first `before` and its last `after`. What folds to nothing is left out. */
export function folded(earlier: readonly Change[], later: readonly Change[]): Change[] {
  const byId = new Map<string, Change>();
  for (const { kind, id, before, after } of [...earlier, ...later]) {
    const key = `${kind} ${id}`;
    byId.set(key, change(kind, id, byId.has(key) ? byId.get(key)!.before : before, after));
  }
  return [...byId.values()].filter(({ before, after }) => before !== after && !sameBody(before, after));
}

/** Why an edit cannot be made: a body that its schema refuses, or something new that points at nothing. */
export interface Refusal {
  code: 'invalid' | 'broken-reference' | 'in-use';
  kind: Kind;
  id: string;
  /** Within the aggregate. */
  path: (string | number)[];
  message: string;
}

/**
 * Judges an edit as a page makes it, by its schemas and by what it leaves pointing at nothing. The same at the form, at
 * the server's doors and at the show file's.
 */
export const refusalOf = (bodies: Bodies, changes: readonly Change[]): Refusal | null =>
  invalidBody(changes) ?? brokenBy(bodies, changes);

function invalidBody(changes: readonly Change[]): Refusal | null {
  for (const { kind, id, before, after } of changes) {
    const { schema } = KINDS[kind];
    if (after === null || schema.safeParse(withoutWhatStood(before, after)).success) continue;
    const parsed = schema.safeParse(after);
    if (!parsed.success) return invalid(kind, id, parsed.error);
  }
  return null;
}

/**
 * A body with only those items in its lists that did not stand in it before: bodies are values, so what is the same
 * object is as good as it was. A list that has grown stays whole, for its length is to be judged too.
 */
function withoutWhatStood(before: Body | null, after: Body): object {
  const left: Record<string, unknown> = { ...after };
  for (const [field, was] of Object.entries(before ?? {})) {
    const now = left[field];
    if (!Array.isArray(was) || !Array.isArray(now) || now.length > was.length) continue;
    const stood = new Set<unknown>(was);
    left[field] = now.filter((item: unknown) => typeof item !== 'object' || !stood.has(item));
  }
  return left;
}

const MOST_WORDS = 200;

/** The first thing that a schema says against a body. */
export function invalid(kind: Kind, id: string, error: z.ZodError): Refusal {
  const [issue] = error.issues;
  const path = issue.path.map((key) => (typeof key === 'symbol' ? String(key) : key));
  const words = `${path.join(' → ') || KINDS[kind].noun}: ${issue.message}`;
  return { code: 'invalid', kind, id, path, message: words.slice(0, MOST_WORDS) };
}

/**
 * Judges the end state of an edit, and refuses only what is new in it: a fault that stood there before refuses nothing.
 * @param unreadable ids that are there, though nobody can read them
 */
export function brokenBy(
  bodies: Bodies,
  changes: readonly Change[],
  unreadable: (kind: Kind, id: string) => boolean = () => false,
): Refusal | null {
  const touched = changes.map(({ kind, id }) => ({ kind, id }));
  const known = new Map<string, number>();
  const keyOf = (fault: Fault): string => `${fault.kind} ${fault.id} ${fault.code} ${fault.about}`;
  for (const fault of faultsAround(bodies, touched, unreadable))
    known.set(keyOf(fault), (known.get(keyOf(fault)) ?? 0) + 1);
  const after = applied(bodies, changes);
  for (const fault of faultsAround(after, touched, unreadable)) {
    const before = known.get(keyOf(fault)) ?? 0;
    known.set(keyOf(fault), before - 1);
    if (before > 0) continue;
    const gone = changes.find((one) => one.after === null && one.id === fault.about);
    if (gone) return inUse(after, gone);
    return { code: 'broken-reference', kind: fault.kind, id: fault.id, path: fault.path, message: fault.message };
  }
  return null;
}

function inUse(after: Bodies, { kind, id, before }: Change): Refusal {
  const where = pointingAt(after, kind, id).map(({ kind: from, body }) =>
    from === 'libraryItems' ? `${body.name} (in the library)` : body.name,
  );
  const message = `The ${KINDS[kind].noun} ${before?.name ?? id} is used in ${where.join(', ')}. Take it out there first`;
  return { code: 'in-use', kind, id, path: [], message };
}

/**
 * What a change takes with it: a patch, blend or song that goes leaves no program number behind, an item of the library
 * no trace in what was started from it.
 */
function withWhatFollows(bodies: Bodies, changes: readonly Change[]): Change[] {
  const after = applied(bodies, changes);
  const gone = changes.some(({ kind, before }) => kind === 'songs' && before !== null);
  const items = new Set(
    changes.flatMap((one) => (one.kind === 'libraryItems' && one.after === null ? [one.id as string] : [])),
  );
  const follows: Change[] = [];
  if (gone)
    for (const setlist of Object.values(after.setlists)) {
      const programs = setlist.programs.filter(({ target }) => {
        const song = bodyOf(after, 'songs', target.songId) as Song | null;
        const was = bodyOf(bodies, 'songs', target.songId) as Song | null;
        if (song === was) return true;
        // Only what this edit takes away takes its number along; what pointed nowhere before is not this edit's.
        return was === null || !stands(was, target) || (song !== null && stands(song, target));
      });
      if (programs.length < setlist.programs.length)
        follows.push(change('setlists', setlist.id, setlist, { ...setlist, programs }));
    }
  if (items.size > 0)
    for (const song of Object.values(after.songs)) {
      const cleared = withoutTraces(song, items);
      if (cleared !== song) follows.push(change('songs', song.id, song, cleared));
    }
  return [...changes, ...follows];
}

type Target = Setlist['programs'][number]['target'];

function stands(song: Song, { patchId, blendId }: Target): boolean {
  if (patchId === null) return true;
  const patch = song.patches.find((candidate) => candidate.id === patchId);
  return patch !== undefined && (blendId === null || patch.blends.some((blend) => blend.id === blendId));
}

function withoutTraces(song: Song, items: ReadonlySet<string>): Song {
  const isTrace = (id: string | null): boolean => id !== null && items.has(id);
  if (!isTrace(song.startedFrom) && !song.patches.some((patch) => isTrace(patch.startedFrom))) return song;
  return {
    ...song,
    startedFrom: isTrace(song.startedFrom) ? null : song.startedFrom,
    patches: song.patches.map((patch) => (isTrace(patch.startedFrom) ? { ...patch, startedFrom: null } : patch)),
  };
}
