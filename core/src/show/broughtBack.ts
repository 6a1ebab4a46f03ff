import type { Kind, Kinds } from './kinds';
import { ORDER, keyOfItem, type Thing } from './differences';
import { withoutLayer } from './edits/songEdits';
import type { Layer, Part } from './model/layer';
import type { Song } from './model/song';
import { songFaults } from './references';

/**
 * Brings one thing of an older version back into the present one; all else stays as it is. What the thing cannot be
 * without comes along (the layer of a part), and what it leaves with nothing to play goes.
 * @param thing as `differing(kind, old, now)` names it
 */
export function broughtBack<K extends Kind>(kind: K, now: Kinds[K], old: Kinds[K], thing: Thing): Kinds[K] {
  const back = replaced(now, old, thing) as Kinds[K];
  return kind === 'songs' ? (songMadeWhole(back as Song, old as Song, now as Song) as Kinds[K]) : back;
}

function replaced(now: unknown, old: unknown, [step, ...rest]: Thing): unknown {
  if (step === undefined) return old;
  if (step === ORDER) return inOrderOf(now as object[], old as object[]);
  if (typeof step === 'string') {
    const [present, was] = [now as Record<string, unknown>, old as Record<string, unknown>];
    if (rest.length > 0) return { ...present, [step]: replaced(present[step], was[step], rest) };
    // A field that was not there yet goes again: JSON keeps no undefined.
    return { ...present, [step]: was[step] };
  }
  const [items, before] = [now as readonly object[], old as readonly object[]];
  const at = items.findIndex((item) => keyOfItem(item) === step.key);
  const was = before.find((item) => keyOfItem(item) === step.key);
  if (was === undefined) return rest.length > 0 || at < 0 ? items : items.toSpliced(at, 1);
  if (at >= 0) return items.with(at, replaced(items[at], was, rest) as object);
  return rest.length > 0 ? items : withItem(items, before, was);
}

/** Puts an item back behind the one it stood behind; at the beginning where none of those before it is left. */
function withItem(items: readonly object[], before: readonly object[], was: object): object[] {
  const earlier = before.slice(0, before.indexOf(was)).map(keyOfItem);
  const at = items.findLastIndex((item) => earlier.includes(keyOfItem(item)));
  return items.toSpliced(at + 1, 0, was);
}

/** What is in both lists in the order of the older one; what is new keeps its place. */
function inOrderOf(items: readonly object[], before: readonly object[]): object[] {
  const keys = new Set(items.map(keyOfItem));
  const places = new Set(before.map(keyOfItem));
  const inOrder = before.filter((item) => keys.has(keyOfItem(item))).map(keyOfItem);
  const byKey = new Map(items.map((item) => [keyOfItem(item), item]));
  let next = 0;
  return items.map((item) => (places.has(keyOfItem(item)) ? byKey.get(inOrder[next++])! : item));
}

/** No part without its layer; a layer that has come back plays where it played, and what is not there is played by nothing. */
function songMadeWhole(song: Song, old: Song, now: Song): Song {
  const isIn = (of: Song, id: string): boolean => of.layers.some((layer) => layer.id === id);
  const missing = (of: Song): string[] =>
    songFaults(of).flatMap(({ code, about }) => (code === 'no-such-layer' ? [about] : []));
  const comesAlong = missing(song).filter((id) => isIn(old, id) && !isIn(now, id));
  const layers = old.layers
    .filter(({ id }) => comesAlong.includes(id))
    .reduce((all, layer) => withItem(all, old.layers, layer) as Layer[], song.layers);
  const whole = playingAgain({ ...song, layers }, old, (id) => !isIn(now, id));
  return withoutFaultyBindings(missing(whole).reduce(withoutLayer, whole));
}

/** Layers that have come back play in every patch that is still there as they did. */
function playingAgain(song: Song, old: Song, hasComeBack: (layerId: string) => boolean): Song {
  const partsOf = (parts: Part[], was: readonly Part[]): Part[] =>
    was
      .filter(({ layerId }) => song.layers.some(({ id }) => id === layerId) && hasComeBack(layerId))
      .filter(({ layerId }) => !parts.some((part) => part.layerId === layerId))
      .reduce((all, part) => withItem(all, was, part) as Part[], parts);
  const patches = song.patches.map((patch) => {
    const before = old.patches.find(({ id }) => id === patch.id);
    const parts = partsOf(patch.parts, before?.parts ?? []);
    return parts === patch.parts ? patch : { ...patch, parts };
  });
  return { ...song, patches, standing: partsOf(song.standing, old.standing) };
}

/** What roles do to something that is not there goes. */
function withoutFaultyBindings(song: Song): Song {
  let whole: unknown = song;
  for (const { path } of songFaults(song).toReversed()) {
    const at = path.indexOf('bindings');
    if (at >= 0) whole = without(whole, path.slice(0, at + 2));
  }
  return whole as Song;
}

function without(value: unknown, [step, ...rest]: readonly (string | number)[]): unknown {
  if (Array.isArray(value))
    return rest.length > 0
      ? value.with(step as number, without(value[step as number], rest))
      : value.toSpliced(step as number, 1);
  return { ...(value as object), [step]: without((value as Record<string, unknown>)[step], rest) };
}
