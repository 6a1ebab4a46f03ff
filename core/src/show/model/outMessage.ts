import { z } from 'zod';
import { Channel, DurationMs, Key, Name, SevenBit } from './values';

const to = { port: Name, channel: Channel };

/**
 * A message that a patch sends to outboard gear as it is entered or left. `port` is the alias of an output in the gear
 * list.
 */
export const OutMessage = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('controller'),
    ...to,
    controller: z.number().int().min(0).max(119),
    value: SevenBit,
  }),
  z.strictObject({
    kind: z.literal('program'),
    ...to,
    msb: SevenBit.nullable().default(null),
    lsb: SevenBit.nullable().default(null),
    program: SevenBit,
  }),
  z.strictObject({
    kind: z.literal('note'),
    ...to,
    key: Key,
    velocity: z.number().int().min(1).max(127),
    /** null: it ends when the patch is left. */
    lengthMs: DurationMs.nullable().default(null),
  }),
  z.strictObject({
    kind: z.literal('sysex'),
    port: Name,
    /** The bytes between F0 and F7, each 0–127. */
    bytes: z.array(SevenBit).min(1).max(4096),
  }),
]);
export type OutMessage = z.infer<typeof OutMessage>;
