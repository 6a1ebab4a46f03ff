import { useMemo } from 'react';
import type { Cue, Song } from '@rackle/core/show';
import { placedCues } from '@rackle/core/timeline';
import type { Topics } from '../../protocol';
import { useApp, usePlaces } from '../../state/hooks';

type Call = Topics['calls']['list'][number];

/** A recall of this song by another player, with the name of what it leads to. */
export type SongCall = Call & { name: string; patchId: string; blendId: string | null };

const NONE: readonly SongCall[] = [];
/** A cue by the line of a clock that is followed reads as a tick or two beside its own. */
const NEAR_TICKS = 20;

/** What another player has called of a song while its timeline last ran, by where the playhead was. */
export function useCalls(song: Song, here: boolean): readonly SongCall[] {
  const calls = useApp(({ live }) => live.calls.list);
  const places = usePlaces();
  return useMemo(() => {
    if (!here || calls.length === 0) return NONE;
    return calls
      .flatMap((call) => {
        const place = places.find(({ position }) => position === call.position);
        if (place?.song.id !== song.id) return [];
        const name = place.blend ? `${place.patch.name}, ${place.blend.name}` : place.patch.name;
        return [{ ...call, name, patchId: place.patch.id as string, blendId: place.blend?.id ?? null }];
      })
      .sort((a, b) => a.tick - b.tick);
  }, [calls, places, song.id, here]);
}

/** “1 : 1: Pilot Cutter calls Quay; a cue recalls it too”. */
export const callWords = ({ port, tick, name, cueTick }: SongCall, showTick: (tick: number) => string): string =>
  `${showTick(tick)}: ${port} calls ${name}${cueTick === null ? '' : '; a cue recalls it too'}`;

/** The cues that recall what another player calls at the same place. */
export function cuesFiringTwice(song: Song, calls: readonly SongCall[]): Cue[] {
  const twice = calls.filter(({ cueTick }) => cueTick !== null);
  const found = placedCues(song).filter(
    ({ cue, atTick }) =>
      cue.kind === 'recall' &&
      twice.some(
        ({ patchId, blendId, cueTick }) =>
          patchId === cue.patchId && blendId === cue.blendId && Math.abs(cueTick! - atTick) <= NEAR_TICKS,
      ),
  );
  return [...new Map(found.map(({ cue }) => [cue.id, song.cues.find(({ id }) => id === cue.id)!])).values()];
}
