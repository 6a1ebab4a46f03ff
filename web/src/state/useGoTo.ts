import type { Place } from '@rackle/core/show';
import { useLatest } from '../ui/useLatest';
import { useAct, useApp, useHost, usePlaces } from './hooks';
import { chose } from './uiSlice';

/** Recalls a place, and looks at it; while the stage is locked only the cursor goes there. */
export function useGoTo(): (place: Place) => void {
  const act = useAct();
  const host = useHost();
  const locked = useApp(({ ui }) => ui.locked);
  return useLatest(({ position, song, patch, blend }: Place): void => {
    if (locked) return host.post({ type: 'cursor', position });
    host.post({ type: 'recall', position });
    act(chose({ songId: song.id, patchId: patch.id, blendId: blend?.id ?? null }));
  });
}

/** @returns where a patch or blend of a song is played: in the entry that is played now, else in the first of that song */
export function usePlaceOf(songId: string): (patchId: string, blendId: string | null) => Place | null {
  const places = usePlaces();
  const entryId = useApp(({ live }) => live.place.entryId);
  return (patchId, blendId) => {
    const found = places.filter(
      ({ song, patch, blend }) => song.id === songId && patch.id === patchId && (blend?.id ?? null) === blendId,
    );
    return found.find(({ entry }) => entry.id === entryId) ?? found[0] ?? null;
  };
}
