import { BYTES_IN_MB, type EntryId, type LayerSound, type Setlist, type Song } from '../show';
import { eveningOf, type Evening, type EveningOptions } from './evening';
import { heldBy, type HeldByStep } from './held';
import { jumpWaits } from './jump';
import { planLoading } from './plan';
import type { LoadPlan } from './task';

/** Memory while a song is played, at its fullest; in MB. */
export interface SongLoading {
  entryId: EntryId;
  /** What this song plays. */
  ownMb: number;
  /** What is there for other songs. */
  othersMb: number;
  /** What stands through the evening or is pinned. */
  alwaysMb: number;
  /** Longest wait at one of its recalls, ms. */
  waitMs: number;
  /** It does not fit into the budget by itself. */
  isOver: boolean;
}

/** A sound that is worth keeping in memory all evening. An exact plan waits no less for it, but its jumps do. */
export interface PinHint {
  sound: LayerSound;
  /** Of all waits in running order together, or of the longest wait of a jump, ms. */
  savesMs: number;
  /** Where it saves most. */
  entryId: EntryId;
  isAtJump: boolean;
}

/** An evening of loading, for people to look at, and for the running side to follow. */
export interface LoadingPicture {
  budgetMb: number;
  songs: SongLoading[];
  peakMb: number;
  worstMs: number;
  totalMs: number;
  /** No plan waits less than that in all, ms; the same as `totalMs` where the plan is the best one. */
  atLeastMs: number;
  /** The longest wait of a jump; null: none waits. */
  jump: { waitMs: number; from: EntryId; to: EntryId; isFromEnd: boolean } | null;
  hints: PinHint[];
  /** How many things have to be loaded, and of how many of them this machine has measured it. */
  units: { all: number; measured: number };
  held: HeldByStep;
}

type SetlistParts = Pick<Setlist, 'entries' | 'layers' | 'standing'>;
type Songs = Readonly<Record<string, Song>>;

/** So many sounds are tried as pins. */
const MOST_TRIED = 12;
/** Fewer of an evening so long that each trial takes long. */
const MOST_TRIED_OF_LONG = 2;
const LONG_STOPS = 400;
const MOST_HINTS = 3;
/** A trial is planned less thoroughly. */
const TRIAL_MOVES = 40_000;
/** Less than this is not worth a word, ms. */
const LEAST_SAVED_MS = 100;

/** Plans an evening, and puts it into a picture: song by song what is in memory, and where somebody waits. */
export const loadingPicture = (setlist: SetlistParts, songs: Songs, options: EveningOptions): LoadingPicture =>
  pictureOf(eveningOf(setlist, songs, options), setlist, songs, options);

/** Keeps the last picture, and plans again only where something that is loaded, or its time, is another one. */
export class LoadingPictures {
  private last: { of: string; picture: LoadingPicture } | null = null;

  of(setlist: SetlistParts, songs: Songs, options: EveningOptions): LoadingPicture {
    const evening = eveningOf(setlist, songs, options);
    const of = JSON.stringify(evening);
    if (this.last?.of !== of) this.last = { of, picture: pictureOf(evening, setlist, songs, options) };
    return this.last.picture;
  }
}

function pictureOf(evening: Evening, setlist: SetlistParts, songs: Songs, options: EveningOptions): LoadingPicture {
  const plan = planLoading(evening.task);
  const { peakBytes, worstMs, totalMs } = plan.cost;
  const jump = worstJump(evening, plan);
  return {
    budgetMb: options.budgetBytes / BYTES_IN_MB,
    songs: songsOf(setlist, evening, plan, options),
    peakMb: peakBytes / BYTES_IN_MB,
    worstMs,
    totalMs,
    atLeastMs: plan.isExact ? totalMs : plan.atLeast.totalMs,
    jump,
    units: { all: evening.task.units.length, measured: evening.measured },
    held: heldBy(evening, plan),
    hints: [
      ...(totalMs < LEAST_SAVED_MS ? [] : hintsOf(setlist, songs, options, { evening, plan })),
      ...(jump === null || plan.stops.length > LONG_STOPS ? [] : jumpHints(setlist, songs, options, jump)),
    ].slice(0, MOST_HINTS),
  };
}

/** Stops by the entry that they belong to, in running order. */
function stopsByEntry({ places }: Evening): Map<EntryId, number[]> {
  const byEntry = new Map<EntryId, number[]>();
  places.forEach(({ entryId }, stop) => byEntry.set(entryId, [...(byEntry.get(entryId) ?? []), stop]));
  return byEntry;
}

function songsOf(
  setlist: SetlistParts,
  evening: Evening,
  plan: LoadPlan,
  { pinned, partsOf }: EveningOptions,
): SongLoading[] {
  const { units } = evening.task;
  const standing = new Set(
    setlist.standing.flatMap(({ layerId }) => {
      const layer = setlist.layers.find(({ id }) => id === layerId);
      return layer?.source.kind === 'midi' ? partsOf(layer.sound).map(({ key }) => key) : [];
    }),
  );
  return [...stopsByEntry(evening)].map(([entryId, stops]) => {
    const own = new Set(stops.flatMap((stop) => evening.task.stops[stop].needs));
    const fullest = stops.reduce((most, stop) => (plan.stops[stop].bytes > plan.stops[most].bytes ? stop : most));
    const sums = { ownMb: 0, othersMb: 0, alwaysMb: 0 };
    for (const unit of plan.stops[fullest].holds) {
      const { key, bytes } = units[unit];
      const of = standing.has(key) || pinned.has(key) ? 'alwaysMb' : own.has(unit) ? 'ownMb' : 'othersMb';
      sums[of] += bytes / BYTES_IN_MB;
    }
    return {
      entryId,
      ...sums,
      waitMs: Math.max(...stops.map((stop) => plan.stops[stop].waitMs)),
      isOver: stops.some((stop) => plan.stops[stop].isOver),
    };
  });
}

function worstJump(evening: Evening, plan: LoadPlan): LoadingPicture['jump'] {
  const entries = [...stopsByEntry(evening).keys()];
  const { atEnd, atBeginning } = jumpWaits(evening.task, plan);
  let worst: LoadingPicture['jump'] = null;
  for (const [isFromEnd, waits] of [
    [true, atEnd],
    [false, atBeginning],
  ] as const)
    waits.forEach((row, from) =>
      row.forEach((waitMs, to) => {
        if (from !== to && waitMs > (worst?.waitMs ?? 0))
          worst = { waitMs, from: entries[from], to: entries[to], isFromEnd };
      }),
    );
  return worst;
}

/** What the song that the worst jump goes to would spare by one of its sounds pinned, most first. */
function jumpHints(
  setlist: SetlistParts,
  songs: Songs,
  options: EveningOptions,
  { waitMs, from, to, isFromEnd }: NonNullable<LoadingPicture['jump']>,
): PinHint[] {
  const entry = setlist.entries.find(({ id }) => id === to);
  const song = entry?.kind === 'song' ? songs[entry.songId] : undefined;
  return (song?.layers ?? [])
    .slice(0, MOST_TRIED)
    .flatMap(({ sound, source }): PinHint[] => {
      const parts = source.kind === 'midi' ? options.partsOf(sound) : [];
      if (parts.every(({ key }) => options.pinned.has(key))) return [];
      const evening = eveningOf(setlist, songs, {
        ...options,
        pinned: new Set([...options.pinned, ...parts.map(({ key }) => key)]),
      });
      const { atEnd, atBeginning } = jumpWaits(evening.task, planLoading(evening.task, TRIAL_MOVES));
      const entries = [...stopsByEntry(evening).keys()];
      const now = (isFromEnd ? atEnd : atBeginning)[entries.indexOf(from)][entries.indexOf(to)];
      const savesMs = waitMs - now;
      return savesMs < LEAST_SAVED_MS ? [] : [{ sound, savesMs, entryId: to, isAtJump: true }];
    })
    .sort((a, b) => b.savesMs - a.savesMs);
}

/** Sounds that are loaded where somebody waits, each tried as pinned: those that save most. */
function hintsOf(
  setlist: SetlistParts,
  songs: Songs,
  options: EveningOptions,
  { evening, plan }: { evening: Evening; plan: LoadPlan },
): PinHint[] {
  const late = new Set(
    plan.stops.flatMap(({ waitMs }, stop) =>
      waitMs > 0 ? evening.task.stops[stop].needs.map((unit) => evening.task.units[unit].key) : [],
    ),
  );
  const most = plan.stops.length > LONG_STOPS ? MOST_TRIED_OF_LONG : MOST_TRIED;
  const tried = new Map<string, LayerSound>();
  for (const { sound, source } of Object.values(songs).flatMap(({ layers }) => layers)) {
    const keys = source.kind === 'midi' ? options.partsOf(sound).map(({ key }) => key) : [];
    const isNew = keys.some((key) => late.has(key) && !options.pinned.has(key));
    if (isNew && tried.size < most) tried.set(`${sound.instrumentId} ${sound.presetId}`, sound);
  }
  const hints = [...tried.values()].flatMap((sound): PinHint[] => {
    const pinned = new Set([...options.pinned, ...options.partsOf(sound).map(({ key }) => key)]);
    const other = planLoading(eveningOf(setlist, songs, { ...options, pinned }).task, TRIAL_MOVES);
    const savesMs = plan.cost.totalMs - other.cost.totalMs;
    if (savesMs < LEAST_SAVED_MS) return [];
    const saved = plan.stops.map(({ waitMs }, stop) => waitMs - other.stops[stop].waitMs);
    const place = saved.indexOf(Math.max(...saved));
    return [{ sound, savesMs, entryId: evening.places[place].entryId, isAtJump: false }];
  });
  return hints.sort((a, b) => b.savesMs - a.savesMs);
}
