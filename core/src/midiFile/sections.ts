import { decodedText, type TextCode } from '../formats/smf';
import { Name, Section, TAPES } from '../show';
import { tempoMapOf } from '../timeline';
import type { MidiContents } from './contents';

const MOST_SECTIONS = 500;

/** A name as one can have it here, or the other one. */
export function cleanName(text: string, otherwise: string): string {
  const read = Name.safeParse(
    text
      .replace(/\p{Cc}+/gu, ' ')
      .trim()
      .slice(0, 120),
  );
  return read.success ? read.data : otherwise;
}

/** Each marker begins a section, up to the next one; of those at one tick the last does. Patterns are sections. */
export function sectionsFrom(
  contents: MidiContents,
  code: TextCode,
  mint: () => string,
): { sections: Section[]; words: string[] } {
  const { endTick } = tempoMapOf(contents.map);
  const marks = new Map<number, string>(contents.patterns.map(({ fromTick, name }) => [fromTick, name]));
  for (const { kind, atTick, bytes } of contents.texts)
    if (kind === 'marker' && atTick < endTick) marks.set(atTick, decodedText(bytes, code));
  const starts = [...marks].sort(([a], [b]) => a - b);
  const tapes = new Map<string, Section['tape']>();
  const sections = starts.slice(0, MOST_SECTIONS).map(([fromTick, text], i) => {
    const name = cleanName(text, `Section ${i + 1}`);
    const tape = tapes.get(name) ?? TAPES[tapes.size % TAPES.length];
    tapes.set(name, tape);
    return Section.parse({ id: mint(), name, tape, fromTick, toTick: starts[i + 1]?.[0] ?? endTick });
  });
  return {
    sections,
    words: starts.length > MOST_SECTIONS ? [`markers behind the first ${MOST_SECTIONS} are left out`] : [],
  };
}
