/**
 * Whether two JSON values say the same, whatever objects they are. A field that is undefined says as much as one that is
 * not there: JSON keeps neither.
 */
export function sameBody(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((item, i) => sameBody(item, b[i]));
  const [from, to] = [a as Record<string, unknown>, b as Record<string, unknown>];
  for (const field in from) if (!sameBody(from[field], to[field])) return false;
  for (const field in to) if (to[field] !== undefined && from[field] === undefined) return false;
  return true;
}
