import type { Body, Kind, Kinds } from '@rackle/core/show';

/** A thing with its revision, as the server has it. */
export interface SavedItem<T> {
  revision: number;
  body: T;
}

/** A row of the database that cannot be read, with its newest version that can. */
export interface UnreadableItem {
  kind: Kind;
  id: string;
  name: string;
  revision: number;
  text: string;
  problem: string;
  lastGood: { revision: number; savedAt: string; body: Body } | null;
}

/** Everything that the server has, at one serial. */
export type SavedShow = { [K in Kind]: SavedItem<Kinds[K]>[] } & {
  dataId: string;
  /** Grows with every save. */
  serial: number;
  unreadable: UnreadableItem[];
};

/** What an edit is sent as. */
export interface EditMessage {
  id: string;
  label: string;
  dataId: string;
  items: { kind: Kind; id: string; revision: number; body: Body | null }[];
}

/** What came of sending. `away`: nothing is known of it; the same may be sent again. */
export type SendOutcome =
  | { kind: 'saved'; serial: number; items: { kind: Kind; id: string; revision: number }[] }
  | { kind: 'stale'; items: { kind: Kind; id: string; current: SavedItem<Body> | null }[] }
  | { kind: 'refused'; message: string }
  | { kind: 'otherData' }
  | { kind: 'away'; message: string };

interface ProblemDocument {
  type: string;
  code: string;
  detail: string;
  items?: { kind: Kind; id: string; current: SavedItem<Body> | null }[];
}

const ANSWER_WITHIN_MS = 10_000;
/** Only these say that an edit as it is will never be saved. */
const REFUSALS = [413, 415, 422];

/** @throws Error when the server cannot be reached or does not answer as it should. */
export async function fetchShow(): Promise<SavedShow> {
  const answer = await fetch('/api/v1/show');
  if (!answer.ok) throw new Error(`the server answers ${answer.status}`);
  return (await answer.json()) as SavedShow;
}

/** Saves an edit whole, or says why not. */
export const sendEdit = (edit: EditMessage): Promise<SendOutcome> => send('/api/v1/edits', edit);

/** Keeps what was not taken in the history, under a name. */
export const sendAside = (
  aside: Omit<EditMessage, 'items' | 'label'> & {
    name: string;
    items: { kind: Kind; id: string; body: Body | null }[];
  },
): Promise<SendOutcome> => send('/api/v1/edits/aside', aside);

/** Saved is only what echoes edit and data; refused only what one of our own problem codes refuses. */
async function send(address: string, edit: { id: string; dataId: string }): Promise<SendOutcome> {
  let status: number;
  let answer: unknown;
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(edit),
      signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
    });
    ({ status } = response);
    answer = await response.json();
  } catch {
    return { kind: 'away', message: 'The server does not answer.' };
  }
  const echo = answer as { id?: unknown; dataId?: unknown; serial: number; items: [] };
  if (status >= 200 && status < 300 && echo.id === edit.id && echo.dataId === edit.dataId)
    return { kind: 'saved', serial: echo.serial, items: echo.items };
  const problem = answer as Partial<ProblemDocument>;
  const isOurs = typeof problem.code === 'string' && problem.type === `urn:rackle:problem:${problem.code}`;
  if (status === 412 && isOurs && Array.isArray(problem.items)) return { kind: 'stale', items: problem.items };
  if (status === 409 && problem.code === 'other-data') return { kind: 'otherData' };
  if (REFUSALS.includes(status) && isOurs) return { kind: 'refused', message: problem.detail ?? 'It was refused.' };
  return { kind: 'away', message: (isOurs && problem.detail) || `The server answers ${status}.` };
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

/** Stores what an archive of a show carries. @returns the text of its show, or what was wrong. */
export async function unzipShow(file: Blob): Promise<{ text: string } | { problem: string }> {
  const headers = { 'Content-Type': 'application/zip' };
  const answer = await fetch('/api/v1/show/zip', { method: 'POST', headers, body: file }).catch(() => null);
  if (answer === null) return { problem: 'The server does not answer. Nothing was changed.' };
  const body = (await answer.json().catch(() => null)) as { show?: unknown; detail?: string } | null;
  if (answer.ok && body?.show !== undefined) return { text: JSON.stringify(body.show) };
  return { problem: body?.detail ?? 'The archive was refused. Nothing was changed.' };
}

/** Names of the files that are stored here; null: the server does not say. */
export async function storedFiles(): Promise<string[] | null> {
  const answer = await fetch('/api/v1/files').catch(() => null);
  if (answer?.ok !== true) return null;
  return ((await answer.json().catch(() => null)) as { hashes: string[] } | null)?.hashes ?? null;
}

/** Whether a bank or a recording is stored here. */
export const isStored = async (hash: string): Promise<boolean> =>
  (await fetch(`/api/v1/files/${hash}`, { method: 'HEAD' }).catch(() => null))?.ok ?? false;
