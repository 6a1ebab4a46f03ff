import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { fail, ok, type Result } from '../../result';
import { EntryMessage, type NoteNames } from '../../show';
import { MOST_NAMES, addressText, isSevenBit, tidyName, type NameRow, type NotUnderstood } from './nameRows';

/** What is wrong with a MIDINameDocument. */
export type MidnamErrorCode = 'not-xml' | 'not-midnam' | 'too-large' | 'no-names';

/** Why a MIDINameDocument cannot be read. */
export interface MidnamError {
  code: MidnamErrorCode;
  message: string;
}

/** One device of a document. */
export interface MidnamDevice {
  manufacturer: string;
  model: string;
  rows: NameRow[];
  noteNames: NoteNames[];
  notUnderstood: NotUnderstood[];
}

const LARGEST = 20_000_000;
/** The document type with its own declarations: without it there are no entities but those of XML itself. */
const DOCTYPE = /<!DOCTYPE[^[>]*(\[[\s\S]*?\])?\s*>/;
/** An element as the parser gives it: attributes with “@” before their names, everything that may repeat as a list. */
interface Element {
  [name: string]: unknown;
}

const REPEATS = new Set([
  'MasterDeviceNames',
  'ExtendingDeviceNames',
  'StandardDeviceMode',
  'Model',
  'ChannelNameSet',
  'PatchBank',
  'PatchNameList',
  'Patch',
  'ControlChange',
  'ProgramChange',
  'NoteOn',
  'NoteNameList',
  'NoteGroup',
  'Note',
]);

/**
 * Reads a MIDINameDocument (MIDI Name Document 1.0): one device for each model set of names, banks as folders.
 * Entities of the document's own are not expanded, and no external definition is fetched.
 */
export function readMidnam(text: string): Result<MidnamDevice[], MidnamError> {
  if (text.length > LARGEST) return fail({ code: 'too-large', message: 'the document is larger than 20 MB' });
  const valid = XMLValidator.validate(text);
  if (valid !== true)
    return fail({ code: 'not-xml', message: `this is not well-formed XML: line ${valid.err.line}, ${valid.err.msg}` });
  let document: Element;
  try {
    document = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '@',
      processEntities: true,
      htmlEntities: true,
      parseAttributeValue: false,
      parseTagValue: false,
      isArray: (name) => REPEATS.has(name),
    }).parse(text.replace(DOCTYPE, '')) as Element;
  } catch (cause) {
    return fail({
      code: 'not-xml',
      message: `this XML cannot be read: ${cause instanceof Error ? cause.message : 'unknown trouble'}`,
    });
  }
  if (!('MIDINameDocument' in document))
    return fail({ code: 'not-midnam', message: 'this is XML, but no MIDINameDocument' });
  const root = isElement(document.MIDINameDocument) ? document.MIDINameDocument : {};
  const devices = [...list(root, 'MasterDeviceNames'), ...list(root, 'ExtendingDeviceNames')]
    .map(readDevice)
    .filter(({ rows, noteNames }) => rows.length > 0 || noteNames.length > 0);
  return devices.length === 0
    ? fail({ code: 'no-names', message: 'the document names no patches and no notes' })
    : ok(devices);
}

const isElement = (value: unknown): value is Element =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (element: Element, name: string): Element[] =>
  Array.isArray(element[name])
    ? (element[name] as unknown[]).map((item) => (isElement(item) ? item : { '#text': item }))
    : [];
const attribute = (element: Element, name: string): string =>
  typeof element[`@${name}`] === 'string' ? (element[`@${name}`] as string) : '';
const textOf = (value: unknown): string =>
  typeof value === 'string' ? value : isElement(value) && typeof value['#text'] === 'string' ? value['#text'] : '';
const numberOf = (element: Element, name: string): number | null => {
  const text = attribute(element, name).trim();
  return /^\d{1,5}$/.test(text) ? Number(text) : null;
};

function readDevice(device: Element): MidnamDevice {
  const notUnderstood: NotUnderstood[] = [];
  const lists = new Map<string, Element>();
  const sets = list(device, 'ChannelNameSet');
  for (const owner of [device, ...sets])
    for (const names of list(owner, 'PatchNameList')) lists.set(attribute(names, 'Name'), names);
  const rows: NameRow[] = [];
  const taken = new Set<string>();
  for (const bank of sets.flatMap((set) => list(set, 'PatchBank'))) {
    for (const row of readBank(bank, lists, notUnderstood)) {
      if (rows.length >= MOST_NAMES) {
        notUnderstood.push({ line: 0, text: row.name, why: `more than ${MOST_NAMES} names` });
        break;
      }
      // One bank may stand in several channel sets: its names are taken once.
      const key = `${row.folder}\n${addressText(row)}`;
      if (!taken.has(key)) rows.push(row);
      taken.add(key);
    }
  }
  const noteLists = [device, ...sets].flatMap((owner) => list(owner, 'NoteNameList'));
  return {
    manufacturer: textOf(device.Manufacturer),
    model:
      list(device, 'Model')
        .map((model) => textOf(model['#text'] ?? model))
        .join(', ') || textOf(device.Model),
    rows,
    noteNames: noteLists.map(readNotes),
    notUnderstood,
  };
}

function bankOf(commands: Element | null): { msb: number | null; lsb: number | null } {
  let msb: number | null = null;
  let lsb: number | null = null;
  for (const change of commands ? list(commands, 'ControlChange') : []) {
    const value = numberOf(change, 'Value');
    if (value === null || !isSevenBit(value)) continue;
    if (numberOf(change, 'Control') === 0) msb = value;
    if (numberOf(change, 'Control') === 32) lsb = value;
  }
  return { msb, lsb };
}

function readBank(bank: Element, lists: ReadonlyMap<string, Element>, notUnderstood: NotUnderstood[]): NameRow[] {
  const folder = tidyName(attribute(bank, 'Name'));
  const bankCommands = bankOf(isElement(bank.MIDICommands) ? bank.MIDICommands : null);
  const used = isElement(bank.UsesPatchNameList) ? lists.get(attribute(bank.UsesPatchNameList, 'Name')) : undefined;
  const names = list(bank, 'PatchNameList')[0] ?? used;
  if (!names) {
    notUnderstood.push({ line: 0, text: folder, why: 'this bank names no list of patches, or one that is not there' });
    return [];
  }
  return list(names, 'Patch').flatMap((patch, i): NameRow[] => {
    const commands = isElement(patch.PatchMIDICommands) ? patch.PatchMIDICommands : null;
    const name = tidyName(attribute(patch, 'Name'));
    const also = commands ? furtherMessages(commands) : [];
    const own =
      numberOf(patch, 'ProgramChange') ??
      (commands ? numberOf(list(commands, 'ProgramChange')[0] ?? {}, 'Number') : null);
    // A name with commands of its own and no program among them sends none; one without any is counted.
    const program = own ?? (also.length > 0 ? null : i);
    if (name === '' || (program !== null && !isSevenBit(program))) {
      notUnderstood.push({
        line: 0,
        text: `${folder}: ${attribute(patch, 'Number')} ${name}`.trim(),
        why: name === '' ? 'it has no name' : 'its program is not 0 to 127',
      });
      return [];
    }
    const bank = bankOf(commands);
    return [
      {
        name,
        folder,
        msb: bank.msb ?? bankCommands.msb,
        lsb: bank.lsb ?? bankCommands.lsb,
        program,
        ...(also.length > 0 ? { also } : {}),
      },
    ];
  });
}

/** Key switches and controllers of a patch, besides its bank. */
function furtherMessages(commands: Element): EntryMessage[] {
  const found = [
    ...list(commands, 'ControlChange')
      .map((change) => ({
        kind: 'controller',
        controller: numberOf(change, 'Control'),
        value: numberOf(change, 'Value'),
      }))
      .filter(({ controller }) => controller !== 0 && controller !== 32),
    ...list(commands, 'NoteOn').map((note) => ({
      kind: 'note',
      key: numberOf(note, 'Note'),
      velocity: numberOf(note, 'Velocity') ?? 100,
    })),
  ];
  return found
    .flatMap((message) => {
      const read = EntryMessage.safeParse(message);
      return read.success ? [read.data] : [];
    })
    .slice(0, 16);
}

function readNotes(names: Element): NoteNames {
  const notes = [names, ...list(names, 'NoteGroup')].flatMap((owner) => list(owner, 'Note'));
  return {
    name: tidyName(attribute(names, 'Name')) || 'Keys',
    notes: notes
      .flatMap((note) => {
        const key = numberOf(note, 'Number');
        const name = tidyName(attribute(note, 'Name'));
        return key !== null && isSevenBit(key) && name !== '' ? [{ key, name }] : [];
      })
      .sort((a, b) => a.key - b.key),
  };
}
