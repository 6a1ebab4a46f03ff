import type { Section, Song, SongMap, TempoEntry } from '../show';
import { meterTicks, metered, type MeterTick } from './mapEdits';
import { TempoMap, tempoMapOf } from './tempoMap';

type Mapped = Pick<Song, 'map' | 'sections'>;
interface Range {
  fromTick: number;
  toTick: number;
}

const isIn = (tick: number, { fromTick, toTick }: Range): boolean => tick >= fromTick && tick < toTick;

/** Tempos of a stretch from its start on, as if it began with an entry and ended with what holds at its last tick. */
function temposOf(map: SongMap, range: Range): TempoEntry[] {
  const times = tempoMapOf(map);
  const { fromTick, toTick } = range;
  const first = map.tempos.findLast(({ atTick }) => atTick <= fromTick)!;
  const inside = map.tempos.filter(({ atTick }) => atTick > fromTick && atTick < toTick);
  const entries = [{ ...first, atTick: fromTick, bpm: times.bpmAt(fromTick) }, ...inside];
  const last = entries[entries.length - 1];
  // A ramp that goes on beyond the end comes as far as it has come there.
  if (last.ramp && toTick - 1 > last.atTick && map.tempos.some(({ atTick }) => atTick > toTick))
    entries.push({ atTick: toTick - 1, bpm: times.bpmAt(toTick - 1), ramp: false });
  return entries.map((entry) => ({ ...entry, atTick: entry.atTick - fromTick }));
}

/** A map whose tempos in one stretch are those of another; what comes behind stays as it was. */
function withTemposOf(map: SongMap, from: Range, to: Range): SongMap {
  const behind = temposOf(map, { fromTick: to.toTick, toTick: Infinity }).slice(0, 1);
  const before = to.fromTick === 0 ? [] : temposOf(map, { fromTick: 0, toTick: to.fromTick });
  const entries = [
    ...before,
    ...map.tempos.filter(({ atTick }) => atTick > to.toTick),
    ...temposOf(map, from).map((entry) => ({ ...entry, atTick: entry.atTick + to.fromTick })),
    ...behind.map((entry) => ({ ...entry, atTick: to.toTick })),
  ].sort((a, b) => a.atTick - b.atTick);
  // What says nothing new is left out.
  const tempos = entries.filter(
    ({ bpm, ramp }, i) => i === 0 || ramp || entries[i - 1].ramp || entries[i - 1].bpm !== bpm,
  );
  return { ...map, tempos };
}

const isSameMeter = (a: MeterTick | undefined, b: MeterTick): boolean => a?.beats === b.beats && a.unit === b.unit;

/** The same for meters; ticks stay, and bars get other numbers. */
function withMetersOf(map: SongMap, from: Range, to: Range): SongMap {
  const times = tempoMapOf(map);
  const changes = meterTicks(map);
  const at = (tick: number, place: number): MeterTick => {
    const { beats, unit } = times.meterAt(tick);
    return { tick: place, beats, unit };
  };
  const entries = [
    ...changes.filter(({ tick }, i) => i === 0 || (!isIn(tick, to) && tick !== to.toTick)),
    at(from.fromTick, to.fromTick),
    ...changes
      .filter(({ tick }) => tick > from.fromTick && tick < from.toTick)
      .map((entry) => ({ ...entry, tick: entry.tick - from.fromTick + to.fromTick })),
    at(to.toTick, to.toTick),
  ]
    .filter(({ tick }) => tick < times.endTick)
    .sort((a, b) => a.tick - b.tick);
  const said = entries.filter((entry, i) => i === 0 || !isSameMeter(entries[i - 1], entry));
  const isAsBefore =
    said.length === changes.length &&
    said.every((entry, i) => entry.tick === changes[i].tick && isSameMeter(changes[i], entry));
  return isAsBefore ? map : metered(map, said, times.endTick);
}

const originalOf = (sections: readonly Section[], section: Section): Section | undefined =>
  sections.find(({ id }) => id === section.repeats);

/**
 * The map of a song as it is played: a section that repeats another one has its tempo and meter, at the same places
 * from its start. The very map where that is so already.
 */
export function repeatedMap({ map, sections }: Mapped): SongMap {
  let made = withoutLastRamp(map);
  for (const section of sections) {
    const original = originalOf(sections, section);
    if (original === undefined) continue;
    const next = withMetersOf(withTemposOf(made, original, section), original, section);
    if (!tempoMapOf(next).hasTemposOf(tempoMapOf(made)) || next.meters !== made.meters) made = next;
  }
  return made.meters === map.meters && tempoMapOf(made).hasTemposOf(tempoMapOf(map)) ? map : made;
}

/** A ramp that leads nowhere holds its tempo, also where something is put behind it. */
const withoutLastRamp = (map: SongMap): SongMap => ({
  ...map,
  tempos: map.tempos.map((entry, i, all) => (i === all.length - 1 && entry.ramp ? { ...entry, ramp: false } : entry)),
});

const playedMaps = new WeakMap<SongMap, { sections: readonly Section[]; times: TempoMap }>();

/** Ticks, time and places of a song as it is played, made once for each state of its map and sections. */
export function tempoMapOfSong(song: Mapped): TempoMap {
  const known = playedMaps.get(song.map);
  if (known?.sections === song.sections) return known.times;
  const times = tempoMapOf(repeatedMap(song));
  playedMaps.set(song.map, { sections: song.sections, times });
  return times;
}

const isSameIn = (a: SongMap, b: SongMap, range: Range): boolean => {
  const words = (map: SongMap): string =>
    JSON.stringify([temposOf(map, range), meterTicks(map).filter(({ tick }) => isIn(tick, range))]);
  return words(a) === words(b);
};

/**
 * A song whose map or sections have been edited: what was changed within one of several equal sections holds in all of
 * them.
 */
export function withEqualMaps(before: Song, song: Song): Song {
  if (before.map === song.map && before.sections === song.sections) return song;
  let map = withoutLastRamp(song.map);
  for (const section of song.sections) {
    const original = originalOf(song.sections, section);
    const was = before.sections.find(({ id }) => id === section.id);
    // It repeated already, and was edited itself: the original becomes like it.
    if (original === undefined || was?.repeats !== section.repeats) continue;
    if (isSameIn(before.map, song.map, section) || !isSameIn(before.map, song.map, original)) continue;
    map = withMetersOf(withTemposOf(map, section, original), section, original);
  }
  map = repeatedMap({ map, sections: song.sections });
  return map === song.map ? song : { ...song, map };
}
