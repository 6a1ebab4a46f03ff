import type { Action, Binding, Blend, InputPort, Layer, Part, Patch, Song } from '../show';
import type { Around, SongTonight } from './tonight';

// What of a patch can sound, on which keys of tonight's keyboards.

/** A layer where a patch has it. */
export interface Row {
  part: Part;
  layer: Layer;
  /** Whose it is: standing layers sound in every patch. */
  standsIn: 'setlist' | 'song' | null;
}

/** Keys from the lowest to the highest, both of them too. */
export interface Keys {
  low: number;
  high: number;
}

const LAST_KEY = 127;

/** Layers that notes or backing parts of the song's timeline play. */
export function playedByTimeline(song: Song): Set<string> {
  const played = new Set<string>();
  for (const cue of song.cues)
    if (cue.kind === 'note' && !cue.off && cue.to.kind === 'layer') played.add(cue.to.layerId);
  for (const { to, off } of song.backing) if (!off && to.kind === 'layer') played.add(to.layerId);
  return played;
}

const rowsOf = (parts: readonly Part[], layers: readonly Layer[], standsIn: Row['standsIn']): Row[] =>
  parts.flatMap((part) => {
    const layer = layers.find(({ id }) => id === part.layerId);
    return layer ? [{ part, layer, standsIn }] : [];
  });

/** Worked out once for a patch of a song. */
interface Remembered<T> {
  song: Song;
  value: T;
}

/** A patch is the same object only in the same song; what a song's other fields say is looked at by the song's identity. */
function remembered<T>(memo: WeakMap<Patch, unknown>, song: Song, patch: Patch, make: () => T): T {
  const known = memo.get(patch) as Remembered<T> | undefined;
  if (known?.song === song) return known.value;
  const value = make();
  memo.set(patch, { song, value } satisfies Remembered<T>);
  return value;
}

/** Every layer of a patch, standing ones first. */
export const rowsIn = (song: Song, patch: Patch, { setlist, memo }: Around): readonly Row[] =>
  remembered(memo.rows, song, patch, () => [
    ...rowsOf(setlist.standing, setlist.layers, 'setlist'),
    ...rowsOf(song.standing, song.layers, 'song'),
    ...rowsOf(patch.parts, song.layers, null),
  ]);

/** What roles with a control do in a patch: the nearest scope that binds a role has it. */
export const actionsIn = (song: Song, patch: Patch, { setlist, played, memo }: Around): readonly Binding[] =>
  remembered(memo.actions, song, patch, () => {
    const byRole = new Map<string, Binding>();
    for (const bindings of [setlist.bindings, song.bindings, patch.bindings])
      for (const binding of bindings) if (played.has(binding.role)) byRole.set(binding.role, binding);
    return [...byRole.values()];
  });

/** Whether an action moves or switches this of a layer. */
export const isAbout = (action: Action, layerId: string): boolean =>
  'layerId' in action && (action.layerId as string) === layerId;

/** What can be heard of a row, and why nothing can. */
export type Silence = 'muted' | 'alone' | null;

/**
 * Why a layer is silent in a patch, keys apart: it is muted, or others are heard alone, and no blend and no control of
 * tonight's gear changes that.
 */
export function silenceOf(
  { part, layer }: Row,
  rows: readonly Row[],
  patch: Patch,
  actions: readonly Binding[],
): Silence {
  const isSwitched = actions.some(({ action }) => action.kind === 'layerSwitch' && isAbout(action, layer.id));
  const isUnmuted = patch.blends.some(({ values }) =>
    values.some(({ layerId, mute }) => layerId === layer.id && mute === false),
  );
  if (part.mute && !isSwitched && !isUnmuted) return 'muted';
  const alone = rows.filter((row) => row.part.solo);
  const isLetGo = actions.some(
    ({ action }) =>
      action.kind === 'layerSwitch' && action.what === 'solo' && alone.some((row) => isAbout(action, row.layer.id)),
  );
  return alone.length > 0 && !part.solo && !isLetGo && !isSwitched ? 'alone' : null;
}

/** Channels on which the keys of an input come in and play. */
export function playedChannels({ channels, playsOn }: InputPort): readonly number[] | null {
  if (channels === null) return playsOn;
  return playsOn === null ? channels : channels.filter((channel) => playsOn.includes(channel));
}

/** Whether a zone hears an input at all. */
export function hears({ zone }: Part, input: InputPort): boolean {
  if (zone.input !== null && zone.input !== input.alias) return false;
  const played = playedChannels(input);
  return zone.channels === null || played === null
    ? (zone.channels ?? played)?.length !== 0
    : zone.channels.some((channel) => played.includes(channel));
}

/** Keys of an input as zones see them; null: its shift leaves none. */
export function keysOf({ keys, keyShift }: InputPort): Keys | null {
  const low = Math.max(0, (keys?.lowest ?? 0) + keyShift);
  const high = Math.min(LAST_KEY, (keys?.highest ?? LAST_KEY) + keyShift);
  return low <= high ? { low, high } : null;
}

/** Keys of an input that a zone has; null: none. */
export function reached({ zone }: Part, input: InputPort): Keys | null {
  const keys = keysOf(input);
  if (keys === null) return null;
  const low = Math.max(keys.low, zone.lowKey);
  const high = Math.min(keys.high, zone.highKey);
  return low <= high ? { low, high } : null;
}

/** Semitones by which keys sound elsewhere, for each key in which the song is played tonight. */
export const shiftsOf = ({ part, layer }: Row, { song, shifts }: SongTonight): number[] =>
  layer.followsTranspose ? shifts.map((shift) => part.shift + song.transpose + shift) : [part.shift];

/** Whether two ranges of keys have one in common. */
export const meet = (a: Keys, b: Keys): boolean => a.low <= b.high && b.low <= a.high;

/** Where rows begin and end within some keys, in order: from each to before the next the same rows lie; the last is behind. */
export const edgesIn = ({ low, high }: Keys, rows: readonly Row[]): number[] =>
  [
    ...new Set([
      low,
      high + 1,
      ...rows.flatMap(({ part: { zone } }) => [zone.lowKey, zone.highKey + 1]).filter((at) => at > low && at <= high),
    ]),
  ].sort((a, b) => a - b);

/** Whether a layer is muted where a patch, or one of its blends, is entered. */
export const isMutedIn = ({ part }: Row, blend: Blend | null): boolean =>
  blend?.values.find(({ layerId }) => layerId === part.layerId)?.mute ?? part.mute;

/** The zone's own keys. */
export const zoneKeys = ({ zone }: Part): Keys => ({ low: zone.lowKey, high: zone.highKey });

/** Rows that keys play, on keyboards that are there. */
export const isPlayedByKeys = ({ part, layer }: Row): boolean => part.keys !== 'none' && layer.source.kind === 'midi';
