import { ticksPerBar, type Meter, type MeterEntry, type SongMap, type TempoEntry } from '../show';
import { tempoMapOf } from './tempoMap';

/** With a tempo from a tick on; one that stands there is changed. */
export const withTempoAt = (map: SongMap, entry: TempoEntry): SongMap => ({
  ...map,
  tempos: [...map.tempos.filter(({ atTick }) => atTick !== entry.atTick), entry].sort((a, b) => a.atTick - b.atTick),
});

/** Without the tempo at a tick; the first one stays. */
export const withoutTempoAt = (map: SongMap, tick: number): SongMap => ({
  ...map,
  tempos: map.tempos.filter(({ atTick }) => atTick === 0 || atTick !== tick),
});

/** With a meter from a bar on. Ticks stay: what follows keeps its place in time, and its bars get other numbers. */
export const withMeterAt = (map: SongMap, bar: number, meter: Meter): SongMap => {
  const tick = tempoMapOf(map).barTick(bar);
  return metered(map, [...meterTicks(map).filter((entry) => entry.tick !== tick), { ...meter, tick }]);
};

/** Without the meter change at a bar; the first meter stays. Ticks stay here too. */
export const withoutMeterAt = (map: SongMap, bar: number): SongMap =>
  metered(
    map,
    meterTicks(map).filter((_, i) => i === 0 || map.meters[i].bar !== bar),
  );

/** With an upbeat of so many ticks (0: none). Ticks stay: bars begin elsewhere, and get other numbers. */
export const withUpbeat = (map: SongMap, upbeatTicks: number): SongMap =>
  metered({ ...map, upbeatTicks }, meterTicks(map), tempoMapOf(map).endTick);

/** A meter from a tick on. */
export interface MeterTick extends Meter {
  tick: number;
}

/** Meters by the ticks at which they begin. */
export const meterTicks = (map: SongMap): MeterTick[] =>
  map.meters.map(({ bar, beats, unit }) => ({ tick: tempoMapOf(map).barTick(bar), beats, unit }));

/** The map with these meters: the bar before each ends early where it has to; it is no shorter than before. */
export function metered(map: SongMap, changes: readonly MeterTick[], endTick = tempoMapOf(map).endTick): SongMap {
  const [first, ...rest] = [...changes].sort((a, b) => a.tick - b.tick);
  const upbeatTicks = map.upbeatTicks % ticksPerBar(first);
  const meters: MeterEntry[] = [{ bar: 1, beats: first.beats, unit: first.unit, early: 0 }];
  let at = upbeatTicks;
  for (const { tick, beats, unit } of rest) {
    const last = meters[meters.length - 1];
    const bars = Math.ceil((tick - at) / ticksPerBar(last));
    meters.push({ bar: last.bar + bars, beats, unit, early: bars * ticksPerBar(last) - (tick - at) });
    at = tick;
  }
  const last = meters[meters.length - 1];
  const left = Math.ceil((endTick - at) / ticksPerBar(last));
  return { ...map, meters, upbeatTicks, bars: last.bar - 1 + Math.max(1, left) };
}
