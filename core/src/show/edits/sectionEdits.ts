import type { CueId, SectionId } from '../model/ids';
import { faultOfSections, type Section } from '../model/section';
import type { Song } from '../model/song';
import { withOwnEvents } from './backingEdits';
import { copiedCues, withCues, withoutCues } from './cueEdits';

// Edits of a song's sections.

const inOrder = (sections: readonly Section[]): Section[] => [...sections].sort((a, b) => a.fromTick - b.fromTick);

/** The section that is heard at a tick; null: none. */
export const sectionAt = (sections: readonly Section[], tick: number): Section | null =>
  sections.find(({ fromTick, toTick }) => tick >= fromTick && tick < toTick) ?? null;

/**
 * A section that begins at a tick: up to `toTick`, or to where the next one begins. One that runs there ends at it; where
 * one begins already, nothing changes.
 */
export function withSection(song: Song, section: Section, mint: () => CueId): Song {
  if (song.sections.some(({ fromTick }) => fromTick === section.fromTick)) return song;
  const next = song.sections.find(({ fromTick }) => fromTick > section.fromTick);
  const cut = song.sections.map((other) =>
    section.fromTick > other.fromTick && section.fromTick < other.toTick
      ? { ...other, toTick: section.fromTick }
      : other,
  );
  const added = { ...section, toTick: Math.min(section.toTick, next?.fromTick ?? Infinity) };
  return withSections(song, inOrder([...cut, added]), mint);
}

/** Changes one section; null where its new ends would lie over another one's, or it would end before it begins. */
export function changeSection(
  song: Song,
  id: string,
  change: (section: Section) => Section,
  mint: () => CueId,
): Song | null {
  const sections = inOrder(song.sections.map((section) => (section.id === id ? change(section) : section)));
  const next = withSections(song, sections, mint);
  return faultOfSections(next.sections) === null ? next : null;
}

/** Takes a section away; its cues stay. What repeated it has them as its own. */
export function withoutSection(song: Song, id: string, mint: () => CueId): Song {
  const freed = song.sections
    .filter(({ repeats }) => repeats === id)
    .reduce((current, section) => madeIndependent(current, section.id, mint), song);
  return { ...freed, sections: freed.sections.filter((section) => section.id !== id) };
}

/** Lets a section repeat another one: its own cues go, those of the other run in it. */
export function madeRepeat(song: Song, id: string, of: SectionId): Song | null {
  const sections = song.sections.map((section) => (section.id === id ? { ...section, repeats: of } : section));
  if (faultOfSections(sections) !== null) return null;
  const { fromTick, toTick } = song.sections.find((section) => section.id === id)!;
  const gone = song.cues.filter(({ atTick }) => atTick >= fromTick && atTick < toTick).map((cue) => cue.id as string);
  return withoutCues({ ...song, sections }, new Set(gone));
}

/** A section that repeated another one gets copies of its cues and of what backing parts play, and goes its own way. */
export function madeIndependent(song: Song, id: string, mint: () => CueId): Song {
  const section = song.sections.find((candidate) => candidate.id === id);
  const original = song.sections.find((candidate) => candidate.id === section?.repeats);
  if (!section || !original) return song;
  const cues = song.cues.filter(({ atTick }) => atTick >= original.fromTick && atTick < original.toTick);
  return withCues(
    {
      ...song,
      sections: song.sections.map((other) => (other.id === id ? { ...other, repeats: null } : other)),
      backing: song.backing.map((part) => withOwnEvents(part, song.sections, id)),
    },
    copiedCues(cues, original.fromTick, section.fromTick, mint),
  );
}

/**
 * The song with these sections: what repeats one that is of another length now goes its own way, with copies of what it
 * had.
 */
export function withSections(song: Song, sections: readonly Section[], mint: () => CueId): Song {
  const lengthOf = (id: string | null): number => {
    const of = sections.find((section) => section.id === id);
    return of ? of.toTick - of.fromTick : -1;
  };
  const broken = new Set(
    sections
      .filter(({ repeats, fromTick, toTick }) => repeats !== null && lengthOf(repeats) !== toTick - fromTick)
      .map(({ id }) => id as string),
  );
  const freed = [...broken].reduce((current, id) => madeIndependent(current, id, mint), song);
  return {
    ...freed,
    sections: sections.map((section) => (broken.has(section.id) ? { ...section, repeats: null } : section)),
  };
}

/** Copies the cues of one section into another, stretched to its length; what stands there stays. */
export function withSectionCues(song: Song, fromId: string, toId: string, mint: () => CueId): Song {
  const [from, to] = [fromId, toId].map((id) => song.sections.find((section) => section.id === id));
  if (!from || !to) return song;
  const stretch = (to.toTick - to.fromTick) / (from.toTick - from.fromTick);
  const cues = song.cues.filter(({ atTick }) => atTick >= from.fromTick && atTick < from.toTick);
  return withCues(
    song,
    cues.map((cue) => ({
      ...cue,
      id: mint(),
      atTick: Math.min(to.toTick - 1, to.fromTick + Math.round((cue.atTick - from.fromTick) * stretch)),
    })),
  );
}
