import type { Cue, Song } from '../show';

/** A cue at a place where it runs: its own, or that of a section which repeats its section. */
export interface PlacedCue {
  readonly cue: Cue;
  readonly atTick: number;
  /** The same over edits: the cue’s id, with that of the repeating section behind it. */
  readonly key: string;
}

/** More than these, repeated ones counted, are left out from the end of a song on. */
export const MOST_PLACED_CUES = 20_000;

/** Every cue that is not off, wherever it runs: by tick, those of one tick in their listed order. */
export function placedCues({ cues, sections }: Pick<Song, 'cues' | 'sections'>): PlacedCue[] {
  const on = cues.filter(({ off }) => !off);
  const placed: PlacedCue[] = on.map((cue) => ({ cue, atTick: cue.atTick, key: cue.id }));
  for (const section of sections) {
    const original = sections.find(({ id }) => id === section.repeats);
    if (!original || placed.length > MOST_PLACED_CUES) continue;
    for (const cue of on)
      if (cue.atTick >= original.fromTick && cue.atTick < original.toTick)
        placed.push({
          cue,
          atTick: cue.atTick - original.fromTick + section.fromTick,
          key: `${cue.id} ${section.id}`,
        });
  }
  return placed.sort((a, b) => a.atTick - b.atTick).slice(0, MOST_PLACED_CUES);
}
