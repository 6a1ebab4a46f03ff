import { z } from 'zod';
import { GearListId } from './ids';
import { Channel, Name, SevenBit } from './values';

/** How program changes from an input are read. */
export const ProgramListening = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('off') }),
  /** Each program recalls what the program map says. */
  z.strictObject({
    kind: z.literal('direct'),
    channels: z.array(Channel).min(1).max(16).nullable().default(null),
    bank: z.enum(['both', 'lsb', 'none']).default('both'),
  }),
  /** A controller with a counter of its own: only the direction of change counts. */
  z.strictObject({
    kind: z.literal('counter'),
    channels: z.array(Channel).min(1).max(16).nullable().default(null),
    lowest: SevenBit.default(0),
    highest: SevenBit.default(127),
    guardMs: z.number().min(0).max(2000).default(120),
  }),
]);
export type ProgramListening = z.infer<typeof ProgramListening>;

export const InputPort = z.strictObject({
  direction: z.literal('in'),
  alias: Name,
  /** The name by which the machine lists it; it is found again by this. */
  device: Name,
  on: z.boolean().default(true),
  /** Whether its keys play layers. */
  plays: z.boolean().default(true),
  /** Shift of the whole keyboard, in semitones, before the zones. */
  keyShift: z.number().int().min(-60).max(60).default(0),
  channels: z.array(Channel).min(1).max(16).nullable().default(null),
  programs: ProgramListening.default({ kind: 'direct', channels: null, bank: 'both' }),
  reversedPedals: z.array(SevenBit).max(16).default([]),
  ignoredPedals: z.array(SevenBit).max(16).default([]),
  /** Its pedals also work for the layers that these inputs play. */
  pedalsFor: z.array(Name).max(16).default([]),
  /** One channel a note or a string: bend, pressure and 74 follow their note. */
  perNote: z.boolean().default(false),
  /** Alias of the input that this one doubles; it is heard only while that one is away. */
  doubleOf: Name.nullable().default(null),
});
export type InputPort = z.infer<typeof InputPort>;

export const OutputPort = z.strictObject({
  direction: z.literal('out'),
  alias: Name,
  device: Name,
  on: z.boolean().default(true),
  allowsSysex: z.boolean().default(false),
});
export type OutputPort = z.infer<typeof OutputPort>;

export const GearPort = z.discriminatedUnion('direction', [InputPort, OutputPort]);
export type GearPort = z.infer<typeof GearPort>;

/** What can be hit: a button, key or pedal of tonight's gear. `channel` null is any. */
export const ControlSource = z.strictObject({
  port: Name,
  channel: Channel.nullable().default(null),
  kind: z.enum(['note', 'controller', 'program']),
  number: SevenBit,
});
export type ControlSource = z.infer<typeof ControlSource>;

/** One role and the control that plays it tonight. */
export const RoleSource = z.strictObject({
  role: Name,
  source: ControlSource,
  /** momentary: acts on the press; latching: acts on each change. */
  button: z.enum(['momentary', 'latching']).default('momentary'),
  guardMs: z.number().min(0).max(2000).default(120),
  passOn: z.boolean().default(false),
});
export type RoleSource = z.infer<typeof RoleSource>;

export const GearList = z.strictObject({
  id: GearListId,
  name: Name,
  ports: z.array(GearPort).max(60).default([]),
  roles: z.array(RoleSource).max(256).default([]),
  /** A song's own number recalls its first step, or the one where it was left. */
  songRecall: z.enum(['first', 'left']).default('first'),
  /** Recalling what is current sends its programs and entering messages again. */
  sendAgain: z.boolean().default(false),
});
export type GearList = z.infer<typeof GearList>;
