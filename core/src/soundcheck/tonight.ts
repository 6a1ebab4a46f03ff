import { openRoles, rolesInUse, type RoleInUse } from '../controls';
import {
  songTonight,
  type GearList,
  type InputPort,
  type Instrument,
  type OutputPort,
  type Patch,
  type Setlist,
  type Song,
} from '../show';
import type { Place } from './finding';

/** What only the machine knows that the show is played on; null: not known here. */
export interface Here {
  /** Stored files that are there, by their names. */
  files: ReadonlySet<string> | null;
  /** So many notes it can sound at once, as measured. */
  voices: number | null;
  /** Whether the browser lets ports be used, and system exclusive sent. */
  midi: 'allowed' | 'refused' | null;
  sysex: 'allowed' | 'refused' | null;
  /** Program changes that came in and recalled nothing. */
  unanswered: readonly HeardProgram[];
  /** Keys that were struck where no layer was. */
  silentStrikes: readonly SilentStrike[];
}

/** A key as zones see it, and the patch in which no layer was under it. */
export interface SilentStrike {
  songId: string;
  patchId: string;
  device: string;
  key: number;
}

/** A program change as it came in, on the wire. */
export interface HeardProgram {
  port: string;
  msb: number;
  lsb: number;
  program: number;
}

/** Nothing is known of the machine: as on the command line. */
export const UNKNOWN_HERE: Here = {
  files: null,
  voices: null,
  midi: null,
  sysex: null,
  unanswered: [],
  silentStrikes: [],
};

/** A patch where the evening gets to it, by steps. */
export interface Step {
  song: Song;
  patch: Patch;
  /** Semitones for tonight's singer. */
  shift: number;
}

/** A song of the setlist, once however often it is played. */
export interface SongTonight {
  song: Song;
  /** Key shifts in which it is played. */
  shifts: readonly number[];
  /** The steps before its first and after its last one. */
  before: Step | null;
  after: Step | null;
}

/** What of a setlist is in every song. */
export type SetlistAround = Pick<
  Setlist,
  'id' | 'name' | 'layers' | 'standing' | 'bindings' | 'sharedEffects' | 'wholeEffects' | 'middleC'
>;

/** What every song of an evening shares. The same object while none of it changes. */
export interface Around {
  setlist: SetlistAround;
  gear: GearList;
  /** Those that are on. */
  inputs: readonly InputPort[];
  outputs: readonly OutputPort[];
  /** Inputs whose keys play layers. */
  keyboards: readonly InputPort[];
  instruments: ReadonlyMap<string, Instrument>;
  /** Roles that a control of tonight's gear plays. */
  played: ReadonlySet<string>;
  here: Here;
  /** What rules have worked out of patches, for the next rule. */
  memo: PatchMemo;
}

/** What is worked out of a patch once, for all rules. */
export interface PatchMemo {
  rows: WeakMap<Patch, unknown>;
  actions: WeakMap<Patch, unknown>;
}

/** Everything that rules look at. */
export interface Tonight {
  setlist: Setlist;
  around: Around;
  songs: readonly SongTonight[];
  byId: Readonly<Record<string, Song>>;
  steps: readonly Step[];
  roles: readonly RoleInUse[];
  openRoles: ReturnType<typeof openRoles>;
}

/** What an evening is made of. */
export interface TonightParts {
  setlist: Setlist;
  gear: GearList;
  songs: readonly Song[];
  instruments: readonly Instrument[];
  here: Here;
}

/** What the last evening was made from, so that what has not changed is the same object. */
export interface KnownTonight {
  around: Around | null;
  instruments: readonly Instrument[] | null;
}

/** An evening as rules look at it. */
export function tonightOf(parts: TonightParts, known: KnownTonight): Tonight {
  const { setlist, songs: all } = parts;
  const around = aroundOf(parts, known);
  known.around = around;
  known.instruments = parts.instruments;
  const byId = Object.fromEntries(all.map((song) => [song.id as string, song]));
  // As they are played: one that comes twice at two tempos is looked at in the last.
  for (const entry of setlist.entries)
    if (entry.kind === 'song' && entry.bpm !== null && byId[entry.songId])
      byId[entry.songId] = songTonight(byId[entry.songId], entry);
  const steps = stepsOf(setlist, byId);
  return {
    setlist,
    around,
    songs: songsOf(setlist, byId, steps),
    byId,
    steps,
    roles: rolesInUse(setlist, byId),
    openRoles: openRoles(setlist, byId, parts.gear),
  };
}

function aroundOf({ setlist, gear, instruments, here }: TonightParts, known: KnownTonight): Around {
  const { id, name, layers, standing, bindings, sharedEffects, wholeEffects, middleC } = setlist;
  const own = { id, name, layers, standing, bindings, sharedEffects, wholeEffects, middleC };
  const last = known.around;
  const isSame =
    last !== null &&
    last.gear === gear &&
    known.instruments === instruments &&
    last.here === here &&
    (Object.keys(own) as (keyof SetlistAround)[]).every((field) => last.setlist[field] === own[field]);
  if (isSame) return last;
  const inputs = gear.ports.filter((port): port is InputPort => port.direction === 'in' && port.on);
  const heard = new Set(inputs.map(({ alias }) => alias as string));
  return {
    setlist: own,
    gear,
    inputs,
    outputs: gear.ports.filter((port): port is OutputPort => port.direction === 'out' && port.on),
    keyboards: inputs.filter(({ plays, doubleOf }) => plays && doubleOf === null),
    instruments: new Map(instruments.map((instrument) => [instrument.id as string, instrument])),
    played: new Set(
      gear.roles
        .filter(({ source }) => source.kind === 'computerKey' || heard.has(source.port))
        .map(({ role }) => role as string),
    ),
    here,
    memo: { rows: new WeakMap(), actions: new WeakMap() },
  };
}

/** Where “next” stops, in running order; a song without such a patch is stood on its first. */
function stepsOf({ entries }: Setlist, byId: Readonly<Record<string, Song>>): Step[] {
  return entries.flatMap((entry): Step[] => {
    const song = entry.kind === 'song' && !entry.skip ? byId[entry.songId] : undefined;
    if (entry.kind !== 'song' || !song) return [];
    const patches = song.patches.filter(({ isStep }) => isStep);
    return (patches.length > 0 ? patches : song.patches.slice(0, 1)).map((patch) => ({
      song,
      patch,
      shift: entry.keyShift,
    }));
  });
}

function songsOf({ entries }: Setlist, byId: Readonly<Record<string, Song>>, steps: readonly Step[]): SongTonight[] {
  const shifts = new Map<string, number[]>();
  for (const entry of entries) {
    if (entry.kind !== 'song' || !(entry.songId in byId)) continue;
    const known = shifts.get(entry.songId);
    if (known === undefined) shifts.set(entry.songId, [entry.keyShift]);
    else if (!known.includes(entry.keyShift)) known.push(entry.keyShift);
  }
  const first = new Map<string, number>();
  steps.forEach(({ song }, i) => {
    if (!first.has(song.id)) first.set(song.id, i);
  });
  return [...shifts].map(([id, of]) => {
    const song = byId[id];
    const from = first.get(id);
    if (from === undefined) return { song, shifts: of, before: null, after: null };
    let end = from;
    while (end < steps.length && steps[end].song === song) end++;
    return { song, shifts: of, before: steps[from - 1] ?? null, after: steps[end] ?? null };
  });
}

/** A place in a song. */
export const inSong = (
  song: Song,
  patch: Pick<Patch, 'id' | 'name'> | null = null,
  page: Place['page'] = 'song',
): Place => ({
  words: patch === null ? song.name : `${song.name}: ${patch.name}`,
  page,
  songId: song.id,
  patchId: patch?.id ?? null,
});

/** A place that is in no song. */
export const onPage = (words: string, page: Place['page']): Place => ({ words, page, songId: null, patchId: null });
