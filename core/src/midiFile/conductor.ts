import type { SmfFile, SmfMeta } from '../formats/smf';
import {
  FASTEST_BPM,
  SLOWEST_BPM,
  ticksPerBar,
  type Meter,
  type MeterEntry,
  type SongMap,
  type TempoEntry,
} from '../show';
import type { FileText } from './texts';

/** Tempo, meter and key of a file, from all its tracks. */
export interface Conductor {
  map: SongMap;
  /** “D minor”, as the file begins; empty: it does not say. */
  key: string;
  /** Tempos of a file in frames, which are no tempo there. */
  tempoTexts: FileText[];
  words: string[];
}

const US_A_MINUTE = 60_000_000;
const MOST_ENTRIES = 2000;
const MOST_BARS = 10_000;
const MAJORS = ['C♭', 'G♭', 'D♭', 'A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯'];
const MINORS = ['A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯', 'G♯', 'D♯', 'A♯'];
const UNITS = [1, 2, 4, 8, 16, 32, 64];

type Placed<K extends SmfMeta['kind']> = Extract<SmfMeta, { kind: K }> & { at: number };

/**
 * The conductor of a file: events of all tracks together, of one tick the last in the order of tracks, then of the file.
 * @param place tick of a song for a tick of a track; @param starts where each track begins, which matters for patterns
 * @param framesBpm tempo that a file in frames is placed on; null: it is not in frames
 */
export function conductorOf(
  file: SmfFile,
  place: (tick: number, track: number) => number,
  starts: readonly number[],
  lastTick: number,
  framesBpm: number | null,
): Conductor {
  const words: string[] = [];
  const all = <K extends SmfMeta['kind']>(kind: K): Placed<K>[] =>
    file.tracks
      .flatMap(({ metas }, t) =>
        metas.flatMap((meta) => (meta.kind === kind ? [{ ...(meta as Placed<K>), at: place(meta.atTick, t) }] : [])),
      )
      .filter(({ at }) => at < lastTick)
      .sort((a, b) => a.at - b.at);
  const tempos = all('tempo').filter(({ usPerQuarter }) => usPerQuarter > 0);
  const noTempo = all('tempo').length - tempos.length;
  if (noTempo > 0) words.push(`${noTempo === 1 ? 'a tempo of 0 is' : `${noTempo} tempos of 0 are`} left out`);
  const isPatterns = file.format === 2;
  // A pattern that says nothing begins at 120 and in 4/4.
  const defaults = isPatterns ? starts.filter((at) => at < lastTick) : [0];
  const entries = new Map<number, TempoEntry>(
    defaults.map((atTick) => [atTick, { atTick, bpm: framesBpm ?? 120, ramp: false }]),
  );
  let limited = 0;
  if (framesBpm === null)
    for (const { at, usPerQuarter } of tempos) {
      const bpm = bpmOf(usPerQuarter);
      const inside = Math.max(SLOWEST_BPM, Math.min(FASTEST_BPM, bpm));
      if (Math.abs(inside - bpm) > 0.005) limited++;
      entries.set(at, { atTick: at, bpm: inside, ramp: false });
    }
  if (limited > 0)
    words.push(`${limited} tempo${limited === 1 ? ' is' : 's are'} faster than ${FASTEST_BPM} and held there`);
  const given = all('meter').filter(({ beats, unit }) => beats > 0 && UNITS.includes(unit));
  const unsound = all('meter').length - given.length;
  if (unsound > 0)
    words.push(`${unsound === 1 ? 'a meter that is none is' : `${unsound} meters that are none are`} left out`);
  const meters = new Map<number, Meter>(defaults.map((at) => [at, { beats: 4, unit: 4 }]));
  for (const { at, beats, unit } of given) meters.set(at, { beats, unit: unit as Meter['unit'] });
  const [key] = all('key');
  return {
    map: mapOf(
      sorted(entries).map(([, entry]) => entry),
      sorted(meters),
      lastTick,
      words,
    ),
    key: key === undefined ? '' : keyWords(key.sharps, key.isMinor),
    tempoTexts:
      framesBpm === null
        ? []
        : tempos.map(({ at, usPerQuarter }) => ({
            kind: 'text',
            atTick: at,
            track: 1,
            bytes: new TextEncoder().encode(`tempo ${Math.round((US_A_MINUTE / usPerQuarter) * 100) / 100}`),
          })),
    words,
  };
}

/** Quarter notes a minute, with as few decimals as give exactly these microseconds again. */
function bpmOf(usPerQuarter: number): number {
  const exact = US_A_MINUTE / usPerQuarter;
  for (const scale of [1, 10, 100, 1000]) {
    const short = Math.round(exact * scale) / scale;
    if (Math.round(US_A_MINUTE / short) === usPerQuarter) return short;
  }
  return exact;
}

const sorted = <T>(entries: Map<number, T>): [number, T][] => [...entries].sort(([a], [b]) => a - b);

function keyWords(sharps: number, isMinor: boolean): string {
  const name = (isMinor ? MINORS : MAJORS)[sharps + 7] as string | undefined;
  return name === undefined ? '' : `${name} ${isMinor ? 'minor' : 'major'}`;
}

function mapOf(
  allTempos: readonly TempoEntry[],
  changes: readonly [number, Meter][],
  lastTick: number,
  words: string[],
): SongMap {
  // What changes nothing is no entry.
  const tempos = allTempos.filter(({ bpm }, i) => i === 0 || bpm !== allTempos[i - 1].bpm);
  if (tempos.length > MOST_ENTRIES) words.push(`tempos behind the first ${MOST_ENTRIES} are left out`);
  const meters: MeterEntry[] = [{ bar: 1, ...changes[0][1], early: 0 }];
  let from = 0;
  let left = 0;
  for (const [tick, meter] of changes.slice(1)) {
    const last = meters[meters.length - 1];
    const bars = Math.ceil((tick - from) / ticksPerBar(last));
    const early = bars * ticksPerBar(last) - (tick - from);
    if (early === 0 && meter.beats === last.beats && meter.unit === last.unit) continue;
    if (meters.length === MOST_ENTRIES || last.bar + bars > MOST_BARS) {
      left++;
      continue;
    }
    meters.push({ bar: last.bar + bars, ...meter, early });
    from = tick;
  }
  if (left > 0) words.push(`${left} meter${left === 1 ? ' is' : 's are'} left out: there are too many`);
  const last = meters[meters.length - 1];
  const bars = last.bar - 1 + Math.max(1, Math.ceil((lastTick - from) / ticksPerBar(last)));
  if (bars > MOST_BARS) words.push(`what comes behind bar ${MOST_BARS} is left out`);
  return { tempos: tempos.slice(0, MOST_ENTRIES), meters, upbeatTicks: 0, bars: Math.min(MOST_BARS, bars) };
}
