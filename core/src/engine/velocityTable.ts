import type { VelocityResponse } from '../show';

const tables = new Map<string, Uint8Array>();

/**
 * Out velocity by in velocity (0–127), always 1–127: the curve (a power of 2^(curve/50)), then the limits.
 * Equal responses share one table; at most 201 × 127 × 127 can exist, in practice a handful.
 */
export function velocityTable(response: VelocityResponse): Uint8Array {
  const key = `${response.curve} ${response.lowest} ${response.highest}`;
  const known = tables.get(key);
  if (known) return known;
  const exponent = 2 ** (response.curve / 50);
  const highest = Math.max(response.lowest, response.highest);
  const table = Uint8Array.from({ length: 128 }, (_, velocity) => {
    const curved = Math.round(127 * (velocity / 127) ** exponent);
    return Math.min(highest, Math.max(response.lowest, curved, 1));
  });
  tables.set(key, table);
  return table;
}
