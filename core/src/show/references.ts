import type { Binding } from './model/control';
import type { EverySetlist } from './model/everySetlist';
import type { GearList } from './model/gearList';
import type { Instrument } from './model/instrument';
import { KIND_NAMES, bodiesOf, bodyOf, referencesOf, type Bodies, type Body, type Kind, type Kinds } from './kinds';
import { canBeInEvery } from './everySetlist';
import { knownInstrument } from './known';
import type { Layer, Part } from './model/layer';
import type { LibraryItem } from './model/library';
import type { Setlist } from './model/setlist';
import type { Show } from './model/show';
import type { Song } from './model/song';

/** What is wrong between things that point at each other. */
export type FaultCode =
  | 'twice'
  | 'no-such-song'
  | 'no-such-patch'
  | 'no-such-blend'
  | 'no-such-layer'
  | 'no-such-instrument'
  | 'no-such-preset'
  | 'no-such-gear-list'
  | 'not-in-every-setlist'
  | 'bank-as-source'
  | 'zone-upside-down'
  | 'velocities-upside-down';

/** Something that points at nothing, or contradicts itself. */
export interface Fault {
  code: FaultCode;
  /** The aggregate in which it stands. */
  kind: Kind;
  id: string;
  /** The id that is missing or stands twice, or whose zone it is. */
  about: string;
  /** Leads to it: within the aggregate, or within the document when a whole show was looked at. */
  path: (string | number)[];
  message: string;
}

type Path = (string | number)[];
type Report = (code: FaultCode, about: string, path: Path, message: string) => void;

/** What a body may point at. `instrument` gives null for one that is not there, undefined for one that nobody can read. */
interface Surroundings {
  song(id: string): Song | null | undefined;
  instrument(id: string): Instrument | null | undefined;
  gearListIsThere(id: string): boolean;
}

type Unreadable = (kind: Kind, id: string) => boolean;

function surroundings(bodies: Bodies, unreadable: Unreadable): Surroundings {
  return {
    song: (id) => (bodyOf(bodies, 'songs', id) as Song | null) ?? (unreadable('songs', id) ? undefined : null),
    instrument: (id) =>
      (bodyOf(bodies, 'instruments', id) as Instrument | null) ?? (unreadable('instruments', id) ? undefined : null),
    gearListIsThere: (id) => bodyOf(bodies, 'gearLists', id) !== null || unreadable('gearLists', id),
  };
}

/** Faults of one aggregate in its show. */
function faultsOf(kind: Kind, body: Body, around: Surroundings): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, about, path, message) =>
    faults.push({ code, kind, id: body.id, about, path, message: `${body.name}: ${message}` });
  switch (kind) {
    case 'songs':
      reportSong(body as Song, [], report);
      (body as Song).layers.forEach((layer, i) => reportSound(layer, around, ['layers', i], report));
      break;
    case 'setlists':
      reportSetlist(body as Setlist, around, report);
      break;
    case 'instruments':
      reportInstrument(body as Instrument, report);
      break;
    case 'libraryItems':
      reportLibraryItem(body as LibraryItem, around, report);
      break;
    case 'gearLists':
      reportSources(body as GearList, report);
      break;
    case 'everySetlist':
      reportEverySetlist(body as EverySetlist, report);
      break;
    case 'shelves':
      break;
  }
  return faults;
}

/** Faults of a song by itself, its instruments apart. */
export function songFaults(song: Song): Fault[] {
  const faults: Fault[] = [];
  reportSong(song, [], (code, about, path, message) =>
    faults.push({ code, kind: 'songs', id: song.id, about, path, message: `${song.name}: ${message}` }),
  );
  return faults;
}

/** Faults of a setlist in its show, the sounds of its layers among them. */
export const setlistFaults = (bodies: Bodies, setlist: Setlist): Fault[] =>
  faultsOf(
    'setlists',
    setlist,
    surroundings(bodies, () => false),
  );

/** Every fault of a whole show; none means that each reference in it is found. Paths lead through the document. */
export function showFaults(show: Pick<Show, Kind>): Fault[] {
  const around = surroundings(bodiesOf(show), () => false);
  return KIND_NAMES.flatMap((kind) => {
    const twice = repeats((show[kind] as readonly Body[]).map(({ id }) => id)).map(([id, i]): Fault => {
      return { code: 'twice', kind, id, about: id, path: [kind, i], message: `an id stands twice: ${id}` };
    });
    const faults = (show[kind] as readonly Body[]).flatMap((body, i) =>
      faultsOf(kind, body, around).map((fault) => ({ ...fault, path: [kind, i, ...fault.path] })),
    );
    return [...twice, ...faults];
  });
}

const REFERENCES = new WeakMap<Body, ReadonlySet<string>>();

/** Ids that a body points at; asked for again and again, while bodies are values that never change. */
function pointsAt(kind: Kind, body: Body): ReadonlySet<string> {
  let ids = REFERENCES.get(body);
  if (!ids) REFERENCES.set(body, (ids = new Set(referencesOf(kind, body).map((to) => `${to.kind} ${to.id}`))));
  return ids;
}

/** What points at an aggregate. */
export function pointingAt(bodies: Bodies, kind: Kind, id: string): { kind: Kind; body: Kinds[Kind] }[] {
  const key = `${kind} ${id}`;
  return KIND_NAMES.flatMap((from) =>
    (Object.values(bodies[from]) as Body[])
      .filter((body) => pointsAt(from, body).has(key))
      .map((body) => ({ kind: from, body })),
  );
}

/** Faults of what was touched, and of what points at it. Paths lead through each aggregate. */
export function faultsAround(
  bodies: Bodies,
  touched: readonly { kind: Kind; id: string }[],
  unreadable: Unreadable = () => false,
): Fault[] {
  const around = surroundings(bodies, unreadable);
  const keys = touched.map(({ kind, id }) => `${kind} ${id}`);
  return KIND_NAMES.flatMap((kind) =>
    (Object.values(bodies[kind]) as Body[])
      .filter((body) => keys.includes(`${kind} ${body.id}`) || keys.some((key) => pointsAt(kind, body).has(key)))
      .flatMap((body) => faultsOf(kind, body, around)),
  );
}

function reportSong(song: Song, path: Path, report: Report): void {
  reportTwice(song.layers, [...path, 'layers'], report);
  reportTwice(song.patches, [...path, 'patches'], report);
  // What a cue points at may be missing: the cue stays, does nothing, and the soundcheck says so.
  reportTwice(song.cues, [...path, 'cues'], report);
  reportTwice(song.sections, [...path, 'sections'], report);
  const layers = new Map(song.layers.map((layer) => [layer.id as string, layer]));
  song.standing.forEach((part, i) => reportPart(part, layers, [...path, 'standing', i], 'a standing layer', report));
  reportRepeats(
    song.standing.map((part) => part.layerId),
    [...path, 'standing'],
    'a standing layer',
    report,
  );
  song.patches.forEach((patch, p) => {
    const at = [...path, 'patches', p];
    reportTwice(patch.blends, [...at, 'blends'], report);
    patch.parts.forEach((part, i) => reportPart(part, layers, [...at, 'parts', i], `patch ${patch.name}`, report));
    reportRepeats(
      patch.parts.map((part) => part.layerId),
      [...at, 'parts'],
      `patch ${patch.name} has a layer`,
      report,
    );
    patch.blends.forEach((blend, b) =>
      blend.values.forEach((value, v) => {
        if (layers.has(value.layerId)) return;
        const where = [...at, 'blends', b, 'values', v, 'layerId'];
        report('no-such-layer', value.layerId, where, `blend ${blend.name} changes a layer that is not there`);
      }),
    );
    reportBindings(patch.bindings, layers, [...at, 'bindings'], `a role in patch ${patch.name}`, report);
  });
  reportBindings(song.bindings, layers, [...path, 'bindings'], 'a role', report);
}

/** Roles that move a layer which is not there. */
function reportBindings(
  bindings: readonly Binding[],
  layers: ReadonlyMap<string, Layer>,
  path: Path,
  where: string,
  report: Report,
): void {
  bindings.forEach(({ role, action }, i) => {
    if (!('layerId' in action) || layers.has(action.layerId)) return;
    const at = [...path, i, 'action', 'layerId'];
    report('no-such-layer', action.layerId, at, `${where}, ${role}, moves a layer that is not there`);
  });
}

/** What is done in every setlist can move nothing that only one of them has. */
function reportEverySetlist({ bindings }: EverySetlist, report: Report): void {
  bindings.forEach(({ role, action }, i) => {
    if (canBeInEvery(action)) return;
    const what = 'layerId' in action ? 'a layer' : 'an effect';
    report('not-in-every-setlist', role, ['bindings', i], `${role} moves ${what}, which not every setlist has`);
  });
}

/** Bank select belongs to the program change behind it: no role can be played by it. */
function reportSources(gear: GearList, report: Report): void {
  gear.roles.forEach(({ role, source }, i) => {
    const isBank =
      (source.kind === 'controller' && (source.number === 0 || source.number === 32)) ||
      (source.kind === 'controller14' && source.number === 0);
    if (isBank)
      report('bank-as-source', role, ['roles', i], `${role} is played by bank select, which no control can be`);
  });
}

function reportInstrument(instrument: Instrument, report: Report): void {
  if (instrument.kind === 'outboard') reportTwice(instrument.names, ['names'], report);
  else reportTwice(instrument.presets, ['presets'], report);
}

function reportLibraryItem(item: LibraryItem, around: Surroundings, report: Report): void {
  if (item.kind === 'song') {
    reportSong(item.song, ['song'], report);
    item.song.layers.forEach((layer, i) => reportSound(layer, around, ['song', 'layers', i], report));
    return;
  }
  reportTwice(item.layers, ['layers'], report);
  const layers = new Map(item.layers.map((layer) => [layer.id as string, layer]));
  item.patch.parts.forEach((part, i) => reportPart(part, layers, ['patch', 'parts', i], 'its patch', report));
  item.layers.forEach((layer, i) => reportSound(layer, around, ['layers', i], report));
}

function reportSetlist(setlist: Setlist, around: Surroundings, report: Report): void {
  const layers = new Map(setlist.layers.map((layer) => [layer.id as string, layer]));
  reportTwice(setlist.entries, ['entries'], report);
  reportTwice(setlist.layers, ['layers'], report);
  setlist.layers.forEach((layer, l) => reportSound(layer, around, ['layers', l], report));
  setlist.standing.forEach((part, i) => reportPart(part, layers, ['standing', i], 'a standing layer', report));
  reportBindings(setlist.bindings, layers, ['bindings'], 'a role', report);
  setlist.entries.forEach((entry, e) => {
    if (entry.kind !== 'song' || around.song(entry.songId) !== null) return;
    report('no-such-song', entry.songId, ['entries', e, 'songId'], `entry ${e + 1} is a song that is not there`);
  });
  setlist.programs.forEach((line, i) => {
    const at = ['programs', i, 'target'];
    const { songId, patchId, blendId } = line.target;
    const song = around.song(songId);
    if (song === undefined) return;
    if (song === null)
      return report('no-such-song', songId, at, `program ${line.program} recalls a song that is not there`);
    if (patchId === null) return;
    const patch = song.patches.find((candidate) => candidate.id === patchId);
    const what = `program ${line.program} recalls a`;
    if (!patch) report('no-such-patch', patchId, at, `${what} patch of ${song.name} that is not there`);
    else if (blendId !== null && !patch.blends.some((blend) => blend.id === blendId))
      report('no-such-blend', blendId, at, `${what} blend of ${song.name} that is not there`);
  });
  const { gearListId } = setlist;
  if (gearListId !== null && !around.gearListIsThere(gearListId))
    report('no-such-gear-list', gearListId, ['gearListId'], 'its gear list is not there');
}

function reportSound(layer: Layer, around: Surroundings, path: Path, report: Report): void {
  const { instrumentId, presetId } = layer.sound;
  if (layer.source.kind === 'live') return;
  const stored = around.instrument(instrumentId);
  if (stored === undefined) return;
  const presets = knownInstrument(instrumentId, () => stored ?? undefined)?.presets;
  const plays = `layer ${layer.name} plays`;
  if (!presets)
    report(
      'no-such-instrument',
      instrumentId,
      [...path, 'sound', 'instrumentId'],
      `${plays} an instrument that is not there`,
    );
  else if (!presets.some((preset) => preset.id === presetId))
    report(
      'no-such-preset',
      presetId,
      [...path, 'sound', 'presetId'],
      `${plays} a preset that its instrument does not have`,
    );
}

function reportPart(part: Part, layers: ReadonlyMap<string, Layer>, path: Path, where: string, report: Report): void {
  const layer = layers.get(part.layerId);
  if (!layer) report('no-such-layer', part.layerId, [...path, 'layerId'], `${where} plays a layer that is not there`);
  const { lowKey, highKey, lowVelocity, highVelocity } = part.zone;
  const name = layer?.name ?? part.layerId;
  const zone = [...path, 'zone'];
  if (lowKey > highKey)
    report(
      'zone-upside-down',
      part.layerId,
      zone,
      `${where}: the zone of ${name} is upside down (lowest key ${lowKey}, highest key ${highKey})`,
    );
  if (lowVelocity > highVelocity)
    report(
      'velocities-upside-down',
      part.layerId,
      zone,
      `${where}: the velocities of ${name} are upside down (lowest ${lowVelocity}, highest ${highVelocity})`,
    );
}

const reportTwice = (items: readonly { id: string }[], path: Path, report: Report): void =>
  reportRepeats(
    items.map((item) => item.id),
    path,
    'an id stands',
    report,
  );

function reportRepeats(ids: readonly string[], path: Path, what: string, report: Report): void {
  for (const [id, i] of repeats(ids)) report('twice', id, [...path, i], `${what} twice: ${id}`);
}

/** Ids that stand there already further up, with their places. */
function repeats(ids: readonly string[]): [id: string, place: number][] {
  const seen = new Set<string>();
  return ids.flatMap((id, i) => {
    if (seen.has(id)) return [[id, i] as [string, number]];
    seen.add(id);
    return [];
  });
}
