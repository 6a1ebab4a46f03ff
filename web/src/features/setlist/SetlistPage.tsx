import { useState } from 'react';
import { Link } from 'react-router';
import type { Setlist } from '@rackle/core/show';
import { useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { fetchedLater, firstPageIsThere } from '../../ui/fetchedLater';
import { clockText, dayText, minutesText } from '../../ui/format';
import { Stamp } from '../../ui/Stamp';
import { EmptyShow } from './EmptyShow';
import { EntryList } from './EntryList';
import { useRunningOrder, type RowState } from './useRunningOrder';

// What stands above and beside the running order is drawn once that can be played from.
const EveningPicture = fetchedLater(async () => {
  await firstPageIsThere;
  return (await import('./EveningPicture')).EveningPicture;
});
const SetlistSide = fetchedLater(async () => {
  await firstPageIsThere;
  return (await import('./SetlistSide')).SetlistSide;
});
const AddSong = fetchedLater(async () => (await import('./AddSong')).AddSong);

/** The running order as a printed sheet. */
export function SetlistPage() {
  const setlist = useSetlist();
  return setlist ? <RunningOrder setlist={setlist} /> : <EmptyShow />;
}

/** The day and the place, where they are known. */
const whenAndWhere = ({ date, place }: Setlist): string[] =>
  [date === null ? '' : dayText(date), place].filter((words) => words !== '');

function RunningOrder({ setlist }: { setlist: Setlist }) {
  const order = useRunningOrder(setlist);
  // It is fetched when it is first wanted.
  const [wantsSongs, setWantsSongs] = useState(false);
  if (order.isAdding && !wantsSongs) setWantsSongs(true);
  const { rows, songCount, setCount, entryActions, drop } = order;
  return (
    <div className="flex min-h-full">
      <div className="min-w-0 flex-1 px-4 pb-8">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-rule py-3">
          <EditableText
            heading
            label="name of the setlist"
            value={setlist.name}
            className="named text-4xl leading-tight"
            onChange={order.rename}
          />
          <p className="order-last basis-full text-ink2">
            {whenAndWhere(setlist).map((words) => (
              <span key={words}>{words} · </span>
            ))}
            {songCount} song{songCount === 1 ? '' : 's'}, {setCount === 1 ? 'one set' : `${setCount} sets`} · plays{' '}
            <span className="mono">{minutesText(order.playsSeconds)}</span>, over at{' '}
            <span className="mono">{clockText(order.overAt)}</span>
            {setlist.curfew !== null && (
              <>
                {' '}
                · curfew <span className="mono">{setlist.curfew}</span>{' '}
                {order.toDrop !== null && <Late toDrop={order.toDrop} rows={rows} onSkip={order.skip} />}
              </>
            )}
          </p>
          <span className="no-print ml-auto flex flex-wrap gap-2">
            <Button onClick={() => order.setIsAdding(true)}>Add song</Button>
            <Button onClick={order.addBreak}>Add break</Button>
            {[
              ['/print/floor', 'Print'],
              ['/setlists', 'All setlists'],
            ].map(([to, words]) => (
              <Link
                key={to}
                to={to}
                className="flex min-h-9 items-center px-2 font-bold underline decoration-dotted underline-offset-4"
              >
                {words}
              </Link>
            ))}
          </span>
        </div>
        {songCount === 0 && (
          <p className="py-8 text-lg text-ink2">
            No songs yet.{' '}
            <Button look="plain" onClick={() => order.setIsAdding(true)}>
              Add the first one
            </Button>
          </p>
        )}
        {/* As high as it will be, so that nothing moves when it comes. */}
        {songCount > 0 && (
          <div className="no-print min-h-[101px] pt-2 max-[699px]:hidden">
            <EveningPicture setlist={setlist} rows={rows} overAt={order.overAt} />
          </div>
        )}
        <EntryList rows={rows} actions={entryActions} onDrop={drop} />
      </div>
      <aside className="no-print hidden w-72 shrink-0 border-l border-ink px-4 py-3 lg:block">
        <SetlistSide />
      </aside>
      {wantsSongs && (
        <AddSong
          open={order.isAdding}
          onClose={() => order.setIsAdding(false)}
          onNew={order.addNewSong}
          onSong={order.addSong}
        />
      )}
    </div>
  );
}

interface LateProps {
  toDrop: readonly string[];
  rows: readonly RowState[];
  onSkip: (ids: readonly string[]) => void;
}

/** The evening is over too late: what to leave out so that it is not. */
function Late({ toDrop, rows, onSkip }: LateProps) {
  const names = toDrop.flatMap((id) => rows.find(({ entry }) => entry.id === id)?.song?.name ?? []);
  return (
    <>
      <Stamp>late</Stamp>{' '}
      {names.length === 0 ? (
        'by more than three songs'
      ) : (
        <Button look="plain" className="no-print" onClick={() => onSkip(toDrop)}>
          skip {names.join(' and ')} to end in time
        </Button>
      )}
    </>
  );
}
