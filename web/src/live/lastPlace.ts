import type { LastPlace, MovedByHand } from '@rackle/core/engine';

const KEY = 'rackle.place';
/** Only as long as the tab lives: another evening begins with everything as it is stored. */
const HANDS = 'rackle.hands';

interface Storages {
  lasting: Pick<Storage, 'getItem' | 'setItem'>;
  tab: Pick<Storage, 'getItem' | 'setItem'>;
}
const browser = (): Storages => ({ lasting: localStorage, tab: sessionStorage });

/**
 * Where the set was left, kept in this browser over a reload, and what hands had moved since. What cannot be read counts
 * as nothing kept.
 */
export function readLastPlace({ lasting, tab } = browser()): LastPlace | null {
  const place = read<LastPlace>(lasting, KEY);
  if (place === null) return null;
  const hands = read<MovedByHand>(tab, HANDS);
  return { ...place, hands: hands !== null && isWhole(hands) ? hands : null };
}

/** Only in a page: the running side never waits for storage. */
export function keepLastPlace({ hands = null, ...place }: LastPlace, { lasting, tab } = browser()): void {
  try {
    lasting.setItem(KEY, JSON.stringify(place));
    tab.setItem(HANDS, JSON.stringify(hands));
  } catch {
    // No room or no permission: the set then starts at its first patch after a reload, which the stage shows.
  }
}

function read<T>(from: Pick<Storage, 'getItem'>, key: string): T | null {
  try {
    const text = from.getItem(key);
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}

/** An earlier version may have kept less. */
const isWhole = (hands: Partial<MovedByHand>): boolean =>
  [hands.layers, hands.effects, hands.whole, hands.effectsOff, hands.parameters, hands.latched].every(Array.isArray) &&
  typeof hands.transpose === 'number';
