/** Everything that the API refuses, with its status and its words. Codes are stable; clients may rely on them. */
export const PROBLEMS = {
  invalid: { status: 422, title: 'This cannot be saved as it is' },
  'not-json': { status: 400, title: 'This is not a JSON document' },
  'not-a-show': { status: 422, title: 'This is not a Rackle show' },
  'newer-version': { status: 422, title: 'This show was saved by a newer Rackle' },
  'broken-reference': { status: 422, title: 'Something in it points at nothing' },
  'id-mismatch': { status: 422, title: 'The id in the document is not the one in the address' },
  'not-found': { status: 404, title: 'It is not there' },
  stale: { status: 412, title: 'It has been changed elsewhere in the meantime' },
  'other-data': { status: 409, title: 'It was made for other data' },
  'edit-changed': { status: 409, title: 'This edit was saved with other content' },
  'wrong-type': { status: 415, title: 'This is not JSON by its type' },
  'revision-missing': { status: 428, title: 'Say which revision is being changed' },
  'in-use': { status: 409, title: 'It is in use' },
  unreadable: { status: 422, title: 'This cannot be read' },
  'file-broken': { status: 422, title: 'This file cannot be used' },
  'too-large': { status: 413, title: 'This is too large' },
  'not-from-here': { status: 403, title: 'Rackle only answers pages of its own' },
  'storage-busy': { status: 503, title: 'The database is in use by another program' },
  'storage-read-only': { status: 503, title: 'The database cannot be written' },
  'storage-full': { status: 507, title: 'The disk is full' },
  'storage-failed': { status: 503, title: 'The database does not answer' },
  unexpected: { status: 500, title: 'Something went wrong in Rackle' },
} as const;

/** Codes of problem documents (RFC 9457); they stay the same. */
export type ProblemCode = keyof typeof PROBLEMS;

/**
 * A refusal that becomes an RFC 9457 problem document. `detail` says what happened, that nothing was lost, what to do.
 */
export class Problem extends Error {
  override readonly name = 'Problem';

  constructor(
    readonly code: ProblemCode,
    readonly detail: string,
    readonly path: (string | number)[] = [],
    readonly extra: object = {},
  ) {
    super(`${code}: ${detail}`);
  }

  get status(): number {
    return PROBLEMS[this.code].status;
  }

  toDocument(instance: string): object {
    return {
      type: `urn:rackle:problem:${this.code}`,
      code: this.code,
      title: PROBLEMS[this.code].title,
      status: this.status,
      detail: this.detail,
      instance,
      ...(this.path.length > 0 ? { path: this.path } : {}),
      ...this.extra,
    };
  }
}
