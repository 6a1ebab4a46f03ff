import type { Binding } from './control';
import type { Instrument } from './instrument';
import { knownInstrument } from './known';
import type { Layer, Part } from './layer';
import type { Setlist } from './setlist';
import type { Show } from './show';
import type { Song } from './song';

export type FaultCode =
  | 'twice'
  | 'no-such-song'
  | 'no-such-patch'
  | 'no-such-blend'
  | 'no-such-layer'
  | 'no-such-instrument'
  | 'no-such-preset'
  | 'no-such-gear-list'
  | 'zone-upside-down'
  | 'velocities-upside-down';

/** Something that points at nothing, or contradicts itself. `path` leads to it in the document. */
export interface Fault {
  code: FaultCode;
  path: (string | number)[];
  message: string;
}

type Path = (string | number)[];
type Report = (code: FaultCode, path: Path, message: string) => void;

/** Faults of a song by itself, its instruments apart. */
export function songFaults(song: Song, path: Path = []): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, at, message) =>
    faults.push({ code, path: [...path, ...at], message: `${song.name}: ${message}` });
  reportTwice(song.layers, ['layers'], report);
  reportTwice(song.patches, ['patches'], report);
  reportTwice(song.cues, ['cues'], report);
  const layers = new Map(song.layers.map((layer) => [layer.id as string, layer]));
  song.standing.forEach((part, i) => reportPart(part, layers, ['standing', i], 'a standing layer', report));
  song.patches.forEach((patch, p) => {
    reportTwice(patch.blends, ['patches', p, 'blends'], report);
    patch.parts.forEach((part, i) =>
      reportPart(part, layers, ['patches', p, 'parts', i], `patch ${patch.name}`, report),
    );
    reportRepeats(
      patch.parts.map((part) => part.layerId),
      ['patches', p, 'parts'],
      `patch ${patch.name} has a layer`,
      report,
    );
    patch.blends.forEach((blend, b) =>
      blend.values.forEach((value, v) => {
        if (!layers.has(value.layerId))
          report(
            'no-such-layer',
            ['patches', p, 'blends', b, 'values', v, 'layerId'],
            `blend ${blend.name} changes a layer that is not there`,
          );
      }),
    );
  });
  song.cues.forEach((cue, c) => {
    const patch = song.patches.find((candidate) => candidate.id === cue.patchId);
    if (!patch) report('no-such-patch', ['cues', c, 'patchId'], 'a cue recalls a patch that is not there');
    else if (cue.blendId !== null && !patch.blends.some((blend) => blend.id === cue.blendId))
      report('no-such-blend', ['cues', c, 'blendId'], 'a cue recalls a blend that is not there');
  });
  reportBindings(song.bindings, layers, ['bindings'], 'a role', report);
  song.patches.forEach((patch, p) =>
    reportBindings(patch.bindings, layers, ['patches', p, 'bindings'], `a role in patch ${patch.name}`, report),
  );
  return faults;
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
    if ('layerId' in action && !layers.has(action.layerId))
      report('no-such-layer', [...path, i, 'action', 'layerId'], `${where}, ${role}, moves a layer that is not there`);
  });
}

/** Every fault of a whole show; none means that each reference in it is found. */
export function showFaults(show: Show): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, path, message) => faults.push({ code, path, message });
  for (const list of ['songs', 'setlists', 'instruments', 'gearLists', 'libraryItems'] as const)
    reportTwice(show[list], [list], report);
  show.instruments.forEach((instrument, i) =>
    instrument.kind === 'outboard'
      ? reportTwice(instrument.names, ['instruments', i, 'names'], report)
      : reportTwice(instrument.presets, ['instruments', i, 'presets'], report),
  );
  show.songs.forEach((song, s) => {
    faults.push(...songFaults(song, ['songs', s]));
    song.layers.forEach((layer, l) =>
      reportSound(layer, show.instruments, ['songs', s, 'layers', l], song.name, report),
    );
  });
  show.setlists.forEach((setlist, i) => reportSetlist(setlist, show, ['setlists', i], report));
  return faults;
}

function reportSetlist(setlist: Setlist, show: Show, path: Path, report: Report): void {
  const songs = new Map(show.songs.map((song) => [song.id as string, song]));
  const layers = new Map(setlist.layers.map((layer) => [layer.id as string, layer]));
  reportTwice(setlist.entries, [...path, 'entries'], report);
  setlist.layers.forEach((layer, l) =>
    reportSound(layer, show.instruments, [...path, 'layers', l], setlist.name, report),
  );
  setlist.standing.forEach((part, i) =>
    reportPart(part, layers, [...path, 'standing', i], `${setlist.name}: a standing layer`, report),
  );
  reportBindings(setlist.bindings, layers, [...path, 'bindings'], `${setlist.name}: a role`, report);
  setlist.entries.forEach((entry, e) => {
    if (entry.kind === 'song' && !songs.has(entry.songId))
      report(
        'no-such-song',
        [...path, 'entries', e, 'songId'],
        `${setlist.name}: entry ${e + 1} is a song that is not there`,
      );
  });
  setlist.programs.forEach((line, i) => {
    const at = [...path, 'programs', i, 'target'];
    const song = songs.get(line.target.songId);
    const patch = song?.patches.find((candidate) => candidate.id === line.target.patchId);
    if (!song) report('no-such-song', at, `${setlist.name}: program ${line.program} recalls a song that is not there`);
    else if (line.target.patchId !== null && !patch)
      report(
        'no-such-patch',
        at,
        `${setlist.name}: program ${line.program} recalls a patch of ${song.name} that is not there`,
      );
    else if (line.target.blendId !== null && !patch?.blends.some((blend) => blend.id === line.target.blendId))
      report(
        'no-such-blend',
        at,
        `${setlist.name}: program ${line.program} recalls a blend of ${song.name} that is not there`,
      );
  });
  if (setlist.gearListId !== null && !show.gearLists.some((list) => list.id === setlist.gearListId))
    report('no-such-gear-list', [...path, 'gearListId'], `${setlist.name}: its gear list is not there`);
}

function reportSound(
  layer: Layer,
  instruments: readonly Instrument[],
  path: Path,
  where: string,
  report: Report,
): void {
  const { instrumentId, presetId } = layer.sound;
  if (layer.source.kind === 'live') return;
  const presets = knownInstrument(instrumentId, (id) => instruments.find((candidate) => candidate.id === id))?.presets;
  if (!presets)
    report(
      'no-such-instrument',
      [...path, 'sound', 'instrumentId'],
      `${where}: layer ${layer.name} plays an instrument that is not there`,
    );
  else if (!presets.some((preset) => preset.id === presetId))
    report(
      'no-such-preset',
      [...path, 'sound', 'presetId'],
      `${where}: layer ${layer.name} plays a preset that its instrument does not have`,
    );
}

function reportPart(part: Part, layers: ReadonlyMap<string, Layer>, path: Path, where: string, report: Report): void {
  const layer = layers.get(part.layerId);
  if (!layer) report('no-such-layer', [...path, 'layerId'], `${where} plays a layer that is not there`);
  const { lowKey, highKey, lowVelocity, highVelocity } = part.zone;
  const name = layer?.name ?? part.layerId;
  if (lowKey > highKey)
    report(
      'zone-upside-down',
      [...path, 'zone'],
      `${where}: the zone of ${name} is upside down (lowest key ${lowKey}, highest key ${highKey})`,
    );
  if (lowVelocity > highVelocity)
    report(
      'velocities-upside-down',
      [...path, 'zone'],
      `${where}: the velocities of ${name} are upside down (lowest ${lowVelocity}, highest ${highVelocity})`,
    );
}

function reportTwice(items: readonly { id: string }[], path: Path, report: Report): void {
  reportRepeats(
    items.map((item) => item.id),
    path,
    'an id stands',
    report,
  );
}

function reportRepeats(ids: readonly string[], path: Path, what: string, report: Report): void {
  const seen = new Set<string>();
  ids.forEach((id, i) => {
    if (seen.has(id)) report('twice', [...path, i], `${what} twice: ${id}`);
    seen.add(id);
  });
}
