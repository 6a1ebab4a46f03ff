import { z } from 'zod';
import { BlendId, CueId, InstrumentId, LayerId, PatchId, PresetId } from './ids';
import { Channel, Key, Name, SevenBit, TickNumber } from './values';

/** Length in ticks of what lasts: a note, a ramp. */
const TickLength = z.number().int().min(1, 'at least one tick').max(100_000_000);

const every = {
  id: CueId,
  atTick: TickNumber,
  /** Stays in the song, and does nothing. */
  off: z.boolean().default(false),
  /** Of the player's own, beside it in the table. */
  note: z.string().max(500).default(''),
};
const to = { port: Name, channel: Channel };

/** Data bytes behind a status of 0x80–0xef, by its high nibble from 8. */
const DATA_BYTES = [2, 2, 2, 2, 1, 1, 2];
const isData = (byte: number): boolean => byte < 0x80;

/** What is wrong with bytes that should be one message; null: nothing is. */
function faultOfMessage(bytes: readonly number[]): string | null {
  const [status, ...data] = bytes;
  if (status === 0xf0)
    return data.length > 1 && data.at(-1) === 0xf7 && data.slice(0, -1).every(isData)
      ? null
      : 'system exclusive runs from F0 to F7, with bytes up to 7F between';
  if (status < 0x80 || status > 0xef) return 'a message begins with 80–EF, or is system exclusive';
  if (status < 0xa0) return 'a note is a cue of its own, with its length';
  if (data.length !== DATA_BYTES[(status >> 4) - 8] || !data.every(isData))
    return 'exactly one whole message, with its bytes up to 7F';
  return null;
}

/**
 * The bytes of one message to a port: a channel message that is no note (MIDI 1.0, status A0–EF), or system exclusive
 * from F0 to F7.
 */
export const MessageBytes = z
  .array(z.number().int().min(0).max(255))
  .min(2)
  .max(4096)
  .superRefine((bytes, context) => {
    const message = faultOfMessage(bytes);
    if (message !== null) context.addIssue({ code: 'custom', message });
  });

const BankAhead = z.number().int().min(0).max(1_000_000).nullable().default(0);

/** Where a note of the timeline sounds: a layer of the song, or a port and channel. */
export const NoteTarget = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('layer'), layerId: LayerId }),
  z.strictObject({ kind: z.literal('port'), ...to }),
]);
export type NoteTarget = z.infer<typeof NoteTarget>;

/** The way of a controller to another value. */
export const ControllerRamp = z.strictObject({
  toValue: SevenBit,
  lengthTicks: TickLength,
  /** 0 is a straight line; below, most of the way comes late, above, early. */
  curve: z.number().int().min(-100).max(100).default(0),
});
export type ControllerRamp = z.infer<typeof ControllerRamp>;

/**
 * Something that the playhead does in passing. Positions are ticks from the start, 960 to the quarter; `port` is the
 * alias of an output in the gear list.
 */
export const Cue = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('recall'), ...every, patchId: PatchId, blendId: BlendId.nullable().default(null) }),
  /** A preset of an outboard instrument, by name; channel null: the instrument's own. */
  z.strictObject({
    kind: z.literal('preset'),
    ...every,
    instrumentId: InstrumentId,
    presetId: PresetId,
    channel: Channel.nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('program'),
    ...every,
    ...to,
    msb: SevenBit.nullable().default(null),
    lsb: SevenBit.nullable().default(null),
    program: SevenBit,
    /** Ticks by which a bank byte goes out before the program; null: it is in force already, and not sent again. */
    msbAhead: BankAhead,
    lsbAhead: BankAhead,
  }),
  z.strictObject({
    kind: z.literal('controller'),
    ...every,
    ...to,
    controller: z.number().int().min(0).max(119),
    value: SevenBit,
    ramp: ControllerRamp.nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('note'),
    ...every,
    to: NoteTarget,
    key: Key,
    velocity: z.number().int().min(1).max(127).default(96),
    releaseVelocity: SevenBit.default(64),
    lengthTicks: TickLength,
  }),
  z.strictObject({
    kind: z.literal('message'),
    ...every,
    port: Name,
    bytes: MessageBytes,
    /** Whether a start behind it sends it: it says how things are, and is not only of the moment. */
    isState: z.boolean().default(false),
  }),
  /** To lights or video, by what happens there. */
  z.strictObject({
    kind: z.literal('lights'),
    ...every,
    name: Name,
    port: Name,
    bytes: MessageBytes,
    isState: z.boolean().default(true),
  }),
  /** For the player to read on stage; empty: nothing any more. */
  z.strictObject({ kind: z.literal('text'), ...every, text: z.string().max(200) }),
  /** Faster or slower than the map from here to its next tempo, in per cent of it. */
  z.strictObject({ kind: z.literal('tempo'), ...every, percent: z.number().min(50).max(200) }),
]);
export type Cue = z.infer<typeof Cue>;
export type CueKind = Cue['kind'];

/** Kinds in the order in which those of one tick are put in. */
export const CUE_KINDS = [
  'recall',
  'preset',
  'program',
  'tempo',
  'controller',
  'message',
  'lights',
  'note',
  'text',
] as const satisfies readonly CueKind[];
