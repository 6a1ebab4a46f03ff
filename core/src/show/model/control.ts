import { z } from 'zod';
import { EffectId, LayerId } from './ids';
import { Channel, Name, SevenBit } from './values';

/** What a press does by itself, with nothing more to say about it. */
export const PlainAction = z.enum([
  'nextStep',
  'previousStep',
  'firstStep',
  'nextSong',
  'previousSong',
  'firstSong',
  'cursorNext',
  'cursorPrevious',
  'go',
  'play',
  'stop',
  'toStart',
  'holdCues',
  'panic',
  'hold',
  'tapTempo',
  'transposeUp',
  'transposeDown',
  'transposeOff',
  'resend',
]);
export type PlainAction = z.infer<typeof PlainAction>;

/** Values of a layer that a control can move; as in a part: dB, −100…100, per cent. */
export const LayerValue = z.enum(['levelDb', 'pan', 'room', 'echo']);
export type LayerValue = z.infer<typeof LayerValue>;

/**
 * Values of the whole output: its level and the returns of the shared effects in dB, the repeats of the echo in per
 * cent.
 */
export const WholeValue = z.enum(['levelDb', 'roomDb', 'echoDb', 'echoRepeats']);
export type WholeValue = z.infer<typeof WholeValue>;

/** What a role does. */
export const Action = z.discriminatedUnion('kind', [
  z.strictObject({ kind: PlainAction }),
  /** Patch n of the present song, in playing order, from 1. */
  z.strictObject({ kind: z.literal('patch'), number: z.number().int().min(1).max(128) }),
  /** Song n of the setlist, in running order, from 1. */
  z.strictObject({ kind: z.literal('song'), number: z.number().int().min(1).max(2000) }),
  /** Blend n of the present patch; 0 is the patch's own balance. */
  z.strictObject({ kind: z.literal('blend'), number: z.number().int().min(0).max(32) }),
  z.strictObject({ kind: z.literal('layerValue'), layerId: LayerId, value: LayerValue }),
  /**
   * A parameter of the layer's instrument, by its controller number; built-in instruments know the sound controllers of
   * MIDI.
   */
  z.strictObject({
    kind: z.literal('layerController'),
    layerId: LayerId,
    controller: z.number().int().min(1).max(119),
  }),
  z.strictObject({ kind: z.literal('layerSwitch'), layerId: LayerId, what: z.enum(['mute', 'solo']) }),
  /** The next or previous preset in the list of the layer's instrument. */
  z.strictObject({ kind: z.literal('presetStep'), layerId: LayerId, by: z.union([z.literal(1), z.literal(-1)]) }),
  /** Starts a key of the layer, and stops it when it sounds: recordings by foot. */
  z.strictObject({ kind: z.literal('trigger'), layerId: LayerId, key: SevenBit }),
  z.strictObject({ kind: z.literal('wholeValue'), value: WholeValue }),
  z.strictObject({ kind: z.literal('effectSwitch'), effect: z.enum(['room', 'echo']) }),
  /** A parameter of one of the layer's effects, by the name of its field. */
  z.strictObject({
    kind: z.literal('effectValue'),
    layerId: LayerId,
    effectId: EffectId,
    parameter: z.string().min(1).max(40),
  }),
  z.strictObject({ kind: z.literal('effectOnOff'), layerId: LayerId, effectId: EffectId }),
  /** The same of an effect of the setlist: in a shared series, or on the whole output. */
  z.strictObject({ kind: z.literal('sharedEffectValue'), effectId: EffectId, parameter: z.string().min(1).max(40) }),
  z.strictObject({ kind: z.literal('sharedEffectOnOff'), effectId: EffectId }),
]);
export type Action = z.infer<typeof Action>;

/** Gives a role something to do. The nearest scope that binds a role wins: patch, then song, then setlist. */
export const Binding = z.strictObject({
  role: Name,
  action: Action,
  /** Ends of the target's range, in its own unit; null: the whole of it. `low` above `high` turns it round. */
  low: z.number().min(-100).max(20_000).nullable().default(null),
  high: z.number().min(-100).max(20_000).nullable().default(null),
  /** Whether a recall brings the stored value back, or leaves it as the hand left it. */
  onRecall: z.enum(['stored', 'hand']).default('stored'),
});
export type Binding = z.infer<typeof Binding>;

const from = { port: Name, channel: Channel.nullable().default(null) };

/** How an encoder says how far it was turned: 127 = −1 (two's complement), 63 = −1 (offset), 65 = −1 (sign bit). */
export const Coding = z.enum(['absolute', 'twos', 'offset', 'signed']);
export type Coding = z.infer<typeof Coding>;

/** What can be moved or hit: one control of tonight's gear. `channel` null is any; `port` is the alias of an input. */
export const ControlSource = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('note'), ...from, number: SevenBit }),
  z.strictObject({
    kind: z.literal('controller'),
    ...from,
    number: z.number().int().min(0).max(119),
    coding: Coding.default('absolute'),
  }),
  /** 14 bit: this controller (0–31) is the MSB, the one 32 above it the LSB. */
  z.strictObject({ kind: z.literal('controller14'), ...from, number: z.number().int().min(0).max(31) }),
  /** A bank byte that is null is not looked at. */
  z.strictObject({
    kind: z.literal('program'),
    ...from,
    number: SevenBit,
    msb: SevenBit.nullable().default(null),
    lsb: SevenBit.nullable().default(null),
  }),
  z.strictObject({ kind: z.literal('wheel'), ...from }),
  z.strictObject({ kind: z.literal('pressure'), ...from }),
  /** One direction of a counting controller, whose counter the port describes. */
  z.strictObject({ kind: z.literal('count'), ...from, direction: z.enum(['up', 'down']) }),
  /** A key of the computer, or of a page turner that types like one; by `KeyboardEvent.code`. */
  z.strictObject({ kind: z.literal('computerKey'), code: z.string().min(1).max(40) }),
]);
export type ControlSource = z.infer<typeof ControlSource>;

/**
 * A control that a device has, whether or not it plays a role: what is proposed for open roles. In the order in which
 * they stand on it.
 */
export const DeviceControl = z.strictObject({
  name: Name,
  source: ControlSource,
  button: z.enum(['momentary', 'latching']).default('momentary'),
});
export type DeviceControl = z.infer<typeof DeviceControl>;

/** What happens while a knob does not stand where the value is. */
export const PickUp = z.enum(['atOnce', 'onMeeting', 'drawnIn']);
export type PickUp = z.infer<typeof PickUp>;

/** One role and a control that plays it tonight. */
export const RoleSource = z.strictObject({
  role: Name,
  source: ControlSource,
  /** momentary: acts on the press; latching: acts on each change. */
  button: z.enum(['momentary', 'latching']).default('momentary'),
  guardMs: z.number().min(0).max(2000).default(120),
  passOn: z.boolean().default(false),
  /** The part of the control's travel that counts, 0–127. */
  lowest: SevenBit.default(0),
  highest: SevenBit.default(127),
  reversed: z.boolean().default(false),
  /** −100 (quick at the start) to +100 (slow at the start); 0 is straight. */
  curve: z.number().int().min(-100).max(100).default(0),
  pickUp: PickUp.default('onMeeting'),
});
export type RoleSource = z.infer<typeof RoleSource>;
