import { useEffect, useMemo, useRef, useState } from 'react';
import type { Layer } from '@rackle/core/show';
import { useApp } from './hooks';

/** A layer of the present patch that cannot sound yet. */
export interface Wait {
  layerId: string;
  layer: string;
  /** What for, in words: “its sound”, “Skerry”, “the beat”. */
  why: string;
  /** It has come; it is said for a while longer, so that it can be read. */
  isOver: boolean;
}

/** How long after it has come a wait can still be read. */
const READ_MS = 2500;
const NO_WAITS: readonly Wait[] = [];

/** What waits now. */
function useWaitingNow(): readonly Wait[] {
  const loading = useApp(({ live }) => live.sound.loading);
  const waiting = useApp(({ live }) => live.hands.waiting);
  const song = useApp(({ live, show }) => (live.place.songId === null ? null : show.working.songs[live.place.songId]));
  const setlist = useApp(({ show }) => (show.setlistId === null ? null : show.working.setlists[show.setlistId]));
  const instruments = useApp(({ show }) => show.working.instruments);
  return useMemo(() => {
    if (loading.length + waiting.length === 0) return NO_WAITS;
    const layers: readonly Layer[] = [...(song?.layers ?? []), ...(setlist?.layers ?? [])];
    const whyOf = (layerId: string): string => {
      const sound = layers.find(({ id }) => id === layerId)?.sound;
      const instrument = sound && instruments[sound.instrumentId];
      return instrument?.kind === 'outboard' ? instrument.name : 'its sound';
    };
    return [
      ...loading.map((layer) => ({ ...layer, why: whyOf(layer.layerId), isOver: false })),
      ...waiting.map((layer) => ({ ...layer, why: 'the beat', isOver: false })),
    ];
  }, [loading, waiting, song, setlist, instruments]);
}

/** What waits, and what has waited a moment ago: most waits are shorter than a look. */
export function useWaits(): readonly Wait[] {
  const now = useWaitingNow();
  const before = useRef(NO_WAITS);
  const [over, setOver] = useState(NO_WAITS);
  useEffect(() => {
    const isThere = ({ layerId, why }: Wait): boolean =>
      now.some((wait) => wait.layerId === layerId && wait.why === why);
    const come = before.current.filter((wait) => !isThere(wait)).map((wait) => ({ ...wait, isOver: true }));
    before.current = now;
    if (come.length === 0) return;
    setOver((old) => [...old.filter((wait) => !come.some(({ layerId }) => layerId === wait.layerId)), ...come]);
    setTimeout(() => setOver((old) => old.filter((wait) => !come.includes(wait))), READ_MS);
  }, [now]);
  return useMemo(
    () =>
      now.length + over.length === 0
        ? NO_WAITS
        : [...now, ...over.filter(({ layerId }) => !now.some((wait) => wait.layerId === layerId))],
    [now, over],
  );
}

/** “waits for Skerry”, “waited for its sound”. */
export const waitWords = ({ why, isOver }: Wait): string => `${isOver ? 'waited' : 'waits'} for ${why}`;
