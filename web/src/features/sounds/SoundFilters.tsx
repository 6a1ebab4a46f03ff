import { Choice } from '../../ui/Choice';
import type { SoundKind } from './soundIndex';
import type { useShelf } from './useShelf';
import { EVERY, type useSoundSearch } from './useSoundSearch';

const KINDS: readonly { value: SoundKind; label: string }[] = [
  { value: 'built-in', label: 'built-in' },
  { value: 'own', label: 'my own' },
  { value: 'bank', label: 'banks' },
  { value: 'recordings', label: 'recordings' },
  { value: 'outboard', label: 'outboard' },
  { value: 'library', label: 'library' },
];

/** How many are found, and among which. */
export function SoundFilters({
  search,
  shelf,
  onFilter,
}: {
  search: ReturnType<typeof useSoundSearch>;
  shelf: ReturnType<typeof useShelf>;
  onFilter: (change: () => void) => void;
}) {
  return (
    <p className="flex flex-wrap gap-x-3 py-1 text-[13px] text-ink2">
      <span role="status">
        <span data-testid="hit-count">
          {search.total} sound{search.total === 1 ? '' : 's'}
        </span>
        {search.most !== null ? `, the first ${search.most} shown` : ''}
      </span>
      <span>
        <Choice
          label="kind of instrument"
          value={search.kind}
          items={[{ value: EVERY, label: 'of every kind' }, ...KINDS]}
          onChange={(value) => onFilter(() => search.setKind(value))}
        />
        ,{' '}
        <Choice
          label="instrument"
          value={search.instrumentId}
          items={[
            { value: EVERY, label: 'of every instrument' },
            ...[...new Map(search.sounds.map((sound) => [sound.instrumentId, sound.instrument]))].map(
              ([value, label]) => ({ value, label }),
            ),
          ]}
          onChange={(value) => onFilter(() => search.setInstrumentId(value))}
        />
        ,{' '}
        <Choice
          label="which of them"
          value={search.shown}
          groups={[
            {
              name: '',
              items: [
                { value: EVERY, label: 'all of them' },
                { value: 'starred', label: `starred (${shelf.stars.size})` },
                { value: 'recent', label: `used last (${shelf.recent.length})` },
              ],
            },
            {
              name: 'my categories',
              items: shelf.categories.map(({ name, sounds: sorted }) => ({
                value: `in ${name}`,
                label: `${name} (${sorted.size})`,
              })),
            },
          ].filter(({ items }) => items.length > 0)}
          onChange={(value) => onFilter(() => search.setShown(value))}
        />
      </span>
      <span className="ml-auto">↑ ↓ hear, Enter keeps, * stars, Esc brings back</span>
    </p>
  );
}
