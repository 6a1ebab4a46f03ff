import { CUE_KINDS, Cue } from '../model/cue';
import type { CueId } from '../model/ids';
import type { Song } from '../model/song';

// Edits of a song's cues. Those of one tick run as they stand in the list.

const inOrder = (cues: readonly Cue[]): Cue[] => [...cues].sort((a, b) => a.atTick - b.atTick);
const rankOf = (cue: Cue): number => CUE_KINDS.indexOf(cue.kind);

/** Puts cues in: behind those of their tick whose kind goes before theirs. What stands already keeps its order. */
export function withCues(song: Song, cues: readonly Cue[]): Song {
  const all = inOrder(song.cues);
  for (const cue of cues) {
    let at = all.length;
    while (
      at > 0 &&
      (all[at - 1].atTick > cue.atTick || (all[at - 1].atTick === cue.atTick && rankOf(all[at - 1]) > rankOf(cue)))
    )
      at--;
    all.splice(at, 0, cue);
  }
  return { ...song, cues: all };
}

/** Puts one cue in. */
export const withCue = (song: Song, cue: Cue): Song => withCues(song, [cue]);

/** Takes cues away. */
export const withoutCues = (song: Song, ids: ReadonlySet<string>): Song => ({
  ...song,
  cues: song.cues.filter((cue) => !ids.has(cue.id)),
});
/** Takes one cue away. */
export const withoutCue = (song: Song, id: string): Song => withoutCues(song, new Set([id]));

/** Changes one cue, and puts it where its tick belongs. */
export const changeCue = (song: Song, id: string, change: (cue: Cue) => Cue): Song => ({
  ...song,
  cues: inOrder(song.cues.map((cue) => (cue.id === id ? change(cue) : cue))),
});

/**
 * Moves cues, each to where `tickOf` says of its tick; all as far as the foremost of them can go: none before tick 0,
 * none from `endTick` on.
 */
export function withMovedCues(
  song: Song,
  ids: ReadonlySet<string>,
  tickOf: (tick: number) => number,
  endTick: number,
): Song {
  const place = (tick: number): number => Math.max(0, Math.min(endTick - 1, Math.round(tickOf(tick))));
  return {
    ...song,
    cues: inOrder(song.cues.map((cue) => (ids.has(cue.id) ? { ...cue, atTick: place(cue.atTick) } : cue))),
  };
}

/** Copies of cues, from a tick on as they stand from another, under ids of their own. */
export const copiedCues = (cues: readonly Cue[], fromTick: number, toTick: number, mint: () => CueId): Cue[] =>
  inOrder(cues).map((cue) => ({ ...cue, id: mint(), atTick: Math.max(0, cue.atTick - fromTick + toTick) }));
