import { useMemo, useState } from 'react';
import { useApp } from '../../state/hooks';
import { allSounds, indexSounds, type SoundKind } from './soundIndex';
import type { useShelf } from './useShelf';

/** Stands for no choice, in each of the choices. */
export const EVERY = 'every';
const MOST_HITS = 2000;

/** What is looked for: words, a kind, an instrument, a shelf of the player's own. */
export function useSoundSearch(shelf: ReturnType<typeof useShelf>) {
  const instruments = useApp(({ show }) => show.working.instruments);
  const library = useApp(({ show }) => show.working.libraryItems);
  const [query, setQuery] = useState('');
  const [kind, setKind] = useState<SoundKind | typeof EVERY>(EVERY);
  const [instrumentId, setInstrumentId] = useState(EVERY);
  const [shown, setShown] = useState(EVERY);
  const sounds = useMemo(() => allSounds(Object.values(instruments), Object.values(library)), [instruments, library]);
  const index = useMemo(() => indexSounds(sounds), [sounds]);
  const among = useMemo(() => {
    if (shown === EVERY) return null;
    if (shown === 'starred') return shelf.stars;
    if (shown === 'recent') return new Set(shelf.recent);
    return shelf.categories.find(({ name }) => `in ${name}` === shown)?.sounds ?? new Set<string>();
  }, [shown, shelf]);
  const { hits, total } = useMemo(() => {
    const chosen = { kind: kind === EVERY ? '' : kind, instrumentId: instrumentId === EVERY ? '' : instrumentId };
    return index.find(query, { ...chosen, among }, MOST_HITS);
  }, [index, query, kind, instrumentId, among]);
  const isCut = total > MOST_HITS;
  return {
    sounds,
    hits,
    total,
    /** How many are shown, where not all are. */
    most: isCut ? MOST_HITS : null,
    query,
    setQuery,
    kind,
    setKind,
    instrumentId,
    setInstrumentId,
    shown,
    setShown,
  };
}
