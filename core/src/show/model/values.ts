import { z } from 'zod';

const CONTROL = /\p{Cc}/u;
/** Anything that leaves ink: neither a space nor one of the characters that only join, direct or fill. */
const VISIBLE = /[^\p{Z}\p{C}\u115f\u1160\u2800\u3164\uffa0]/u;
/** A name on a page: trimmed, not empty, at most 120 characters, none of them for control, and something to be seen. */
export const Name = z
  .string()
  .trim()
  .min(1, 'a name is needed')
  .max(120, 'a name has at most 120 characters')
  .refine((name) => !CONTROL.test(name), 'a name has no line breaks or other control characters')
  .refine((name) => VISIBLE.test(name), 'a name needs something that can be seen');
/** A 7-bit MIDI value as on the wire, 0–127. */
export const SevenBit = z.number().int().min(0, 'at least 0').max(127, 'at most 127');
/** A MIDI key number, 0–127; 60 is middle C. */
export const Key = SevenBit;
/** A MIDI channel as players count it, 1–16. */
export const Channel = z.number().int().min(1, 'channels run from 1 to 16').max(16, 'channels run from 1 to 16');
/** Level in dB, −60 to +6. */
export const LevelDb = z.number().min(-60, 'at least −60 dB').max(6, 'at most +6 dB');
/** Pan, −100 (left) to +100 (right). */
export const Pan = z.number().int().min(-100).max(100);
/** Send in per cent, 0–100. */
export const SendPercent = z.number().min(0).max(100);
/** Ticks from the start of a song, 960 to the quarter note. */
export const TickNumber = z.number().int().min(0).max(100_000_000);
/** A length of time in milliseconds, 0–60 000. */
export const DurationMs = z.number().min(0).max(60_000, 'at most a minute');

/** The eight tapes; a layer keeps its tape wherever it appears. */
export const TAPES = ['straw', 'brick', 'moss', 'teal', 'plum', 'rust', 'sky', 'bone'] as const;
/** One of the eight kinds of tape. */
export const Tape = z.enum(TAPES);
export type Tape = z.infer<typeof Tape>;
