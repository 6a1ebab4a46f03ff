import { useMemo, useState } from 'react';
import { useApp } from '../../state/hooks';
import { allSounds, indexSounds, soundKey, type FoundSound, type SoundKind } from './soundIndex';
import type { useShelf } from './useShelf';

/** Stands for no choice, in each of the choices. */
export const EVERY = 'every';
const MOST_HITS = 2000;

/** What a shelf holds is shown in the order in which it was put there. */
function inOrderOf(keys: readonly string[], hits: readonly FoundSound[]): FoundSound[] {
  const at = new Map(keys.map((key, i) => [key, i]));
  const place = ({ sound }: FoundSound): number => (sound ? (at.get(soundKey(sound)) ?? keys.length) : keys.length);
  return [...hits].sort((a, b) => place(a) - place(b));
}

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
    const found = index.find(query, { ...chosen, among }, MOST_HITS);
    return among === null ? found : { ...found, hits: inOrderOf([...among], found.hits) };
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
