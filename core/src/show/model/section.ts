import { z } from 'zod';
import { SectionId } from './ids';
import { Name, Tape, TickNumber } from './values';

/** A part of a song by name (intro, verse): from a tick to before another. */
export const Section = z.strictObject({
  id: SectionId,
  name: Name,
  tape: Tape.default('bone'),
  fromTick: TickNumber,
  toTick: TickNumber,
  /** Another section of the same length, whose cues run here too; null: it has its own. */
  repeats: SectionId.nullable().default(null),
});
export type Section = z.infer<typeof Section>;

/** What is wrong with the sections of a song: each begins where none is any more, and repeats one like it. */
export function faultOfSections(sections: readonly Section[]): string | null {
  for (const [i, { id, name, fromTick, toTick, repeats }] of sections.entries()) {
    if (toTick <= fromTick) return `section ${name} ends before it begins`;
    if (i > 0 && fromTick < sections[i - 1].toTick) return `section ${name} begins before ${sections[i - 1].name} ends`;
    if (repeats === null) continue;
    const original = sections.find((other) => other.id === repeats);
    if (!original || original.repeats !== null || original.id === id) return `section ${name} repeats none that can be`;
    if (original.toTick - original.fromTick !== toTick - fromTick)
      return `section ${name} is not as long as ${original.name}, which it repeats`;
  }
  return null;
}
