import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { EFFECT_KINDS, moved, newEffect, type Effect, type EffectChange, type EffectId } from '@rackle/core/show';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EffectLine } from './EffectLine';
import { EffectWords } from './EffectWords';

interface Props {
  effects: readonly Effect[];
  onChange: (effects: Effect[], label: string) => void;
  /** Whether it is a series that other layers are sent to. */
  isShared?: boolean;
  most?: number;
  /** What a blend has otherwise than the layer: marked. */
  differs?: readonly EffectChange[];
}

/**
 * Effects in series, one line each, in the order in which the sound goes through them: dragged, or moved by Alt and the
 * arrow keys.
 */
export function EffectSeries({ effects, onChange, isShared = false, most = 8, differs = [] }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const move = (from: number, to: number): void => {
    if (to >= 0 && to < effects.length && from !== to) onChange(moved(effects, from, to), 'move an effect');
  };
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over)
      move(
        effects.findIndex(({ id }) => id === active.id),
        effects.findIndex(({ id }) => id === over.id),
      );
  };
  return (
    <div>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={effects.map(({ id }) => id as string)} strategy={verticalListSortingStrategy}>
          <ol aria-label="effects in their order">
            {effects.map((effect, i) => (
              <Row
                key={effect.id}
                effect={effect}
                number={i + 1}
                differs={differs.find(({ effectId }) => effectId === effect.id) ?? null}
                onMove={(by) => move(i, i + by)}
                onRemove={() =>
                  onChange(
                    effects.filter((other) => other !== effect),
                    `take the ${effect.kind} away`,
                  )
                }
                onChange={(next) =>
                  onChange(
                    effects.map((other) => (other === effect ? next : other)),
                    `change the ${effect.kind}`,
                  )
                }
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {effects.length < most && (
        <Choice
          label="add an effect"
          value="-"
          items={[
            { value: '-', label: effects.length === 0 ? 'no effects; add one …' : 'add an effect …' },
            ...EFFECT_KINDS.map((kind) => ({ value: kind, label: kind })),
          ]}
          onChange={(kind) => {
            if (kind !== '-')
              onChange(
                [...effects, newEffect(kind as Effect['kind'], newId<EffectId>('effect'), isShared)],
                `add a ${kind}`,
              );
          }}
        />
      )}
    </div>
  );
}

function Row({
  effect,
  number,
  differs,
  onMove,
  onRemove,
  onChange,
}: {
  effect: Effect;
  number: number;
  differs: EffectChange | null;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
  onChange: (next: Effect) => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: effect.id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex min-h-9 items-baseline gap-1 leading-8 ${effect.on ? '' : 'text-ink2'}`}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(event.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-label={`move the ${effect.kind}`}
        className="mono w-6 shrink-0 cursor-grab touch-none text-left text-xs text-ink2"
      >
        {number}
      </button>
      <button
        type="button"
        aria-pressed={effect.on}
        aria-label={`${effect.kind} ${number}`}
        onClick={() => onChange({ ...effect, on: !effect.on })}
        className={`shrink-0 font-bold ${effect.on ? '' : 'line-through'} ${differs?.on === undefined ? '' : 'border-b-2 border-ink'}`}
      >
        {effect.kind}
      </button>
      <span className="min-w-0">
        <EffectWords effect={effect} number={number} differs={Object.keys(differs?.values ?? {})} onChange={onChange} />
      </span>
      <EffectLine effect={effect} />
      <Button look="plain" className="ml-auto" aria-label={`take the ${effect.kind} away`} onClick={onRemove}>
        ×
      </Button>
    </li>
  );
}
