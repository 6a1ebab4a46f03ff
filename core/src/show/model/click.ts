import { z } from 'zod';
import { Channel, Key, LevelDb, Name } from './values';

/** Where the click sounds: as Rackle's own on an output of the sound device, or as notes on a port. */
export const ClickTarget = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('own'), output: Name.default('Main'), levelDb: LevelDb.default(-12) }),
  /** `accentKey` on the first beat of a bar. */
  z.strictObject({
    kind: z.literal('port'),
    port: Name,
    channel: Channel.default(10),
    accentKey: Key.default(76),
    key: Key.default(77),
  }),
]);
export type ClickTarget = z.infer<typeof ClickTarget>;

/** The click of a gear list: every beat of the timeline, the first of a bar accented. */
export const Click = z.strictObject({
  /** Whether it sounds while the timeline plays; a count-in always does. */
  on: z.boolean().default(false),
  to: ClickTarget.prefault({ kind: 'own' }),
  /** Behind the beat, below 0 ahead of it. */
  offsetMs: z.number().min(-100).max(100).default(0),
});
export type Click = z.infer<typeof Click>;
