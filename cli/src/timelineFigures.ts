import { SongMap, steadyMap } from '@rackle/core/show';
import { TempoMap } from '@rackle/core/timeline';

/** What a song's map gives away and takes. */
export interface TimelineFigures {
  /** Largest difference of ticks → time → ticks → time over an hour with 500 tempos, every other a ramp; µs. */
  worstPositionUs: number;
  /** Ticks that did not come back as themselves. */
  ticksLost: number;
  /** CPU of making the map of 500 tempos, ms. */
  mapMs: number;
}

const TEMPOS = 500;
const LOOKS = 200_000;
const HOUR_MS = 3_600_000;

/** An hour of 500 tempos between 40 and 240. */
function hour(): SongMap {
  const everyTick = Math.round((120 * 60 * 960) / TEMPOS);
  return SongMap.parse({
    ...steadyMap(),
    bars: 10_000,
    tempos: Array.from({ length: TEMPOS }, (_, i) => ({
      atTick: i * everyTick,
      bpm: 40 + ((i * 7919) % 2000) / 10,
      ramp: i % 2 === 0,
    })),
  });
}

export function timelineFigures(): TimelineFigures {
  const song = hour();
  let map = new TempoMap(song);
  const start = process.cpuUsage();
  for (let i = 0; i < 100; i++) map = new TempoMap(song);
  const { user, system } = process.cpuUsage(start);
  const lastTick = Math.floor(map.tickAt(HOUR_MS));
  let worstPositionUs = 0;
  let ticksLost = 0;
  for (let i = 0; i <= LOOKS; i++) {
    const tick = Math.round((i / LOOKS) * lastTick);
    const ms = map.msAt(tick);
    const again = map.tickAt(ms);
    if (again !== tick) ticksLost++;
    // Between ticks as well: a time that no tick has.
    const between = ms + 0.123;
    worstPositionUs = Math.max(
      worstPositionUs,
      Math.abs(map.msAt(again) - ms) * 1000,
      Math.abs(map.msAt(map.tickAt(between)) - between) * 1000,
    );
  }
  return { worstPositionUs, ticksLost, mapMs: (user + system) / 1000 / 100 };
}
