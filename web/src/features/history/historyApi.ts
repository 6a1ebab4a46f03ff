import { KIND_NAMES, type Bodies, type Body, type Kind } from '@rackle/core/show';

/** A saved state as the server lists it. */
export interface Version {
  number: number;
  kind: Kind;
  id: string;
  /** What it was called then; null where nobody can read that. */
  of: string | null;
  /** null: it was set aside, and never stood. */
  revision: number | null;
  savedAt: string;
  deleted: boolean;
  label: string | null;
  /** The player's note, or why it was set aside. */
  name: string | null;
}

/** A saved state with its body; null: it was deleted. */
export type VersionWithBody = Version & { body: Body | null };

/** A state of the whole show under a name. */
export interface NamedState {
  id: string;
  name: string;
  savedAt: string;
  things: number;
}

/** A copy of the database. */
export interface Backup {
  name: string;
  madeAt: string;
  reason: 'daily' | 'before-migration' | 'before-restore';
  bytes: number;
}

/** A whole show of the past. */
export interface PastShow {
  name: string;
  savedAt: string;
  bodies: { [K in Kind]?: Body[] };
  unreadable: string[];
}

/** What the server answered, or what was wrong in words. */
export type Answer<T> = { ok: true; value: T } | { ok: false; problem: string };

async function asked<T>(path: string, init?: RequestInit): Promise<Answer<T>> {
  const answer = await fetch(`/api/v1${path}`, init).catch(() => null);
  if (answer === null) return { ok: false, problem: 'The server does not answer. Nothing was changed.' };
  if (answer.status === 204) return { ok: true, value: undefined as T };
  const body = (await answer.json().catch(() => null)) as { detail?: string } | null;
  if (answer.ok && body !== null) return { ok: true, value: body as T };
  return { ok: false, problem: body?.detail ?? `The server answers ${answer.status}. Nothing was changed.` };
}

const put = (body: object): RequestInit => ({
  method: 'PUT',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

/** Saved states, newest first: of everything, or of one thing. */
export function versionsOf(asks: { kind?: Kind; id?: string; before?: number }) {
  const words = new URLSearchParams(
    Object.entries(asks).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
  );
  return asked<{ versions: Version[]; isMore: boolean }>(`/history?${words.toString()}`);
}

/** One saved state with its body. */
export const versionAt = (number: number) => asked<VersionWithBody>(`/history/${number}`);
/** Gives it a note, for which it is kept for ever; '' takes it away. */
export const annotate = (number: number, note: string) => asked<void>(`/history/${number}/note`, put({ note }));
/** What is there no more. */
export const deletedThings = () => asked<Version[]>('/history/deleted');
/** States of the whole show under names. */
export const namedStates = () => asked<NamedState[]>('/states');
/** One of them with all its bodies. */
export const namedState = (id: string) => asked<PastShow>(`/states/${id}`);
/** Names what stands now. */
export const nameState = (id: string, name: string) => asked<void>(`/states/${id}`, put({ name }));
/** Lets a name go. */
export const deleteState = (id: string) => asked<void>(`/states/${id}`, { method: 'DELETE' });
/** Copies of the database. */
export const backups = () => asked<Backup[]>('/backups');
/** The show in one of them. */
export const backupAt = (name: string) => asked<PastShow>(`/backups/${name}`);

/** A show of the past, or one thing of it among what stands now. */
export interface Past {
  bodies: Bodies;
  /** ISO 8601. */
  savedAt: string;
  /** What it is called, or the edit after which it stood. */
  words: string;
}

/** The past by an address: `v-` and the number of a saved state, `s-` and a named state, `b-` and a backup. */
export async function pastAt(source: string, now: Bodies): Promise<Answer<Past>> {
  const [of, rest] = [source.slice(0, 2), source.slice(2)];
  if (of !== 'v-') {
    const show = await (of === 's-' ? namedState(rest) : backupAt(rest));
    if (!show.ok) return show;
    const { name, savedAt } = show.value;
    return { ok: true, value: { bodies: bodiesOfPast(show.value), savedAt, words: name } };
  }
  const version = await versionAt(Number(rest));
  if (!version.ok) return version;
  const { kind, id, body, savedAt, label, name } = version.value;
  if (body === null) return { ok: false, problem: 'It was deleted then.' };
  const bodies = { ...now, [kind]: { ...now[kind], [id]: body } };
  return { ok: true, value: { bodies, savedAt, words: name ?? label ?? body.name } };
}

/** Its bodies by their ids. */
export function bodiesOfPast({ bodies }: PastShow): Bodies {
  const all: Record<string, Record<string, Body>> = {};
  for (const kind of KIND_NAMES) all[kind] = Object.fromEntries((bodies[kind] ?? []).map((body) => [body.id, body]));
  return all as unknown as Bodies;
}
