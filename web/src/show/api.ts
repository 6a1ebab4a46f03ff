import type { GearList, Instrument, LibraryItem, Setlist, Shelf, Song } from '@rackle/core';

/** The kinds of things that are saved, as the store and the API name them. */
export interface Kinds {
  songs: Song;
  setlists: Setlist;
  instruments: Instrument;
  gearLists: GearList;
  libraryItems: LibraryItem;
  shelves: Shelf;
}
export type Kind = keyof Kinds;
export const KINDS: readonly Kind[] = ['songs', 'setlists', 'instruments', 'gearLists', 'libraryItems', 'shelves'];
const PATHS: Record<Kind, string> = {
  songs: 'songs',
  setlists: 'setlists',
  instruments: 'instruments',
  gearLists: 'gear-lists',
  libraryItems: 'library-items',
  shelves: 'shelves',
};

export interface SavedItem<T> {
  revision: number;
  body: T;
}
export type SavedShow = { [K in Kind]: SavedItem<Kinds[K]>[] };

/** What came of a save. `away`: the server did not answer, or cannot write now; the same save may be tried again. */
export type SaveOutcome =
  | { kind: 'saved'; revision: number }
  | { kind: 'stale'; revision: number; body: unknown }
  | { kind: 'refused'; message: string }
  | { kind: 'away'; message: string };

interface ProblemDocument {
  code: string;
  detail: string;
  current?: { revision: number; body: unknown } | null;
}

/** @throws Error when the server cannot be reached or does not answer as it should. */
export async function fetchShow(): Promise<SavedShow> {
  const answer = await fetch('/api/v1/show');
  if (!answer.ok) throw new Error(`the server answers ${answer.status}`);
  return (await answer.json()) as SavedShow;
}

const matching = (revision: number): Record<string, string> =>
  revision === 0 ? { 'If-None-Match': '*' } : { 'If-Match': `"${revision}"` };

/** Saves one thing in the place of the revision that was seen; a body of null deletes it. */
export async function save(kind: Kind, id: string, revision: number, body: object | null): Promise<SaveOutcome> {
  let answer: Response;
  try {
    answer = await fetch(`/api/v1/${PATHS[kind]}/${encodeURIComponent(id)}`, {
      method: body === null ? 'DELETE' : 'PUT',
      headers: { ...matching(revision), ...(body === null ? {} : { 'Content-Type': 'application/json' }) },
      body: body === null ? undefined : JSON.stringify(body),
    });
  } catch {
    return { kind: 'away', message: 'The server does not answer.' };
  }
  if (answer.ok)
    return {
      kind: 'saved',
      revision: answer.status === 204 ? 0 : ((await answer.json()) as { revision: number }).revision,
    };
  const problem = (await answer
    .json()
    .catch(() => ({ code: '', detail: `The server answers ${answer.status}.` }))) as ProblemDocument;
  if (answer.status === 412)
    return { kind: 'stale', revision: problem.current?.revision ?? 0, body: problem.current?.body ?? null };
  if (answer.status === 404 && body === null) return { kind: 'saved', revision: 0 };
  return answer.status >= 500
    ? { kind: 'away', message: problem.detail }
    : { kind: 'refused', message: problem.detail };
}

/** Stores a bank or a recording as it is. @returns its hash, or what was wrong. */
export async function storeFile(
  file: Blob,
  use: 'bank' | 'recording',
  signal?: AbortSignal,
): Promise<{ hash: string; bytes: number } | { problem: string }> {
  const answer = await fetch(`/api/v1/files?use=${use}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: file,
    signal,
  }).catch(() => null);
  if (answer === null) return { problem: 'The server does not answer. Nothing was stored.' };
  if (answer.ok) return (await answer.json()) as { hash: string; bytes: number };
  return {
    problem: (
      (await answer.json().catch(() => ({ detail: 'The file was refused. Nothing was stored.' }))) as ProblemDocument
    ).detail,
  };
}

/** Puts a show file in. @returns null when it came in, else what was wrong. */
export async function importShow(text: string): Promise<string | null> {
  const answer = await fetch('/api/v1/show/file', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: text,
  }).catch(() => null);
  if (answer === null) return 'The server does not answer. Nothing was changed.';
  return answer.ok
    ? null
    : ((await answer.json().catch(() => ({ detail: 'The file was refused. Nothing was changed.' }))) as ProblemDocument)
        .detail;
}
