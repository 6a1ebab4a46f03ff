import { z } from 'zod';
import { unpacked } from '../../midi';
import { NoteTarget } from './cue';
import { BackingPartId } from './ids';
import { Name, TickNumber } from './values';

/**
 * A part that the timeline plays: notes, and controllers too many to be cues, packed as the events of a track of a
 * Standard MIDI File (960 ticks to the quarter, channel 1), in base 64.
 */
export const BackingPart = z.strictObject({
  id: BackingPartId,
  name: Name,
  /** Stays in the song, and is not played. */
  off: z.boolean().default(false),
  to: NoteTarget,
  events: z
    .string()
    .max(800_000, 'a backing part has too many events')
    .refine((text) => unpacked(text) !== null, 'these are not the events of a track'),
});
export type BackingPart = z.infer<typeof BackingPart>;

/** A syllable or more of what is sung; `/` at its start begins a line, `\` a verse, as MIDI files have it. */
export const Lyric = z.strictObject({ atTick: TickNumber, text: z.string().min(1).max(500) });
export type Lyric = z.infer<typeof Lyric>;
