import type { CourseBits } from './bits';

/** More loads than any evening has. */
const IMPOSSIBLE = 60_000;

/**
 * How many loads are yet to come behind a stop at least, by stop and by what is held from there on: as many as if all
 * loads took no time. What is held at the next stop is chosen for each unit by itself: to keep it, to let go of it and to
 * be without it costs nothing, to load it costs one; so the best choice is found unit after unit.
 * @param mostBytes how much may be in memory, where what has to be there leaves that
 */
export function loadsAtLeast(bits: CourseBits, mostBytes: number): readonly Uint16Array[] {
  const { bytes, base } = bits;
  const last = base.length - 1;
  const behind: Uint16Array[] = [];
  behind[last] = new Uint16Array(bytes.length);
  for (let stop = last - 1; stop >= 0; stop--) {
    const must = base[stop + 1];
    const loads = behind[stop + 1].map((atNext, held) =>
      (held & must) === must && (bytes[held] <= mostBytes || held === must) ? atNext : IMPOSSIBLE,
    );
    for (let unit = 1; unit < loads.length; unit <<= 1) {
      for (let first = 0; first < loads.length; first += 2 * unit) {
        for (let held = first; held < first + unit; held++) {
          const without = loads[held];
          const withIt = loads[held + unit];
          if (withIt + 1 < without) loads[held] = withIt + 1;
          if (without < withIt) loads[held + unit] = without;
        }
      }
    }
    behind[stop] = loads;
  }
  return behind;
}
