import {
  ticksPerBar,
  withBackingTicks,
  withSections,
  type CueId,
  type Meter,
  type Section,
  type Song,
  type SongMap,
  type TempoEntry,
} from '../show';
import { tempoMapOf, type TempoMap } from './tempoMap';

/** With a meter from a bar on, or (null) without the change there; every bar keeps its number. */
export function withMeterOfBar(map: SongMap, bar: number, meter: Meter | null): SongMap {
  const others = map.meters.filter((entry) => entry.bar !== bar);
  const entry = meter === null ? [] : [{ bar, beats: meter.beats, unit: meter.unit, early: 0 }];
  const meters = [...others, ...entry].sort((a, b) => a.bar - b.bar);
  return {
    ...map,
    upbeatTicks: map.upbeatTicks % ticksPerBar(meters[0]),
    // A bar that ended early and is too short for that now is whole.
    meters: meters.map((one, i) => ({
      ...one,
      early: i > 0 && one.early < ticksPerBar(meters[i - 1]) ? one.early : 0,
    })),
  };
}

/** Where a tick stands in its bar, in another map: as far behind the bar's start, or at the bar's last tick. */
function moved(tick: number, from: TempoMap, to: TempoMap): number {
  const { bar } = from.positionAt(tick);
  const length = to.barTick(bar + 1) - to.barTick(bar);
  // An upbeat is counted from its end.
  const into = bar === 0 ? Math.max(0, length - (from.barTick(1) - tick)) : tick - from.barTick(bar);
  return to.barTick(bar) + Math.max(0, Math.min(length - 1, into));
}

/**
 * A song with another map: its cues, sections and tempos go along with their bars, wherever those begin now.
 * @param map whose tempos are still where they were
 */
export function withMapAndBars(song: Song, map: SongMap, mint: () => CueId): Song {
  const [from, to] = [tempoMapOf(song.map), tempoMapOf(map)];
  const place = (tick: number): number => moved(tick, from, to);
  const tempos = new Map<number, TempoEntry>();
  for (const tempo of map.tempos) {
    const atTick = tempo.atTick === 0 ? 0 : place(tempo.atTick);
    tempos.set(atTick, { ...tempo, atTick });
  }
  const sections = song.sections
    .map((section): Section => {
      const toTick = section.toTick >= from.endTick ? to.endTick : place(section.toTick);
      return { ...section, fromTick: section.fromTick === 0 ? 0 : place(section.fromTick), toTick };
    })
    .filter(({ fromTick, toTick }) => toTick > fromTick);
  const next = {
    ...song,
    map: { ...map, tempos: [...tempos.values()].sort((a, b) => a.atTick - b.atTick) },
    cues: song.cues.map((cue) => ({ ...cue, atTick: cue.atTick === 0 ? 0 : place(cue.atTick) })),
    backing: song.backing.map((part) => withBackingTicks(part, (tick) => (tick === 0 ? 0 : place(tick)))),
    lyrics: song.lyrics.map((lyric) => ({ ...lyric, atTick: lyric.atTick === 0 ? 0 : place(lyric.atTick) })),
  };
  return withSections(next, sections, mint);
}
