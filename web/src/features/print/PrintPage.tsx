import { Link, useParams } from 'react-router';
import { setsOf } from '@rackle/core/show';
import { useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { FloorSheets } from './FloorSheets';
import { RunSheet } from './RunSheet';

/** What goes on paper for an evening: the running order for the floor, or the run sheet. */
export function PrintPage() {
  const sheet = useParams().sheet === 'run' ? 'run' : 'floor';
  const setlist = useSetlist();
  const songs = useSongs();
  const sets = setlist ? setsOf(setlist, songs) : [];
  return (
    <div className="px-4 pb-6 print:p-0">
      <div className="no-print flex flex-wrap items-end gap-x-3 gap-y-1 border-b border-ink pb-2 pt-3">
        <h1 className="named text-4xl">{sheet === 'floor' ? 'Running order for the floor' : 'Run sheet'}</h1>
        <span className="pb-1 text-ink2">
          {sheet === 'floor' ? 'one page a set, to be read standing' : 'patches, numbers and notes'}
        </span>
        <nav aria-label="what to print" className="ml-auto flex flex-wrap items-center gap-1">
          <To path="/setlist" words="Setlist" />
          <To
            path={sheet === 'floor' ? '/print/run' : '/print/floor'}
            words={sheet === 'floor' ? 'Run sheet' : 'For the floor'}
          />
          <To path="/numbers/sheets" words="Controller sheets" />
          <Button disabled={sets.length === 0} onClick={() => window.print()}>
            Print
          </Button>
        </nav>
      </div>
      {setlist === null || sets.length === 0 ? (
        <p className="py-6 text-lg">
          Nothing is played yet. Put songs into the setlist, and they are printed from here.
        </p>
      ) : sheet === 'floor' ? (
        <FloorSheets setlist={setlist} sets={sets} />
      ) : (
        <RunSheet setlist={setlist} sets={sets} />
      )}
    </div>
  );
}

const To = ({ path, words }: { path: string; words: string }) => (
  <Link
    to={path}
    className="inline-flex min-h-9 items-center px-2 font-bold underline decoration-dotted underline-offset-4"
  >
    {words}
  </Link>
);
