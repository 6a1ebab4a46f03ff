import { z } from 'zod';

/** Letters, digits and `- . _ ~ : /`, beginning with a letter or digit: plain in an address, in a file, in a report. */
const id = () =>
  z
    .string()
    .min(1, 'an id cannot be empty')
    .max(80, 'an id has at most 80 characters')
    .regex(/^[A-Za-z0-9][A-Za-z0-9._~:/-]*$/, 'an id has letters, digits and - . _ ~ : / only');

/** Of a song. */
export const SongId = id().brand<'SongId'>();
/** Of a patch of a song. */
export const PatchId = id().brand<'PatchId'>();
/** Of a layer of a song or setlist. */
export const LayerId = id().brand<'LayerId'>();
/** Of a blend of a patch. */
export const BlendId = id().brand<'BlendId'>();
/** Of a cue of a song. */
export const CueId = id().brand<'CueId'>();
/** Of a section of a song. */
export const SectionId = id().brand<'SectionId'>();
/** Of a backing part of a song. */
export const BackingPartId = id().brand<'BackingPartId'>();
/** Of a setlist. */
export const SetlistId = id().brand<'SetlistId'>();
/** Of an entry of a setlist. */
export const EntryId = id().brand<'EntryId'>();
/** Of what is done in every setlist, which there is once. */
export const EverySetlistId = z.literal('every-setlist').brand<'EverySetlistId'>();
/** Of an instrument. */
export const InstrumentId = id().brand<'InstrumentId'>();
/** Of a preset, or an entry of a name list. */
export const PresetId = id().brand<'PresetId'>();
/** Of a gear list. */
export const GearListId = id().brand<'GearListId'>();
/** Of an effect, within whatever has it. */
export const EffectId = id().brand<'EffectId'>();
/** Of an item of the library. */
export const LibraryItemId = id().brand<'LibraryItemId'>();
/** Of the shelf of what the player likes. */
export const ShelfId = id().brand<'ShelfId'>();
/** Of an edit, or of anything where the kind does not matter. */
export const EditId = id();

export type SongId = z.infer<typeof SongId>;
export type PatchId = z.infer<typeof PatchId>;
export type LayerId = z.infer<typeof LayerId>;
export type BlendId = z.infer<typeof BlendId>;
export type CueId = z.infer<typeof CueId>;
export type SectionId = z.infer<typeof SectionId>;
export type SetlistId = z.infer<typeof SetlistId>;
export type EverySetlistId = z.infer<typeof EverySetlistId>;
export type EntryId = z.infer<typeof EntryId>;
export type InstrumentId = z.infer<typeof InstrumentId>;
export type PresetId = z.infer<typeof PresetId>;
export type GearListId = z.infer<typeof GearListId>;
export type EffectId = z.infer<typeof EffectId>;
export type LibraryItemId = z.infer<typeof LibraryItemId>;
export type ShelfId = z.infer<typeof ShelfId>;

/**
 * Mints a new id of any kind. The random source is handed in, so that core stays without one of its own.
 * @param random gives numbers in [0, 1); four calls make one id.
 */
export function mintId<T extends string>(prefix: string, random: () => number): T {
  let text = '';
  for (let i = 0; i < 4; i++)
    text += Math.floor(random() * 36 ** 4)
      .toString(36)
      .padStart(4, '0');
  return `${prefix}-${text}` as T;
}
