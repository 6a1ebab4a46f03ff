import { z } from 'zod';
import { Click } from './click';
import { GearListId } from './ids';
import { DeviceControl, RoleSource } from './control';
import { Channel, Key, Name, SevenBit } from './values';

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

/** A name of the player's own for one channel of a port, where several devices stand behind it. */
export const ChannelName = z.strictObject({ channel: Channel, name: Name });
export type ChannelName = z.infer<typeof ChannelName>;

/** How a device's own panel reads: programs from 0 or 1, middle C as C3 or C4; null: as the setlist reads them. */
const panel = {
  programsFrom: z
    .union([z.literal(0), z.literal(1)])
    .nullable()
    .default(null),
  middleC: z.enum(['C3', 'C4']).nullable().default(null),
};

/** Buttons of a controller that can be given program changes: so many at a time, on so many pages of its own. */
export const ButtonRow = z.strictObject({
  count: z.number().int().min(1).max(64),
  pages: z.number().int().min(1).max(128).default(1),
  /** Whether a button that is pressed again sends its program again; many send it only when it is another one. */
  repeats: z.boolean().default(true),
});
export type ButtonRow = z.infer<typeof ButtonRow>;

/** A port that is listened to. */
export const InputPort = z.strictObject({
  direction: z.literal('in'),
  alias: Name,
  /** The name by which the machine lists it; it is found again by this. */
  device: Name,
  on: z.boolean().default(true),
  /** Whether its keys play layers. */
  plays: z.boolean().default(true),
  /**
   * Channels whose keys do; null: all. Pads on a channel of their own are heard, and play roles, without playing
   * layers.
   */
  playsOn: z.array(Channel).min(1).max(16).nullable().default(null),
  /** Shift of the whole keyboard, in semitones, before the zones. */
  keyShift: z.number().int().min(-60).max(60).default(0),
  /** The keys that it has, as they come in; null: nobody has said, so all of them. */
  keys: z
    .strictObject({ lowest: Key, highest: Key })
    .refine(({ lowest, highest }) => lowest <= highest, 'the lowest key is not above the highest')
    .nullable()
    .default(null),
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
  channelNames: z.array(ChannelName).max(16).default([]),
  ...panel,
  /** null: it has no buttons that can be given programs. */
  buttons: ButtonRow.nullable().default(null),
  controls: z.array(DeviceControl).max(256).default([]),
});
export type InputPort = z.infer<typeof InputPort>;

/** A port that is sent to. */
export const OutputPort = z.strictObject({
  direction: z.literal('out'),
  alias: Name,
  device: Name,
  on: z.boolean().default(true),
  allowsSysex: z.boolean().default(false),
  /** Gets clock, start, stop and song position of the timeline, or of the clock that it follows. */
  sendsClock: z.boolean().default(false),
  /** Whether pulses also go there while the timeline stands, at the tempo that holds. */
  clockPulses: z.enum(['always', 'playing']).default('always'),
  /** What it gets where a loop goes back: stop, song position and continue, or only the pulses. */
  clockAtLoop: z.enum(['position', 'pulses']).default('position'),
  /**
   * By how much later than its time the timeline sends here, in ms; null: by as much as Rackle's own sound comes later, so
   * that both are heard together. What hands play is sent at once.
   */
  offsetMs: z.number().min(0).max(100).nullable().default(null),
  channelNames: z.array(ChannelName).max(16).default([]),
  ...panel,
});
export type OutputPort = z.infer<typeof OutputPort>;

/** Either of them. */
export const GearPort = z.discriminatedUnion('direction', [InputPort, OutputPort]);
export type GearPort = z.infer<typeof GearPort>;

/**
 * A pair of channels of the sound device under a name; layers are led to names. Channels count from 1; equal ones make
 * it mono.
 */
export const SoundOutput = z.strictObject({
  name: Name,
  left: z.number().int().min(1).max(64),
  right: z.number().int().min(1).max(64),
  hidden: z.boolean().default(false),
});
export type SoundOutput = z.infer<typeof SoundOutput>;

/** Where the sound leaves. */
export const SoundDevice = z.strictObject({
  /** Name of the device as the machine lists it; empty: the machine's own choice. */
  device: z.string().max(200).default(''),
  outputs: z
    .array(SoundOutput)
    .min(1)
    .max(32)
    .default([{ name: 'Main', left: 1, right: 2, hidden: false }]),
});
export type SoundDevice = z.infer<typeof SoundDevice>;

/** What stands on stage tonight: ports, sound device, and which control plays which role. */
export const GearList = z.strictObject({
  id: GearListId,
  name: Name,
  ports: z.array(GearPort).max(60).default([]),
  roles: z.array(RoleSource).max(256).default([]),
  /** A song's own number recalls its first step, or the one where it was left. */
  songRecall: z.enum(['first', 'left']).default('first'),
  /** Recalling what is current sends its programs and entering messages again. */
  sendAgain: z.boolean().default(false),
  /** Alias of the input whose clock the timeline follows; null: its own. */
  clockFrom: Name.nullable().default(null),
  click: Click.prefault({}),
  sound: SoundDevice.prefault({}),
});
export type GearList = z.infer<typeof GearList>;
