import { z } from 'zod';
import { Effect } from './effect';
import { InstrumentId, PresetId } from './ids';
import { Channel, Key, LevelDb, Name, SevenBit } from './values';

/** A further message of a name list's entry, on the instrument's port and channel. A note is a key switch. */
export const EntryMessage = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('note'), key: Key, velocity: z.number().int().min(1).max(127).default(100) }),
  z.strictObject({ kind: z.literal('controller'), controller: z.number().int().min(1).max(119), value: SevenBit }),
]);
export type EntryMessage = z.infer<typeof EntryMessage>;

/**
 * One line of a name list: a name and what has to be sent for it. A bank byte that is null is not sent, nor a program
 * that is null.
 */
export const NameListEntry = z.strictObject({
  id: PresetId,
  name: Name,
  folder: z.string().max(120).default(''),
  msb: SevenBit.nullable().default(null),
  lsb: SevenBit.nullable().default(null),
  program: SevenBit.nullable(),
  /** Sent after the program, in this order. */
  also: z.array(EntryMessage).max(16).default([]),
});
export type NameListEntry = z.infer<typeof NameListEntry>;

/** A message that such an instrument takes as “next” or “previous”. */
export const StepMessage = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('controller'), number: z.number().int().min(1).max(119), value: SevenBit }),
  z.strictObject({ kind: z.literal('program'), number: SevenBit }),
  z.strictObject({ kind: z.literal('note'), number: SevenBit }),
]);
export type StepMessage = z.infer<typeof StepMessage>;

/** How presets are chosen on an instrument that knows no numbers: counted along its name list, which wraps. */
export const CountedSteps = z.strictObject({ next: StepMessage, previous: StepMessage });
export type CountedSteps = z.infer<typeof CountedSteps>;

/** Names of the keys of a kit. */
export const NoteNames = z.strictObject({
  name: Name,
  notes: z.array(z.strictObject({ key: Key, name: Name })).max(128),
});
export type NoteNames = z.infer<typeof NoteNames>;

/** Hardware, or another program behind a virtual port. */
export const OutboardInstrument = z.strictObject({
  kind: z.literal('outboard'),
  id: InstrumentId,
  name: Name,
  /** Alias of the output that leads to it. */
  port: Name,
  channel: Channel,
  /** How long it is silent or wrong after a program change, in ms. */
  switchMs: z.number().min(0).max(10_000).default(0),
  names: z.array(NameListEntry).max(4096).default([]),
  /** null: presets are chosen by bank and program. */
  counted: CountedSteps.nullable().default(null),
  /** Names of keys, as drum kits have them. */
  noteNames: z.array(NoteNames).max(256).default([]),
});
export type OutboardInstrument = z.infer<typeof OutboardInstrument>;

const Away = z.number().int().min(-100).max(100).default(0);

/** How a preset of the player's own differs from the one that it was made from; −100 to 100, 0 leaves it. */
export const SoundShape = z.strictObject({
  bright: Away,
  attack: Away,
  decay: Away,
  release: Away,
  /** How much velocity counts. */
  touch: Away,
  vibrato: Away,
  /** How far its oscillators are apart. */
  width: Away,
  /** Breath, bow, hammer: the noise in it. */
  noise: Away,
});
export type SoundShape = z.infer<typeof SoundShape>;

/** A preset that the player has made of a built-in one. */
export const OwnPreset = z.strictObject({
  id: PresetId,
  name: Name,
  from: PresetId,
  shape: SoundShape.prefault({}),
  effects: z.array(Effect).max(8).default([]),
});
export type OwnPreset = z.infer<typeof OwnPreset>;

/** Presets that the player has made of a built-in instrument. */
export const OwnInstrument = z.strictObject({
  kind: z.literal('own'),
  id: InstrumentId,
  name: Name,
  of: InstrumentId,
  presets: z.array(OwnPreset).max(512).default([]),
});
export type OwnInstrument = z.infer<typeof OwnInstrument>;

/** SHA-256 of a stored file, in hexadecimal: its name on the server. */
export const FileHash = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'a file is named by the 64 hexadecimal digits of its SHA-256');

/** A preset of a bank. `bank` is as the bank file has it: 128 is the drums. */
export const BankPreset = z.strictObject({
  id: PresetId,
  name: Name,
  bank: z.number().int().min(0).max(65_535),
  program: SevenBit,
});
export type BankPreset = z.infer<typeof BankPreset>;

/** A sample bank in the SoundFont 2 format, with its samples as they are (.sf2) or compressed (.sf3). */
export const BankInstrument = z.strictObject({
  kind: z.literal('bank'),
  id: InstrumentId,
  name: Name,
  file: FileHash,
  fileName: z.string().max(255).default(''),
  bytes: z.number().int().min(1),
  presets: z.array(BankPreset).max(4096).default([]),
});
export type BankInstrument = z.infer<typeof BankInstrument>;

/** One recording. Seconds are within the file; `endSeconds` null is its end. */
export const Recording = z.strictObject({
  id: PresetId,
  name: Name,
  file: FileHash,
  fileName: z.string().max(255).default(''),
  lengthSeconds: z.number().min(0).max(3600),
  startSeconds: z.number().min(0).max(3600).default(0),
  endSeconds: z.number().min(0).max(3600).nullable().default(null),
  /** The key that plays it as it was recorded. */
  rootKey: Key.default(60),
  /** Whether other keys play it higher and lower. */
  followsKeys: z.boolean().default(true),
  /** A one-shot plays to its end, whatever the key does; a loop goes round until it is stopped. */
  plays: z.enum(['whileHeld', 'oneShot', 'loop']).default('whileHeld'),
  starts: z.enum(['atOnce', 'beat', 'bar']).default('atOnce'),
  levelDb: LevelDb.default(0),
});
export type Recording = z.infer<typeof Recording>;

/** Recordings of the player’s own, each a preset. */
export const RecordingsInstrument = z.strictObject({
  kind: z.literal('recordings'),
  id: InstrumentId,
  name: Name,
  presets: z.array(Recording).max(256).default([]),
});
export type RecordingsInstrument = z.infer<typeof RecordingsInstrument>;

/** Instruments that are stored. The built-in ones are not: they ship with the application (see `BUILT_INS`). */
export const Instrument = z.discriminatedUnion('kind', [
  OutboardInstrument,
  OwnInstrument,
  BankInstrument,
  RecordingsInstrument,
]);
export type Instrument = z.infer<typeof Instrument>;

/** Files that an instrument needs. */
export function filesOf(instrument: Instrument): string[] {
  if (instrument.kind === 'bank') return [instrument.file];
  return instrument.kind === 'recordings' ? instrument.presets.map((recording) => recording.file) : [];
}
