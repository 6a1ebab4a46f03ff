import { z } from 'zod';
import { BackingPart, Lyric } from './backing';
import { Binding } from './control';
import { NoteValue } from './effect';
import { Cue } from './cue';
import { BlendId, LibraryItemId, PatchId, SongId } from './ids';
import { BlendValue, Layer, Part } from './layer';
import { OutMessage } from './outMessage';
import { Section, faultOfSections } from './section';
import { SongMap, steadyMap } from './songMap';
import { DurationMs, Name } from './values';

/** Another balance of a patch: what differs from it, and no more. */
export const Blend = z.strictObject({
  id: BlendId,
  name: Name,
  timeMs: DurationMs.default(200),
  /** Whether next and previous stop here. */
  isStep: z.boolean().default(true),
  values: z.array(BlendValue).max(64).default([]),
});
export type Blend = z.infer<typeof Blend>;

/** Which layers play which keys, and how. */
export const Patch = z.strictObject({
  id: PatchId,
  name: Name,
  note: z.string().max(2000).default(''),
  isStep: z.boolean().default(true),
  parts: z.array(Part).max(64).default([]),
  blends: z.array(Blend).max(32).default([]),
  entering: z.array(OutMessage).max(64).default([]),
  leaving: z.array(OutMessage).max(64).default([]),
  /** What roles do in this patch, before the song's and the setlist's. */
  bindings: z.array(Binding).max(64).default([]),
  /** Item of the library that it was started from. */
  startedFrom: LibraryItemId.nullable().default(null),
});
export type Patch = z.infer<typeof Patch>;

/** A song: layers, patches, sections, cues, backing parts. */
export const Song = z.strictObject({
  id: SongId,
  name: Name,
  description: z.string().max(4000).default(''),
  /** As the player writes it: “D minor”. */
  key: z.string().max(24).default(''),
  /** Tempo and meter, from its first bar to its last. */
  map: SongMap.default(steadyMap()),
  /** Bars that are counted before its timeline starts. */
  countInBars: z.number().int().min(0).max(4).default(0),
  durationSeconds: z.number().int().min(0).max(7200, 'at most 7200').default(240),
  /** Semitones, on top of each part's own shift. */
  transpose: z.number().int().min(-24).max(24).default(0),
  layers: z.array(Layer).max(64).default([]),
  /** Standing layers of the song: sound in every patch, are never stepped onto. */
  standing: z.array(Part).max(16).default([]),
  patches: z.array(Patch).max(128).default([]),
  /** In their order, none within another. */
  sections: z
    .array(Section)
    .max(500)
    .superRefine((sections, context) => {
      const message = faultOfSections(sections);
      if (message !== null) context.addIssue({ code: 'custom', message });
    })
    .default([]),
  cues: z.array(Cue).max(2000).default([]),
  /** Parts that the timeline plays. */
  backing: z.array(BackingPart).max(64).default([]),
  /** What is sung, by tick. */
  lyrics: z.array(Lyric).max(5000).default([]),
  /** What roles do in this song, before the setlist's. */
  bindings: z.array(Binding).max(128).default([]),
  /** Length of the shared echo. */
  echoNote: NoteValue.default('1/8.'),
  /** The note by which people count its tempo; tempos are stored in quarter notes a minute. */
  tempoNote: z.enum(['1/2.', '1/2', '1/4.', '1/4', '1/8.', '1/8']).default('1/4'),
  /** Item of the library that it was started from. */
  startedFrom: LibraryItemId.nullable().default(null),
});
export type Song = z.infer<typeof Song>;
