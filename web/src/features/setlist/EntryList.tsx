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
import { memo, useMemo, useRef, useState } from 'react';
import { EntryRow } from './EntryRow';
import type { EntryActions, RowState } from './useRunningOrder';
import { useSeenRows } from './useSeenRows';

interface Props {
  rows: readonly RowState[];
  actions: EntryActions;
  onDrop: (id: string, over: string) => void;
}

/**
 * The entries in their order, which can be dragged. It is drawn anew only when one of them changes; of a long set only
 * what is seen is drawn.
 */
export const EntryList = memo(function EntryList({ rows, actions, onDrop }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = rows.map(({ entry }) => entry.id as string).join(' ');
  // The same list as long as the order is: all rows look at it.
  const items = useMemo(() => (ids === '' ? [] : ids.split(' ')), [ids]);
  const list = useRef<HTMLOListElement>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const { seen, before, after } = useSeenRows(list, items, dragged);
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    setDragged(null);
    if (over && active.id !== over.id) onDrop(String(active.id), String(over.id));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(null)}
      onDragEnd={onDragEnd}
    >
      <SortableContext items={items} strategy={verticalListSortingStrategy}>
        <ol ref={list} aria-label="running order">
          {before > 0 && <li aria-hidden style={{ height: before }} />}
          {seen.map((index) => {
            const row = rows[index];
            return row && <EntryRow key={row.entry.id} {...row} actions={actions} />;
          })}
          {after > 0 && <li aria-hidden style={{ height: after }} />}
        </ol>
      </SortableContext>
    </DndContext>
  );
});
