import { playingOrder, type Place, type Setlist, type Song } from '../../show';
import { placedCues } from '../../timeline';

/** Two recalls one after the other, by their positions in running order. */
export interface Pair {
  from: Place;
  to: Place;
}

/** Where “next” stops tonight, in running order, blends too. */
export const stopsIn = (places: readonly Place[]): Place[] =>
  places.filter(({ entry, patch, blend }) => !entry.skip && (blend === null ? patch.isStep : blend.isStep));

/** Every pair that an evening may bring in running order, or (`all`) any two steps of it. */
export function pairsOf(setlist: Setlist, songs: Readonly<Record<string, Song>>, all = false): Pair[] {
  const places = playingOrder(setlist, songs).filter(({ entry }) => !entry.skip);
  const steps = stopsIn(places);
  const pairs = new Map<string, Pair>();
  const add = (from: Place | undefined, to: Place | undefined): void => {
    if (from && to && from !== to) pairs.set(`${from.position} ${to.position}`, { from, to });
  };
  if (all) for (const from of steps) for (const to of steps) add(from, to);
  steps.forEach((place, i) => {
    add(place, steps[i + 1]);
    add(steps[i + 1], place);
  });
  // Numbers call songs from their beginnings.
  const firsts = [...new Map([...places].reverse().map((place) => [place.entry.id, place])).values()].reverse();
  firsts.forEach((place, i) => {
    add(place, firsts[i + 1]);
    add(firsts[i + 1], place);
  });
  for (const first of firsts) {
    const recalled = placedCues(first.song).flatMap(({ cue }) =>
      cue.kind === 'recall' && !cue.off
        ? (places.find(
            ({ entry, patch, blend }) =>
              entry === first.entry && patch.id === cue.patchId && (blend?.id ?? null) === cue.blendId,
          ) ?? [])
        : [],
    );
    recalled.forEach((place, i) => add(place, recalled[i + 1]));
  }
  return [...pairs.values()];
}
