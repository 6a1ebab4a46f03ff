import { useApp, useGear, useIsAlive, usePlaces } from '../state/hooks';

/** What whoever does not see the page has to hear of: what is recalled, and ports that go. */
export function Said() {
  const places = usePlaces();
  const position = useApp(({ live }) => live.place.position);
  const gear = useGear();
  const isAlive = useIsAlive();
  const place = places[position];
  const missing = gear?.ports.filter((port) => port.on && !isAlive(port)).map(({ alias }) => alias as string) ?? [];
  return (
    <>
      <p className="sr-only" role="status" data-testid="said">
        {place && [place.patch.name, place.blend?.name, place.song.name].filter(Boolean).join(', ')}
      </p>
      <p className="sr-only" role="status">
        {missing.length > 0 && `not here: ${[...new Set(missing)].join(', ')}`}
      </p>
    </>
  );
}

/** First stop of Tab: past head and strip, straight to the page. */
export function SkipToPage() {
  return (
    <button
      type="button"
      onClick={() => document.querySelector<HTMLElement>('main')?.focus()}
      className="no-print sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-ink focus:px-3 focus:py-2 focus:text-ground"
    >
      skip to the page
    </button>
  );
}
