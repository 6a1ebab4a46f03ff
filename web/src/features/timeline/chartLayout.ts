import type { Cue, Song } from '@rackle/core/show';
import { placedCues, tempoMapOfSong, type TempoMap } from '@rackle/core/timeline';
import { LANES } from './cueWords';

/** A cue where it hangs in the chart. */
export interface Flag {
  key: string;
  cue: Cue;
  atTick: number;
  /** It runs here because a section repeats another one; it is moved there. */
  isRepeat: boolean;
}

/** A stretch in which one patch or blend sounds. */
export interface Stretch {
  key: string;
  fromTick: number;
  toTick: number;
  patchId: string;
  blendId: string | null;
  /** The cue that recalls it; null: it sounds before the first of them. */
  flag: Flag | null;
}

/** What the chart draws of a song. */
export interface ChartLayout {
  stretches: readonly Stretch[];
  lanes: readonly { id: string; name: string; flags: readonly Flag[] }[];
}

/** Every cue as a flag, those that are off too, in the order of ticks. */
function flagsOf(song: Song): Flag[] {
  const shown = { ...song, cues: song.cues.map((cue) => ({ ...cue, off: false })) };
  const own = new Map(song.cues.map((cue) => [cue.id as string, cue]));
  return placedCues(shown).map(({ cue, atTick, key }) => ({
    key,
    cue: own.get(cue.id)!,
    atTick,
    isRepeat: key !== cue.id,
  }));
}

/** Which patch sounds from where to where, and what hangs in each lane that has anything. */
export function chartLayout(song: Song): ChartLayout {
  const { endTick } = tempoMapOfSong(song);
  const flags = flagsOf(song);
  const recalls = flags.filter(({ cue, atTick }) => cue.kind === 'recall' && atTick < endTick);
  const stretches: Stretch[] = [];
  const [first] = song.patches;
  if (first && (recalls[0]?.atTick ?? endTick) > 0)
    stretches.push({
      key: 'before',
      fromTick: 0,
      toTick: recalls[0]?.atTick ?? endTick,
      patchId: first.id,
      blendId: null,
      flag: null,
    });
  recalls.forEach((flag, i) => {
    if (flag.cue.kind !== 'recall') return;
    const { patchId, blendId } = flag.cue;
    const toTick = recalls[i + 1]?.atTick ?? endTick;
    stretches.push({ key: flag.key, fromTick: flag.atTick, toTick, patchId, blendId, flag });
  });
  return {
    stretches,
    lanes: LANES.map(({ id, name, kinds }) => ({
      id,
      name,
      flags: flags.filter(({ cue }) => kinds.includes(cue.kind)),
    })).filter((lane) => lane.flags.length > 0),
  };
}

/** What things that are dragged keep to. */
export const SNAPS = ['section', 'bar', 'beat', 'division', 'off'] as const;
export type Snap = (typeof SNAPS)[number];
const DIVISIONS = 4;

/** The nearest place that a snap allows; `section` knows starts and ends of sections, and bars where there is none. */
export function snapped(tick: number, snap: Snap, map: TempoMap, song: Song): number {
  const inside = Math.max(0, Math.min(map.endTick - 1, Math.round(tick)));
  if (snap === 'off') return inside;
  if (snap === 'section' && song.sections.length > 0) {
    const ends = song.sections.flatMap(({ fromTick, toTick }) => [fromTick, toTick]).filter((at) => at < map.endTick);
    return nearest(inside, ends);
  }
  const from = Math.max(0, map.barFrom(inside));
  const to = map.barTo(inside);
  if (snap === 'bar' || snap === 'section')
    return nearest(
      inside,
      [from, to].filter((at) => at < map.endTick),
    );
  const step = map.ticksPerBeatAt(inside) / (snap === 'division' ? DIVISIONS : 1);
  const start = map.barFrom(inside);
  const at = start + Math.round((inside - start) / step) * step;
  return Math.max(0, Math.min(at, to, map.endTick - 1));
}

const nearest = (tick: number, places: readonly number[]): number =>
  places.reduce((best, at) => (Math.abs(at - tick) < Math.abs(best - tick) ? at : best), places[0] ?? tick);

/** Length of one step of a snap at a tick, for keys. */
export function stepOf(tick: number, snap: Snap, map: TempoMap): number {
  const beat = map.ticksPerBeatAt(tick);
  if (snap === 'off') return 1;
  if (snap === 'division') return beat / DIVISIONS;
  return snap === 'beat' ? beat : map.barTo(tick) - Math.max(0, map.barFrom(tick));
}
