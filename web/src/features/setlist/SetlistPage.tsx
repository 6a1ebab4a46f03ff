import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { memo, useMemo } from 'react';
import { Link } from 'react-router';
import type { Setlist } from '@rackle/core/show';
import { useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { clockText, dayText, minutesText } from '../../ui/format';
import { Stamp } from '../../ui/Stamp';
import { AddSong } from './AddSong';
import { EmptyShow } from './EmptyShow';
import { EntryRow } from './EntryRow';
import { SetlistSide } from './SetlistSide';
import { useRunningOrder, type EntryActions, type RowState } from './useRunningOrder';

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
          <p className="min-w-60 flex-1 pb-1.5 text-ink2">
            {whenAndWhere(setlist).map((words) => (
              <span key={words}>{words} · </span>
            ))}
            {songCount} song{songCount === 1 ? '' : 's'}, {setCount === 1 ? 'one set' : `${setCount} sets`} · plays{' '}
            <span className="mono">{minutesText(order.playsSeconds)}</span>, over at{' '}
            <span className="mono">{clockText(order.overAt)}</span>
            {setlist.curfew !== null && (
              <>
                {' '}
                · curfew <span className="mono">{setlist.curfew}</span> {order.isLate && <Stamp>late</Stamp>}
              </>
            )}
          </p>
          <span className="no-print ml-auto flex flex-wrap gap-2">
            <Button onClick={() => order.setIsAdding(true)}>Add song</Button>
            <Button onClick={order.addBreak}>Add break</Button>
            <Button onClick={() => window.print()}>Print</Button>
            <Link
              to="/setlists"
              className="flex min-h-9 items-center px-2 font-bold underline decoration-dotted underline-offset-4"
            >
              All setlists
            </Link>
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
        <EntryList rows={rows} actions={entryActions} onDrop={drop} />
      </div>
      <SetlistSide />
      <AddSong
        open={order.isAdding}
        onClose={() => order.setIsAdding(false)}
        onNew={order.addNewSong}
        onSong={order.addSong}
      />
    </div>
  );
}

/** The entries in their order, which can be dragged. It is drawn anew only when one of them changes. */
const EntryList = memo(function EntryList({
  rows,
  actions,
  onDrop,
}: {
  rows: readonly RowState[];
  actions: EntryActions;
  onDrop: (id: string, over: string) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = rows.map(({ entry }) => entry.id as string).join(' ');
  // The same list as long as the order is: all rows look at it.
  const items = useMemo(() => (ids === '' ? [] : ids.split(' ')), [ids]);
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id) onDrop(String(active.id), String(over.id));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={items} strategy={verticalListSortingStrategy}>
        <ol aria-label="running order">
          {rows.map((row) => (
            <EntryRow key={row.entry.id} {...row} actions={actions} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
});
