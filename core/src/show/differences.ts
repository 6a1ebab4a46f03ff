import { keyName } from '../midi';
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

type Say = (words: string) => void;

/** What differs between two versions of one thing, in a player's words: from `before` to `after`. Empty: nothing does. */
export function differences(
  kind: Kind,
  before: Body | null,
  after: Body | null,
  names: DifferenceNames = NO_NAMES,
): string[] {
  if (before === null || after === null)
    return before === after ? [] : [after === null ? 'removed' : before === null ? 'new' : ''];
  const found: string[] = [];
  const say: Say = (words) => found.push(words);
  if (before.name !== after.name) say(`called ${after.name}, was ${before.name}`);
  if (kind === 'songs') songDifferences(before as Song, after as Song, names, say);
  else if (kind === 'setlists') setlistDifferences(before as Setlist, after as Setlist, names, say);
  else if (kind === 'gearLists') gearDifferences(before as GearList, after as GearList, say);
  else if (kind === 'instruments') instrumentDifferences(before as Instrument, after as Instrument, say);
  else if (kind === 'everySetlist') {
    if (!sameBody({ ...before, name: '' }, { ...after, name: '' })) say('roles differ');
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
};
/** A field of a body in a player's word. */
export const wordOf = (field: string): string => FIELD_WORDS[field] ?? field;
const isPlain = (value: unknown): value is string | number =>
  (typeof value === 'string' && value.length > 0 && value.length <= 40) || typeof value === 'number';

/** Fields that nothing above has words for: plain values with both states, others by their name alone. */
function otherFields(before: object, after: object, known: readonly string[], say: Say, where = ''): void {
  const fields = new Set([...Object.keys(before), ...Object.keys(after)]);
  for (const field of fields) {
    if (field === 'id' || field === 'name' || known.includes(field)) continue;
    const from = (before as Record<string, unknown>)[field];
    const to = (after as Record<string, unknown>)[field];
    if (sameBody(from, to)) continue;
    say(`${where}${wordOf(field)} ${isPlain(from) && isPlain(to) ? `${from} → ${to}` : 'differs'}`);
  }
}

/** Items of two lists by their ids: what came, what went, what is in both; and whether their order differs. */
function matched<T>(before: readonly T[], after: readonly T[], idOf: (item: T) => string) {
  const old = new Map(before.map((item) => [idOf(item), item]));
  const now = new Map(after.map((item) => [idOf(item), item]));
  const both = before.filter((item) => now.has(idOf(item)));
  const order = after.filter((item) => old.has(idOf(item))).map(idOf);
  return {
    came: after.filter((item) => !old.has(idOf(item))),
    went: before.filter((item) => !now.has(idOf(item))),
    both: both.map((item): [T, T] => [item, now.get(idOf(item))!]),
    isReordered: both.some((item, i) => idOf(item) !== order[i]),
  };
}

const byId = (item: { id: string }): string => item.id;
const signed = (by: number, unit: string): string =>
  `${by > 0 ? '+' : '−'}${Math.round(Math.abs(by) * 10) / 10}${unit}`;

function songDifferences(before: Song, after: Song, names: DifferenceNames, say: Say): void {
  const nameOf = (id: string): string =>
    [...after.layers, ...before.layers].find((one) => one.id === id)?.name ?? 'a layer';
  const layers = matched(before.layers, after.layers, byId);
  for (const layer of layers.came) say(`layer ${layer.name} added`);
  for (const layer of layers.went) say(`layer ${layer.name} removed`);
  for (const [old, now] of layers.both) layerDifferences(old, now, names, say);
  if (layers.isReordered) say('layers in another order');
  const patches = matched(before.patches, after.patches, byId);
  for (const patch of patches.came) say(`patch ${patch.name} added`);
  for (const patch of patches.went) say(`patch ${patch.name} removed`);
  for (const [old, now] of patches.both) patchDifferences(old, now, nameOf, say);
  if (patches.isReordered) say('patches in another order');
  partsDifferences(before.standing, after.standing, nameOf, 'standing: ', say);
  timelineDifferences(before, after, say);
  if (!sameBody(before.bindings, after.bindings)) say('what roles do in the song differs');
  for (const [field, words] of [
    ['tempos', temposInWords],
    ['meters', metersInWords],
  ] as const)
    if (!sameBody(before.map[field], after.map[field])) say(`${words(before.map)} → ${words(after.map)}`);
  otherFields(before.map, after.map, ['tempos', 'meters'], say);
  otherFields(before, after, ['layers', 'patches', 'standing', 'sections', 'cues', 'bindings', 'map'], say);
}

/** Cues by their number, sections by their names. */
function timelineDifferences(before: Song, after: Song, say: Say): void {
  const cues = matched(before.cues, after.cues, byId);
  const changed = cues.both.filter(([old, now]) => !sameBody(old, now)).length;
  for (const [count, what] of [
    [cues.came.length, 'added'],
    [cues.went.length, 'removed'],
    [changed, 'changed'],
  ] as const)
    if (count > 0) say(`${count} cue${count === 1 ? '' : 's'} ${what}`);
  const sections = matched(before.sections, after.sections, byId);
  for (const { name } of sections.came) say(`section ${name} added`);
  for (const { name } of sections.went) say(`section ${name} removed`);
  for (const [old, now] of sections.both)
    if (!sameBody(old, now))
      say(old.name === now.name ? `section ${now.name} changed` : `section ${old.name} → ${now.name}`);
}

const temposInWords = ({ tempos }: SongMap): string =>
  tempos.length === 1 ? `tempo ${tempos[0].bpm}` : `${tempos.length} tempos from ${tempos[0].bpm}`;
const metersInWords = ({ meters }: SongMap): string =>
  meters.length === 1
    ? `meter ${meters[0].beats}/${meters[0].unit}`
    : `${meters.length} meters from ${meters[0].beats}/${meters[0].unit}`;

function layerDifferences(old: Layer, now: Layer, names: DifferenceNames, say: Say): void {
  if (old.name !== now.name) say(`layer ${old.name} called ${now.name}`);
  const where = `${now.name}: `;
  if (!sameBody(old.sound, now.sound)) {
    const [from, to] = [old, now].map(({ sound }) => names.sound(sound.instrumentId, sound.presetId));
    say(from === to ? `${where}sound differs` : `${where}sound ${from} → ${to}`);
  }
  otherFields(old, now, ['sound'], say, where);
}

function patchDifferences(old: Patch, now: Patch, nameOf: (id: string) => string, say: Say): void {
  if (old.name !== now.name) say(`patch ${old.name} called ${now.name}`);
  const where = `${now.name}: `;
  partsDifferences(old.parts, now.parts, nameOf, where, say);
  const blends = matched(old.blends, now.blends, byId);
  for (const blend of blends.came) say(`${where}blend ${blend.name} added`);
  for (const blend of blends.went) say(`${where}blend ${blend.name} removed`);
  for (const [from, to] of blends.both) blendDifferences(from, to, where, say);
  if (blends.isReordered) say(`${where}blends in another order`);
  if (!sameBody(old.bindings, now.bindings)) say(`${where}what roles do differs`);
  otherFields(old, now, ['parts', 'blends', 'bindings'], say, where);
}

function blendDifferences(old: Blend, now: Blend, where: string, say: Say): void {
  if (old.name !== now.name) say(`${where}blend ${old.name} called ${now.name}`);
  if (!sameBody(old.values, now.values)) say(`${where}balance of blend ${now.name} differs`);
  otherFields(old, now, ['values'], say, `${where}blend ${now.name}: `);
}

function partsDifferences(
  before: readonly Part[],
  after: readonly Part[],
  nameOf: (id: string) => string,
  where: string,
  say: Say,
): void {
  const parts = matched(before, after, (part) => part.layerId);
  for (const part of parts.came) say(`${where}${nameOf(part.layerId)} plays`);
  for (const part of parts.went) say(`${where}${nameOf(part.layerId)} no longer plays`);
  for (const [old, now] of parts.both) partDifferences(old, now, `${where}${nameOf(now.layerId)} `, say);
}

function partDifferences(old: Part, now: Part, where: string, say: Say): void {
  if (old.levelDb !== now.levelDb) say(`${where}${signed(now.levelDb - old.levelDb, ' dB')}`);
  for (const end of ['lowKey', 'highKey'] as const)
    if (old.zone[end] !== now.zone[end])
      say(`${where}${end === 'lowKey' ? 'from' : 'up to'} ${keyName(old.zone[end])} → ${keyName(now.zone[end])}`);
  if (old.mute !== now.mute) say(`${where}${now.mute ? 'muted' : 'no longer muted'}`);
  if (old.shift !== now.shift) say(`${where}shift ${old.shift} → ${now.shift} semitones`);
  otherFields(withoutEnds(old.zone), withoutEnds(now.zone), [], say, where);
  otherFields(old, now, ['levelDb', 'zone', 'mute', 'shift'], say, where);
}

const withoutEnds = (zone: Part['zone']): object => ({ ...zone, lowKey: 0, highKey: 0 });

function setlistDifferences(before: Setlist, after: Setlist, names: DifferenceNames, say: Say): void {
  const nameOf = (entry: SetlistEntry): string =>
    entry.kind === 'break' ? entry.name : (names.song(entry.songId) ?? 'a song');
  const entries = matched(before.entries, after.entries, byId);
  for (const entry of entries.came) say(`${nameOf(entry)} added`);
  for (const entry of entries.went) say(`${nameOf(entry)} taken out`);
  for (const [old, now] of entries.both) if (!sameBody(old, now)) say(`${nameOf(now)} differs`);
  if (entries.isReordered) say('another order');
  const addressOf = (line: Setlist['programs'][number]): string =>
    `${line.target.songId} ${line.target.patchId} ${line.target.blendId}`;
  const programs = matched(before.programs, after.programs, addressOf);
  const count = programs.came.length + programs.went.length + programs.both.filter(([a, b]) => !sameBody(a, b)).length;
  if (count > 0) say(`${count} program number${count === 1 ? '' : 's'} differ${count === 1 ? 's' : ''}`);
  if (!sameBody(before.roles, after.roles) || !sameBody(before.bindings, after.bindings)) say('roles differ');
  otherFields(before, after, ['entries', 'programs', 'roles', 'bindings'], say);
}

function gearDifferences(before: GearList, after: GearList, say: Say): void {
  const ports = matched(before.ports, after.ports, ({ direction, alias }) => `${direction} ${alias}`);
  for (const port of ports.came) say(`port ${port.alias} added`);
  for (const port of ports.went) say(`port ${port.alias} taken out`);
  for (const [old, now] of ports.both) if (!sameBody(old, now)) say(`port ${now.alias} differs`);
  const roles = matched(before.roles, after.roles, (role) => `${role.role} ${JSON.stringify(role.source)}`);
  for (const { role } of roles.came) say(`${role} has another control`);
  for (const { role } of roles.went) say(`a control taken off ${role}`);
  for (const [old, now] of roles.both) if (!sameBody(old, now)) say(`the control of ${now.role} differs`);
  otherFields(before, after, ['ports', 'roles'], say);
}

function instrumentDifferences(before: Instrument, after: Instrument, say: Say): void {
  const listOf = (one: Instrument): readonly { id: string; name: string }[] =>
    one.kind === 'outboard' ? one.names : one.presets;
  const presets = matched(listOf(before), listOf(after), byId);
  const changed = presets.both.filter(([old, now]) => !sameBody(old, now));
  const few = (items: readonly { name: string }[], what: string): void => {
    if (items.length > 0)
      say(items.length > 3 ? `${items.length} sounds ${what}` : `${items.map(({ name }) => name).join(', ')} ${what}`);
  };
  few(presets.came, 'added');
  few(presets.went, 'removed');
  few(
    changed.map(([, now]) => now),
    'changed',
  );
  otherFields(before, after, ['names', 'presets', 'kind'], say);
}
