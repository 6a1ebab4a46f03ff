import { keyName } from '../midi';
import type { EverySetlist } from './model/everySetlist';
import type { GearList } from './model/gearList';
import type { Instrument } from './model/instrument';
import type { Body, Kind } from './kinds';
import type { Layer, Part } from './model/layer';
import { sameBody } from './sameBody';
import type { Setlist, SetlistEntry } from './model/setlist';
import type { Blend, Patch, Song } from './model/song';
import type { SongMap } from './model/songMap';

/** Names of what a body points at, for the words. */
export interface DifferenceNames {
  song(id: string): string | null;
  sound(instrumentId: string, presetId: string): string;
}

const NO_NAMES: DifferenceNames = { song: () => null, sound: (_, presetId) => presetId };

/** A step into a body: a field, or an item of a list by what tells it from the others. */
export type ThingStep = string | { key: string };
/** What differs, as a path into both bodies; `ORDER` at its end is the order of a list. Small enough to be brought back alone. */
export type Thing = readonly ThingStep[];
/** The last step of a thing that is the order of a list. */
export const ORDER = '(order)';

/** One difference: in a player's words, and where it lies. */
export interface Difference {
  words: string;
  thing: Thing;
}

type Say = (words: string, thing: Thing) => void;

/** What differs between two versions of one thing, in a player's words: from `before` to `after`. Empty: nothing does. */
export function differences(
  kind: Kind,
  before: Body | null,
  after: Body | null,
  names: DifferenceNames = NO_NAMES,
): string[] {
  if (before === null || after === null)
    return before === after ? [] : [after === null ? 'removed' : before === null ? 'new' : ''];
  return differing(kind, before, after, names).map(({ words }) => words);
}

/** The same, with the place of each difference. */
export function differing(kind: Kind, before: Body, after: Body, names: DifferenceNames = NO_NAMES): Difference[] {
  const found: Difference[] = [];
  const say: Say = (words, thing) => found.push({ words, thing });
  if (before.name !== after.name) say(`called ${after.name}, was ${before.name}`, ['name']);
  if (kind === 'songs') songDifferences(before as Song, after as Song, names, say);
  else if (kind === 'setlists') setlistDifferences(before as Setlist, after as Setlist, names, say);
  else if (kind === 'gearLists') gearDifferences(before as GearList, after as GearList, say);
  else if (kind === 'instruments') instrumentDifferences(before as Instrument, after as Instrument, say);
  else if (kind === 'everySetlist') {
    for (const field of ['roles', 'bindings'] as const)
      if (!sameBody((before as EverySetlist)[field], (after as EverySetlist)[field]))
        say(field === 'roles' ? 'roles differ' : 'what roles do differs', [field]);
  } else otherFields(before, after, [], say);
  return found;
}

const FIELD_WORDS: Record<string, string> = {
  upbeatTicks: 'upbeat',
  durationSeconds: 'length',
  startsAt: 'start',
  date: 'day',
  gearListId: 'gear list',
  programsFrom: 'counting of programs',
  middleC: 'name of middle C',
  meant: 'what is meant so',
  sharedEffects: 'shared effects',
  wholeEffects: 'effects on the whole',
  echoNote: 'echo',
  tempoNote: 'note that the tempo counts',
  startedFrom: 'what it was started from',
  isStep: 'stepping',
  timeMs: 'time',
  notReady: 'what it does while not ready',
  followsTranspose: 'transposing',
  ignoredControllers: 'controllers that it ignores',
  sendsLevel: 'sending its level',
  entering: 'messages on entering',
  leaving: 'messages on leaving',
  songRecall: 'what a song’s number recalls',
  clockFrom: 'clock',
  countInBars: 'count-in',
  backing: 'backing parts',
  keyShift: 'shift of the keyboard',
  atEnd: 'what happens at its end',
  noteNames: 'names of notes',
  bpm: 'tempo tonight',
};
/** A field of a body in a player's word. */
export const wordOf = (field: string): string => FIELD_WORDS[field] ?? field;
const isPlain = (value: unknown): value is string | number =>
  (typeof value === 'string' && value.length > 0 && value.length <= 40) || typeof value === 'number';

/** Fields that nothing above has words for: plain values with both states, others by their name alone. */
function otherFields(
  before: object,
  after: object,
  known: readonly string[],
  say: Say,
  where = '',
  thing: (field: string) => Thing = (field) => [field],
): void {
  const fields = new Set([...Object.keys(before), ...Object.keys(after)]);
  for (const field of fields) {
    if (field === 'id' || field === 'name' || known.includes(field)) continue;
    const from = (before as Record<string, unknown>)[field];
    const to = (after as Record<string, unknown>)[field];
    if (sameBody(from, to)) continue;
    say(`${where}${wordOf(field)} ${isPlain(from) && isPlain(to) ? `${from} → ${to}` : 'differs'}`, thing(field));
  }
}

/** Items of two lists by their keys: what came, what went, what is in both; and whether their order differs. */
function matched<T extends object>(before: readonly T[], after: readonly T[]) {
  const old = new Map(before.map((item) => [keyOfItem(item), item]));
  const now = new Map(after.map((item) => [keyOfItem(item), item]));
  const both = before.filter((item) => now.has(keyOfItem(item)));
  const order = after.filter((item) => old.has(keyOfItem(item))).map(keyOfItem);
  return {
    came: after.filter((item) => !old.has(keyOfItem(item))),
    went: before.filter((item) => !now.has(keyOfItem(item))),
    both: both.map((item): [T, T] => [item, now.get(keyOfItem(item))!]),
    isReordered: both.some((item, i) => keyOfItem(item) !== order[i]),
  };
}

/** What tells an item of a list from the others. */
export const keyOfItem = (item: object): string => {
  const { id, layerId, direction, alias, role, source, target } = item as Record<string, unknown>;
  if (typeof id === 'string') return id;
  if (typeof layerId === 'string') return layerId;
  if (typeof alias === 'string') return `${String(direction)} ${alias}`;
  if (typeof role === 'string') return `${role} ${JSON.stringify(source)}`;
  return JSON.stringify(target ?? item);
};
const signed = (by: number, unit: string): string =>
  `${by > 0 ? '+' : '−'}${Math.round(Math.abs(by) * 10) / 10}${unit}`;
const within = (item: object, ...before: ThingStep[]): Thing => [...before, { key: keyOfItem(item) }];

function songDifferences(before: Song, after: Song, names: DifferenceNames, say: Say): void {
  const nameOf = (id: string): string =>
    [...after.layers, ...before.layers].find((one) => one.id === id)?.name ?? 'a layer';
  const layers = matched(before.layers, after.layers);
  for (const layer of layers.came) say(`layer ${layer.name} added`, within(layer, 'layers'));
  for (const layer of layers.went) say(`layer ${layer.name} removed`, within(layer, 'layers'));
  for (const [old, now] of layers.both) layerDifferences(old, now, names, say);
  if (layers.isReordered) say('layers in another order', ['layers', ORDER]);
  const patches = matched(before.patches, after.patches);
  for (const patch of patches.came) say(`patch ${patch.name} added`, within(patch, 'patches'));
  for (const patch of patches.went) say(`patch ${patch.name} removed`, within(patch, 'patches'));
  for (const [old, now] of patches.both) patchDifferences(old, now, nameOf, say);
  if (patches.isReordered) say('patches in another order', ['patches', ORDER]);
  partsDifferences(before.standing, after.standing, nameOf, 'standing: ', ['standing'], say);
  timelineDifferences(before, after, say);
  if (!sameBody(before.bindings, after.bindings)) say('what roles do in the song differs', ['bindings']);
  for (const [field, words] of [
    ['tempos', temposInWords],
    ['meters', metersInWords],
  ] as const)
    if (!sameBody(before.map[field], after.map[field]))
      say(`${words(before.map)} → ${words(after.map)}`, ['map', field]);
  otherFields(before.map, after.map, ['tempos', 'meters'], say, '', (field) => ['map', field]);
  otherFields(before, after, ['layers', 'patches', 'standing', 'sections', 'cues', 'bindings', 'map'], say);
}

/** Cues by their number, sections by their names. */
function timelineDifferences(before: Song, after: Song, say: Say): void {
  const cues = matched(before.cues, after.cues);
  const changed = cues.both.filter(([old, now]) => !sameBody(old, now)).length;
  for (const [count, what] of [
    [cues.came.length, 'added'],
    [cues.went.length, 'removed'],
    [changed, 'changed'],
    [cues.isReordered ? cues.both.length : 0, 'in another order'],
  ] as const)
    if (count > 0) say(`${count} cue${count === 1 ? '' : 's'} ${what}`, ['cues']);
  const sections = matched(before.sections, after.sections);
  for (const { name } of sections.came) say(`section ${name} added`, ['sections']);
  for (const { name } of sections.went) say(`section ${name} removed`, ['sections']);
  for (const [old, now] of sections.both)
    if (!sameBody(old, now))
      say(old.name === now.name ? `section ${now.name} changed` : `section ${old.name} → ${now.name}`, ['sections']);
  if (sections.isReordered) say('sections in another order', ['sections']);
}

const temposInWords = ({ tempos }: SongMap): string =>
  tempos.length === 1 ? `tempo ${tempos[0].bpm}` : `${tempos.length} tempos from ${tempos[0].bpm}`;
const metersInWords = ({ meters }: SongMap): string =>
  meters.length === 1
    ? `meter ${meters[0].beats}/${meters[0].unit}`
    : `${meters.length} meters from ${meters[0].beats}/${meters[0].unit}`;

function layerDifferences(old: Layer, now: Layer, names: DifferenceNames, say: Say): void {
  const at = (field: string): Thing => [...within(now, 'layers'), field];
  if (old.name !== now.name) say(`layer ${old.name} called ${now.name}`, at('name'));
  const where = `${now.name}: `;
  if (!sameBody(old.sound, now.sound)) {
    const [from, to] = [old, now].map(({ sound }) => names.sound(sound.instrumentId, sound.presetId));
    say(from === to ? `${where}sound differs` : `${where}sound ${from} → ${to}`, at('sound'));
  }
  otherFields(old, now, ['sound'], say, where, at);
}

function patchDifferences(old: Patch, now: Patch, nameOf: (id: string) => string, say: Say): void {
  const here = within(now, 'patches');
  const at = (field: string): Thing => [...here, field];
  if (old.name !== now.name) say(`patch ${old.name} called ${now.name}`, at('name'));
  const where = `${now.name}: `;
  partsDifferences(old.parts, now.parts, nameOf, where, at('parts'), say);
  const blends = matched(old.blends, now.blends);
  const blendAt = (blend: Blend): Thing => within(blend, ...at('blends'));
  for (const blend of blends.came) say(`${where}blend ${blend.name} added`, blendAt(blend));
  for (const blend of blends.went) say(`${where}blend ${blend.name} removed`, blendAt(blend));
  for (const [from, to] of blends.both) blendDifferences(from, to, where, blendAt(to), say);
  if (blends.isReordered) say(`${where}blends in another order`, [...at('blends'), ORDER]);
  if (!sameBody(old.bindings, now.bindings)) say(`${where}what roles do differs`, at('bindings'));
  otherFields(old, now, ['parts', 'blends', 'bindings'], say, where, at);
}

function blendDifferences(old: Blend, now: Blend, where: string, thing: Thing, say: Say): void {
  if (old.name !== now.name) say(`${where}blend ${old.name} called ${now.name}`, thing);
  if (!sameBody(old.values, now.values)) say(`${where}balance of blend ${now.name} differs`, thing);
  otherFields(old, now, ['values'], say, `${where}blend ${now.name}: `, () => thing);
}

function partsDifferences(
  before: readonly Part[],
  after: readonly Part[],
  nameOf: (id: string) => string,
  where: string,
  list: Thing,
  say: Say,
): void {
  const parts = matched(before, after);
  for (const part of parts.came) say(`${where}${nameOf(part.layerId)} plays`, within(part, ...list));
  for (const part of parts.went) say(`${where}${nameOf(part.layerId)} no longer plays`, within(part, ...list));
  for (const [old, now] of parts.both)
    partDifferences(old, now, `${where}${nameOf(now.layerId)} `, within(now, ...list), say);
  if (parts.isReordered) say(`${where}layers in another order`, [...list, ORDER]);
}

/** Everything of one part is one thing: it comes back together. */
function partDifferences(old: Part, now: Part, where: string, thing: Thing, say: Say): void {
  if (old.levelDb !== now.levelDb) say(`${where}${signed(now.levelDb - old.levelDb, ' dB')}`, thing);
  for (const end of ['lowKey', 'highKey'] as const)
    if (old.zone[end] !== now.zone[end])
      say(
        `${where}${end === 'lowKey' ? 'from' : 'up to'} ${keyName(old.zone[end])} → ${keyName(now.zone[end])}`,
        thing,
      );
  if (old.mute !== now.mute) say(`${where}${now.mute ? 'muted' : 'no longer muted'}`, thing);
  if (old.shift !== now.shift) say(`${where}shift ${old.shift} → ${now.shift} semitones`, thing);
  otherFields(withoutEnds(old.zone), withoutEnds(now.zone), [], say, where, () => thing);
  otherFields(old, now, ['levelDb', 'zone', 'mute', 'shift'], say, where, () => thing);
}

const withoutEnds = (zone: Part['zone']): object => ({ ...zone, lowKey: 0, highKey: 0 });

function setlistDifferences(before: Setlist, after: Setlist, names: DifferenceNames, say: Say): void {
  const nameOf = (entry: SetlistEntry): string =>
    entry.kind === 'break' ? entry.name : (names.song(entry.songId) ?? 'a song');
  const entries = matched(before.entries, after.entries);
  for (const entry of entries.came) say(`${nameOf(entry)} added`, within(entry, 'entries'));
  for (const entry of entries.went) say(`${nameOf(entry)} taken out`, within(entry, 'entries'));
  for (const [old, now] of entries.both)
    if (!sameBody(old, now)) {
      const at = within(now, 'entries');
      if (old.kind !== now.kind) say(`${nameOf(now)} differs`, at);
      else otherFields(old, now, [], say, `${nameOf(now)}: `, () => at);
    }
  if (entries.isReordered) say('another order', ['entries', ORDER]);
  const programs = matched(before.programs, after.programs);
  const count = programs.came.length + programs.went.length + programs.both.filter(([a, b]) => !sameBody(a, b)).length;
  if (count > 0 || programs.isReordered)
    say(
      count > 0
        ? `${count} program number${count === 1 ? '' : 's'} differ${count === 1 ? 's' : ''}`
        : 'program numbers in another order',
      ['programs'],
    );
  if (!sameBody(before.roles, after.roles)) say('roles differ', ['roles']);
  if (!sameBody(before.bindings, after.bindings)) say('what roles do differs', ['bindings']);
  otherFields(before, after, ['entries', 'programs', 'roles', 'bindings'], say);
}

function gearDifferences(before: GearList, after: GearList, say: Say): void {
  const ports = matched(before.ports, after.ports);
  for (const port of ports.came) say(`port ${port.alias} added`, within(port, 'ports'));
  for (const port of ports.went) say(`port ${port.alias} taken out`, within(port, 'ports'));
  for (const [old, now] of ports.both) if (!sameBody(old, now)) say(`port ${now.alias} differs`, within(now, 'ports'));
  if (ports.isReordered) say('ports in another order', ['ports', ORDER]);
  const roles = matched(before.roles, after.roles);
  for (const role of roles.came) say(`${role.role} has another control`, within(role, 'roles'));
  for (const role of roles.went) say(`a control taken off ${role.role}`, within(role, 'roles'));
  for (const [old, now] of roles.both)
    if (!sameBody(old, now)) say(`the control of ${now.role} differs`, within(now, 'roles'));
  if (roles.isReordered) say('controls in another order', ['roles', ORDER]);
  otherFields(before, after, ['ports', 'roles'], say);
}

const MOST_SOUNDS_BY_NAME = 3;

function instrumentDifferences(before: Instrument, after: Instrument, say: Say): void {
  const field = after.kind === 'outboard' ? 'names' : 'presets';
  const listOf = (one: Instrument): readonly { id: string; name: string }[] =>
    one.kind === 'outboard' ? one.names : one.presets;
  if (before.kind !== after.kind) return say('it is of another kind', []);
  const presets = matched(listOf(before), listOf(after));
  const changed = presets.both.filter(([old, now]) => !sameBody(old, now)).map(([, now]) => now);
  const few = (items: readonly { id: string; name: string }[], what: string): void => {
    if (items.length > MOST_SOUNDS_BY_NAME) say(`${items.length} sounds ${what}`, [field]);
    else for (const item of items) say(`${item.name} ${what}`, within(item, field));
  };
  few(presets.came, 'added');
  few(presets.went, 'removed');
  few(changed, 'changed');
  if (presets.isReordered) say('sounds in another order', [field, ORDER]);
  otherFields(before, after, ['names', 'presets', 'kind'], say);
}
