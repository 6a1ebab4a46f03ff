import { z } from 'zod';
import { InstrumentId, LibraryItemId, PresetId, ShelfId } from './ids';
import { Layer } from './layer';
import { Patch, Song } from './song';
import { Name } from './values';

const common = {
  id: LibraryItemId,
  name: Name,
  description: z.string().max(4000).default(''),
  /** ISO 8601, when it was put there. */
  keptAt: z.string().max(40),
  /** A template is started from and never written to. */
  isTemplate: z.boolean().default(false),
};

/** Something kept apart from any song: a copy when it is put in, and a copy when it is taken out. */
export const LibraryItem = z.discriminatedUnion('kind', [
  /** A patch with the layers that it plays. */
  z.strictObject({ kind: z.literal('patch'), ...common, patch: Patch, layers: z.array(Layer).max(64) }),
  z.strictObject({ kind: z.literal('song'), ...common, song: Song }),
]);
export type LibraryItem = z.infer<typeof LibraryItem>;

/** A preset of an instrument. */
export const SoundRef = z.strictObject({ instrumentId: InstrumentId, presetId: PresetId });
export type SoundRef = z.infer<typeof SoundRef>;

/** What the player thinks of sounds: stars, those used last, and categories of their own. There is one. */
export const Shelf = z.strictObject({
  id: ShelfId,
  name: Name,
  stars: z.array(SoundRef).max(5000).default([]),
  /** Newest first. */
  recent: z.array(SoundRef).max(100).default([]),
  categories: z
    .array(z.strictObject({ name: Name, sounds: z.array(SoundRef).max(5000).default([]) }))
    .max(200)
    .default([]),
});
export type Shelf = z.infer<typeof Shelf>;
