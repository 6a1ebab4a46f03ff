import type { Ringing } from './ringOn';

/** A point of a fall that is straight in decibels between its points: seconds, dB below its top. */
export interface FallPoint {
  s: number;
  db: number;
}

const SILENT_DB = -100;
const RANGE_DB = 96;
const SHORTEST_S = 0.005;

/**
 * How a note falls from the top of its envelope: hold, then decay to `sustainDb` at 96 dB in `decayS`; and where its
 * sample was cut, as that rings on.
 * @param rate of the sample; @param topS after the note began
 * @returns its points in order, the first of them where it begins to fall; none where it does not. The last is at
 * −100 dB where it comes to nothing.
 */
export function fallOf(
  { holdS, decayS, sustainDb }: { holdS: number; decayS: number; sustainDb: number },
  ringing: Ringing | null,
  rate: number,
  topS: number,
): FallPoint[] {
  const toDb = Math.max(SILENT_DB, sustainDb);
  const downS = holdS + Math.max(SHORTEST_S, (decayS * Math.min(RANGE_DB, -toDb)) / RANGE_DB);
  const byEnvelope = (s: number): number =>
    toDb >= 0 || s <= holdS ? 0 : s >= downS ? toDb : (toDb * (s - holdS)) / (downS - holdS);
  const ringsFromS = ringing ? Math.max(0, ringing.fromS / rate - topS) : 0;
  const ringsDbPerS = ringing ? ringing.dbPerS * rate : 0;
  const at = (s: number): number => byEnvelope(s) - ringsDbPerS * Math.max(0, s - ringsFromS);
  const turns = [...(toDb < 0 ? [holdS, downS] : []), ...(ringsDbPerS > 0 ? [ringsFromS] : [])].sort((a, b) => a - b);
  const points: FallPoint[] = [];
  for (const s of turns) {
    const db = at(s);
    const last = points.at(-1);
    if (db <= SILENT_DB) {
      if (last && db < SILENT_DB) {
        points.push({ s: last.s + ((s - last.s) * (SILENT_DB - last.db)) / (db - last.db), db: SILENT_DB });
        return points;
      }
      points.push({ s, db: SILENT_DB });
      return points;
    }
    points.push({ s, db });
  }
  const last = points.at(-1);
  if (last && ringsDbPerS > 0) points.push({ s: last.s + (last.db - SILENT_DB) / ringsDbPerS, db: SILENT_DB });
  return points;
}
