/** A sound by its ids. */
export interface SoundIds {
  instrumentId: string;
  presetId: string;
}

/** What may be in memory, and in which order it is needed from here on. */
export interface LoadOrder {
  budgetBytes: number;
  /** They stay, whatever comes. */
  pins: readonly SoundIds[];
  /** What the present patch plays: it stays too, whether the plan knows of it or not. */
  present: () => readonly SoundIds[];
  /** As the evening goes on from where it is then; it is asked when something has to go, or there is room for more. */
  sounds: () => readonly SoundIds[];
  /** By the plan's keys: what it has in memory where the evening is; null: there is no plan for that. */
  held: () => ReadonlySet<string> | null;
  /** Where the evening is: the patch that is played, and of which entry. */
  at: () => string | null;
}

/**
 * Which of what is loaded is let go of first: what the plan does not hold now; of that and of the rest what the evening
 * needs no more, the oldest of it first; then what it needs last. Pinned sounds are not among them.
 * @param loaded keys, the oldest first
 */
export function firstToGo(
  loaded: readonly string[],
  needed: readonly string[],
  pinned: ReadonlySet<string>,
  isHeld: (key: string) => boolean,
): readonly string[] {
  const nextUse = new Map<string, number>();
  needed.forEach((key, i) => {
    if (!nextUse.has(key)) nextUse.set(key, i);
  });
  return loaded
    .filter((key) => !pinned.has(key))
    .map((key, age) => ({ key, age, held: isHeld(key) ? 1 : 0, next: nextUse.get(key) ?? Infinity }))
    .sort((a, b) => a.held - b.held || (a.next === b.next ? a.age - b.age : b.next - a.next))
    .map(({ key }) => key);
}
