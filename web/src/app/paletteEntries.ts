/** One thing that can be found and done. */
export interface PaletteEntry {
  id: string;
  group: 'Patches' | 'Songs' | 'Sounds in use' | 'Actions';
  /** What is looked through. */
  words: string;
  name: string;
  /** Its name is one of the player's own. */
  isNamed: boolean;
  /** Said beside it. */
  aside?: string;
  /** Its program number, for patches. */
  number?: () => string | null;
  act: () => void;
}

/** What the palette has found, under one heading. */
export interface FoundGroup {
  heading: PaletteEntry['group'];
  entries: PaletteEntry[];
  /** How many more answer, which are not shown. */
  more: number;
}

/**
 * How well a name answers to what was typed, 0–1: as a whole, at its start, somewhere in it, or with every word
 * somewhere.
 */
export function answersTo(name: string, typed: string): number {
  const value = name.toLowerCase();
  const words = typed.toLowerCase().trim();
  if (value === words) return 1;
  if (value.startsWith(words)) return 0.9;
  if (value.includes(words)) return 0.7;
  return words.split(/\s+/).every((word) => value.includes(word)) ? 0.5 : 0;
}

/**
 * What answers to what was typed, by groups: those with the best answer first, in each the best first, and of equal ones
 * as they came. Of a large show only the first `most` of a group are shown.
 */
export function found(entries: readonly PaletteEntry[], typed: string, most: number): FoundGroup[] {
  const groups = new Map<PaletteEntry['group'], { entry: PaletteEntry; score: number }[]>();
  for (const entry of entries) {
    const score = answersTo(entry.words, typed);
    if (score === 0) continue;
    const group = groups.get(entry.group);
    if (group) group.push({ entry, score });
    else groups.set(entry.group, [{ entry, score }]);
  }
  const sorted = [...groups].map(([heading, answers]) => ({
    heading,
    answers: answers.sort((a, b) => b.score - a.score),
  }));
  sorted.sort((a, b) => b.answers[0].score - a.answers[0].score);
  return sorted.map(({ heading, answers }) => ({
    heading,
    entries: answers.slice(0, most).map(({ entry }) => entry),
    more: Math.max(0, answers.length - most),
  }));
}
