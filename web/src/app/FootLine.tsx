import { Link, useLocation } from 'react-router';
import { useAct, useApp } from '../state/hooks';
import { gearIn } from '../state/gearIn';
import { toggled } from '../state/uiSlice';
import { usePaletteToggle } from './usePaletteToggle';

/** What every page has at its foot: bench, monitor, the last thing that was done, keys. */
export function FootLine() {
  const act = useAct();
  const togglePalette = usePaletteToggle();
  const { locked, benchOpen, monitorOpen, paletteOpen, keysOpen } = useApp(({ ui }) => ui);
  const history = useHistoryPath();
  const lastWord = useApp(({ live }) => live.lastWord);
  return (
    <footer
      data-focus="player"
      className="no-print flex h-8 shrink-0 items-center gap-4 border-t border-rule pointer-coarse:h-11 px-4 text-[13px] text-ink2"
    >
      <FootKey letter="B" name="bench" on={benchOpen} onClick={() => act(toggled('benchOpen'))} />
      <FootKey letter="M" name="monitor" on={monitorOpen} onClick={() => act(toggled('monitorOpen'))} />
      <FootKey letter="Ctrl K" name="find" on={paletteOpen} onClick={togglePalette} />
      {locked && <span>locked: the strip moves the cursor, Enter goes</span>}
      <span className="mono ml-auto truncate text-xs" data-testid="last-word">
        {lastWord}
      </span>
      {[
        [history, 'history'],
        ['/guide', 'guide'],
      ].map(([to, words]) => (
        <Link
          key={words}
          to={to}
          aria-disabled={locked}
          onClick={(event) => locked && event.preventDefault()}
          className="inline-flex items-center hover:text-ink"
        >
          {words}
        </Link>
      ))}
      <FootKey letter="?" name="keys" on={keysOpen} onClick={() => act(toggled('keysOpen'))} />
    </footer>
  );
}

/** The history of what the page shows; of everything where that is no one thing. */
function useHistoryPath(): string {
  const { pathname } = useLocation();
  const setlistId = useApp(({ show }) => show.setlistId);
  const gearListId = useApp(gearIn)?.id;
  const [, page, id] = pathname.split('/');
  const of = {
    songs: ['songs', id],
    timeline: ['songs', id],
    sounds: ['instruments', id],
    setlist: ['setlists', setlistId],
    numbers: ['setlists', setlistId],
    gear: ['gearLists', gearListId],
  }[page];
  return of?.[1] ? `/history?kind=${of[0]}&id=${of[1]}` : '/history';
}

function FootKey({ letter, name, on, onClick }: { letter: string; name: string; on: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-expanded={on}
      onClick={onClick}
      className={`flex items-center gap-1.5 ${on ? 'text-ink' : 'hover:text-ink'}`}
    >
      <kbd className="mono border border-rule px-1 text-[11px]">{letter}</kbd>
      {name}
    </button>
  );
}
