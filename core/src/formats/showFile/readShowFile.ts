import { fail, ok, type Result } from '../../result';
import { SHOW_FORMAT, SHOW_VERSION, Show, type Kind, type Kinds } from '../../show';
import { migrations } from './migrations';

/** What is wrong with a show file. */
export type ShowFileErrorCode = 'not-json' | 'not-a-show' | 'newer-version' | 'invalid';

/** Why a show file cannot be read, and where. */
export interface ShowFileError {
  code: ShowFileErrorCode;
  message: string;
  /** Where in the document, for `invalid`. */
  path: (string | number)[];
}

/**
 * One body that was kept by a Rackle of an earlier show version, brought up by the show file's own migrations.
 * @returns null when it cannot be read
 */
export function migratedBody<K extends Kind>(kind: K, body: unknown, version: number): Kinds[K] | null {
  const read = readShowDocument({ format: SHOW_FORMAT, version, [kind]: [body] });
  return read.ok ? ((read.value[kind] as Kinds[K][])[0] ?? null) : null;
}

/** Reads a show file's text. References are not checked here: see `showFaults`. */
export function readShowFile(text: string): Result<Show, ShowFileError> {
  let document: unknown;
  try {
    document = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (cause) {
    return fail({
      code: 'not-json',
      message: `this is not a JSON document (${cause instanceof Error ? cause.message : 'unreadable'})`,
      path: [],
    });
  }
  return readShowDocument(document);
}

/** The same from a parsed JSON document; older versions are migrated. */
export function readShowDocument(document: unknown): Result<Show, ShowFileError> {
  if (typeof document !== 'object' || document === null || (document as { format?: unknown }).format !== SHOW_FORMAT) {
    return fail({
      code: 'not-a-show',
      message: `this is not a Rackle show: its "format" is not "${SHOW_FORMAT}"`,
      path: ['format'],
    });
  }
  const { version } = document as { version?: unknown };
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return fail({ code: 'not-a-show', message: 'the show has no version number', path: ['version'] });
  if (version > SHOW_VERSION) {
    return fail({
      code: 'newer-version',
      message: `this show was saved by a newer Rackle (version ${version}; this one reads up to ${SHOW_VERSION})`,
      path: ['version'],
    });
  }
  let current: unknown = document;
  for (const migration of migrations.slice(version - 1)) current = migration.step(current);
  const parsed = Show.safeParse(current);
  if (parsed.success) return ok(parsed.data);
  const [issue] = parsed.error.issues;
  const path = issue.path.map((key) => (typeof key === 'symbol' ? String(key) : key));
  return fail({ code: 'invalid', message: `${path.join(' → ') || 'the document'}: ${issue.message}`, path });
}
