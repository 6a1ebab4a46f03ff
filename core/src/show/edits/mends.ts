import { KIND_NAMES, bodyOf, type Bodies, type Body, type Kind } from '../kinds';
import { sameBody } from '../sameBody';
import type { Draft } from '../changes';

/**
 * A value to be put at a place within something. `at` leads there by field names, and by what items of lists are known by
 * (`{ field: value }`, all of it). What stands there must still be `was`, else it is not done.
 */
export interface MendStep {
  kind: Kind;
  id: string;
  at: readonly (string | Readonly<Record<string, unknown>>)[];
  was: unknown;
  now: unknown;
}

/** @returns null where something is no longer as it was. */
export function mended(bodies: Bodies, steps: readonly MendStep[]): Draft | null {
  const changed = new Map<string, { kind: Kind; body: Body }>();
  for (const { kind, id, at, was, now } of steps) {
    const key = `${kind} ${id}`;
    const body = changed.get(key)?.body ?? bodyOf(bodies, kind, id);
    const next = body === null ? undefined : put(body, at, was, now);
    if (next === undefined) return null;
    changed.set(key, { kind, body: next as Body });
  }
  const draft: Record<string, Body[]> = {};
  for (const kind of KIND_NAMES) {
    const of = [...changed.values()].filter((one) => one.kind === kind).map(({ body }) => body);
    if (of.length > 0) draft[kind] = of;
  }
  return draft as Draft;
}

/** The same with a value put into it; undefined where it does not stand as it did. */
function put(value: unknown, at: MendStep['at'], was: unknown, now: unknown): unknown {
  if (at.length === 0) return sameBody(value, was) ? now : undefined;
  const [step, ...rest] = at;
  if (typeof step === 'string') {
    if (typeof value !== 'object' || value === null) return undefined;
    const next = put((value as Record<string, unknown>)[step], rest, was, now);
    return next === undefined ? undefined : { ...value, [step]: next };
  }
  if (!Array.isArray(value)) return undefined;
  const i = value.findIndex((item: unknown) => isKnownBy(item, step));
  const next = i < 0 ? undefined : put(value[i], rest, was, now);
  if (next === undefined) return undefined;
  return (value as unknown[]).map((item, j) => (j === i ? next : item));
}

const isKnownBy = (item: unknown, fields: Readonly<Record<string, unknown>>): boolean =>
  typeof item === 'object' &&
  item !== null &&
  Object.entries(fields).every(([field, value]) => sameBody((item as Record<string, unknown>)[field], value));
