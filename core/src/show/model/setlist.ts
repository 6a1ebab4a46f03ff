import { z } from 'zod';
import { Binding } from './control';
import { Effect, SharedEffect } from './effect';
import { BlendId, EntryId, GearListId, PatchId, SetlistId, SongId } from './ids';
import { Layer, Part } from './layer';
import { Meant } from './meant';
import { TempoBpm } from './songMap';
import { Channel, Name, SevenBit } from './values';

const EntryNote = z.string().max(500).default('');

/** A song or a break at its place in the running order. */
export const SetlistEntry = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('song'),
    id: EntryId,
    songId: SongId,
    skip: z.boolean().default(false),
    /** For tonight's singer: semitones by which the song is shifted here, besides its own transposition. */
    keyShift: z.number().int().min(-24).max(24).default(0),
    /** Its tempo tonight, in quarter notes a minute at its beginning; the rest of its map goes along. null: its own. */
    bpm: TempoBpm.nullable().default(null),
    /** For tonight: “Ada starts alone”. */
    note: EntryNote,
    /** Where its timeline ends: it stops, the next song is recalled and stands, or plays at once. */
    atEnd: z.enum(['stop', 'next', 'playNext']).default('stop'),
  }),
  z.strictObject({
    kind: z.literal('break'),
    id: EntryId,
    name: Name.default('Break'),
    minutes: z.number().int().min(0).max(240).default(20),
    note: EntryNote,
  }),
]);
export type SetlistEntry = z.infer<typeof SetlistEntry>;

/** What a program address recalls: a song (patch null), a patch (blend null) or a blend. */
export const RecallTarget = z.strictObject({
  songId: SongId,
  patchId: PatchId.nullable().default(null),
  blendId: BlendId.nullable().default(null),
});
export type RecallTarget = z.infer<typeof RecallTarget>;

/** One line of the program map. Numbers are stored as on the wire, 0–127. */
export const ProgramLine = z.strictObject({
  target: RecallTarget,
  msb: SevenBit.default(0),
  lsb: SevenBit.default(0),
  program: SevenBit,
  pinned: z.boolean().default(false),
  /** null: from any listened port and channel. */
  port: Name.nullable().default(null),
  channel: Channel.nullable().default(null),
});
export type ProgramLine = z.infer<typeof ProgramLine>;

/** How the program map is numbered when it is numbered anew. Addresses are `(MSB · 128 + LSB) · 128 + program`. */
export const Numbering = z.discriminatedUnion('kind', [
  /** One after the other in playing order. */
  z.strictObject({ kind: z.literal('order'), startAt: z.number().int().min(0).max(2_097_151).default(0) }),
  /** Each song starts at the next multiple of `size` after `startAt`. */
  z.strictObject({
    kind: z.literal('blocks'),
    startAt: z.number().int().min(0).max(2_097_151).default(0),
    size: z.number().int().min(2).max(128),
  }),
  /** Numbers are typed; numbering anew only fills what has none. */
  z.strictObject({ kind: z.literal('byHand') }),
]);
export type Numbering = z.infer<typeof Numbering>;

/** An evening: its songs in order, the program map, and what stands through all of them. */
export const Setlist = z.strictObject({
  id: SetlistId,
  name: Name,
  /** The day of the gig, “2026-06-21”, or null. */
  date: z.iso.date('a date reads 2026-06-21').nullable().default(null),
  /** Where it is played. */
  place: z.string().max(200).default(''),
  /** When the first song starts, “20:30”. */
  startsAt: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time reads 20:30')
    .default('20:00'),
  /** When it has to be over, or null. */
  curfew: z
    .string()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time reads 22:00')
    .nullable()
    .default(null),
  entries: z.array(SetlistEntry).max(2000).default([]),
  layers: z.array(Layer).max(16).default([]),
  /** Standing layers of the whole setlist. */
  standing: z.array(Part).max(16).default([]),
  programs: z.array(ProgramLine).max(20_000).default([]),
  numbering: Numbering.default({ kind: 'order', startAt: 0 }),
  /** Names of what the player uses, in the order of the page. Songs may name further ones. */
  roles: z.array(Name).max(256).default([]),
  bindings: z.array(Binding).max(256).default([]),
  /** Whether program numbers read 0–127 or 1–128. */
  programsFrom: z.union([z.literal(0), z.literal(1)]).default(1),
  /** Whether middle C (key 60) reads C3 or C4. */
  middleC: z.enum(['C3', 'C4']).default('C4'),
  gearListId: GearListId.nullable().default(null),
  /** Made by the player, besides room and echo; layers are sent to them by name. */
  sharedEffects: z.array(SharedEffect).max(8).default([]),
  /** In series, on the whole of each output. */
  wholeEffects: z.array(Effect).max(8).default([]),
  /** What the soundcheck finds and is meant so. */
  meant: z.array(Meant).max(5000).default([]),
});
export type Setlist = z.infer<typeof Setlist>;
