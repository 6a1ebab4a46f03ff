import type { VelocityResponse, Zone } from './layer';

const tables = new Map<string, Uint8Array>();

/**
 * Share of a zone that plays at a place between its ends, where it fades in over `fadeIn` steps and out over `fadeOut`;
 * never nothing.
 */
export function fadeAt(at: number, lowest: number, highest: number, fadeIn: number, fadeOut: number): number {
  return Math.min(1, Math.max(0, (at - lowest + 1) / (fadeIn + 1)), Math.max(0, (highest - at + 1) / (fadeOut + 1)));
}

type Fades = Pick<Zone, 'lowVelocity' | 'highVelocity' | 'fadeSoft' | 'fadeHard'>;
const NO_FADES: Fades = { lowVelocity: 1, highVelocity: 127, fadeSoft: 0, fadeHard: 0 };

/**
 * Out velocity by in velocity (0–127), always 1–127: the curve (a power of 2^(curve/50)), then the limits, then the
 * fades at the ends of the zone.
 * Equal responses share one table; at most 201 × 127 × 127 can exist, in practice a handful.
 */
export function velocityTable(response: VelocityResponse, zone: Fades = NO_FADES): Uint8Array {
  const fades = zone.fadeSoft > 0 || zone.fadeHard > 0;
  const key = `${response.curve} ${response.lowest} ${response.highest}${fades ? ` ${zone.lowVelocity} ${zone.highVelocity} ${zone.fadeSoft} ${zone.fadeHard}` : ''}`;
  const known = tables.get(key);
  if (known) return known;
  const exponent = 2 ** (response.curve / 50);
  const highest = Math.max(response.lowest, response.highest);
  const table = Uint8Array.from({ length: 128 }, (_, velocity) => {
    const curved = Math.round(127 * (velocity / 127) ** exponent);
    const limited = Math.min(highest, Math.max(response.lowest, curved, 1));
    return fades
      ? Math.max(
          1,
          Math.round(limited * fadeAt(velocity, zone.lowVelocity, zone.highVelocity, zone.fadeSoft, zone.fadeHard)),
        )
      : limited;
  });
  tables.set(key, table);
  return table;
}
