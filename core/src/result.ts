/** An expected failure is a value; a bug is a throw. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

/** A value that was to be had. */
export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
/** An expected failure. */
export const fail = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });

/** @throws Error always: the compiler has proved that this case cannot be reached. */
export function assertNever(value: never): never {
  throw new Error(`unexpected case: ${JSON.stringify(value)}`);
}

/** @throws Error with the message when the condition is false: a bug of ours, never bad input. */
export function invariant(condition: unknown, message: string): asserts condition {
  if (!condition) throw new Error(message);
}
