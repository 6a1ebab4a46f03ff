import { useEffect, useState } from 'react';
import { useStore } from 'react-redux';
import { useApp } from '../../state/hooks';
import type { RootState } from '../../state/store';
import { useLatest } from '../../ui/useLatest';
import { Button } from '../../ui/Button';

interface Props {
  /** What the button says. */
  children: string;
  /** How many keys are wanted. */
  keys: 1 | 2;
  onKeys: (keys: number[]) => void;
}

/** Different keys that were struck after a strike. */
const playedSince = ({ live }: RootState, since: number, most: number): number[] =>
  [...new Set(live.strikes.filter(({ serial }) => serial > since).map(({ key }) => key))].slice(0, most);

/** Takes keys from whatever keyboard is played: the two ends of a zone, or the key of a split. Escape lets it be. */
export function PlayKeys({ children, keys, onKeys }: Props) {
  const store = useStore<RootState>();
  const [since, setSince] = useState<number | null>(null);
  const played = useApp((state) => (since === null ? 0 : playedSince(state, since, keys).length));
  const take = useLatest(onKeys);
  useEffect(() => {
    if (since === null) return undefined;
    // What is done with the keys changes the store, and asks this again before it has been taken away.
    let taken = false;
    return store.subscribe(() => {
      const found = taken ? [] : playedSince(store.getState(), since, keys);
      if (found.length < keys) return;
      taken = true;
      setSince(null);
      take(found);
    });
  }, [store, since, keys, take]);
  if (since === null)
    return (
      <Button look="plain" onClick={() => setSince(store.getState().live.strikes.at(-1)?.serial ?? -1)}>
        {children}
      </Button>
    );
  return (
    <button
      type="button"
      className="min-h-9 bg-ink px-2 font-bold text-ground"
      onClick={() => setSince(null)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        setSince(null);
      }}
    >
      {played === 0 ? `play ${keys === 1 ? 'the key' : 'its two end keys'} …` : 'and the other end …'}
    </button>
  );
}
