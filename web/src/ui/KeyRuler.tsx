import { memo, useRef, type PointerEvent } from 'react';
import { useLatest } from './useLatest';

type Grip = 'low' | 'high' | 'all';
const BLACK = new Set([1, 3, 6, 8, 10]);

/** A strip of keys on the ruler. */
export interface RulerZone {
  id: string;
  letter: string;
  name: string;
  tape: string;
  lowKey: number;
  highKey: number;
  /** Right-hand note: a shift, or nothing. */
  note: string;
  chosen: boolean;
  /** Silent now: dimmed, and said. */
  muted: boolean;
}

interface Props {
  lowest: number;
  highest: number;
  zones: RulerZone[];
  keys: { key: number; carried: boolean }[];
  /** Names of the C's. One that stays the same spares drawing them anew. */
  nameOf: (key: number) => string;
  onChoose?: (id: string) => void;
  /** While dragging and at its end. */
  onZone?: (id: string, lowKey: number, highKey: number) => void;
  barHeight?: number;
}

/**
 * One wide ruler of keys: C's named, black keys as short marks, zones as strips of tape whose ends can be dragged. All
 * ends are inclusive.
 */
export function KeyRuler({ lowest, highest, zones, keys, nameOf, onChoose, onZone, barHeight = 24 }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const count = highest - lowest + 1;
  const keyAt = (clientX: number): number => {
    const { left, width } = box.current!.getBoundingClientRect();
    return Math.min(highest, Math.max(lowest, lowest + Math.floor(((clientX - left) / width) * count)));
  };
  // A drag goes on over many renderings: what it tells is always the last one's.
  const zoned = useLatest((id: string, low: number, high: number): void => onZone?.(id, low, high));
  const drag = useLatest((zone: RulerZone, grip: Grip, event: PointerEvent<HTMLElement>): void => {
    onChoose?.(zone.id);
    if (!onZone) return;
    event.preventDefault();
    event.stopPropagation();
    const start = keyAt(event.clientX);
    const target = event.currentTarget;
    target.setPointerCapture(event.pointerId);
    let last = '';
    const move = (now: globalThis.PointerEvent): void => {
      const key = keyAt(now.clientX);
      const by = Math.max(-zone.lowKey, Math.min(127 - zone.highKey, key - start));
      const [low, high] =
        grip === 'low'
          ? [Math.min(key, zone.highKey), zone.highKey]
          : grip === 'high'
            ? [zone.lowKey, Math.max(key, zone.lowKey)]
            : [zone.lowKey + by, zone.highKey + by];
      if (`${low} ${high}` === last) return;
      last = `${low} ${high}`;
      zoned(zone.id, low, high);
    };
    const end = (): void => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', end);
      target.removeEventListener('pointercancel', end);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end);
    target.addEventListener('pointercancel', end);
  });
  const choose = useLatest((id: string): void => onChoose?.(id));
  return (
    <div ref={box} className="relative w-full select-none" data-testid="key-ruler">
      {zones.map((zone) => (
        <Strip
          key={zone.id}
          zone={zone}
          lowest={lowest}
          highest={highest}
          height={barHeight}
          movable={onZone !== undefined}
          onDrag={drag}
          onChoose={choose}
        />
      ))}
      <Marks lowest={lowest} highest={highest} keys={keys} nameOf={nameOf} />
    </div>
  );
}

interface StripProps {
  zone: RulerZone;
  lowest: number;
  highest: number;
  height: number;
  movable: boolean;
  onDrag: (zone: RulerZone, grip: Grip, event: PointerEvent<HTMLElement>) => void;
  onChoose: (id: string) => void;
}

const sameZone = (a: RulerZone, b: RulerZone): boolean =>
  (Object.keys(a) as (keyof RulerZone)[]).every((field) => a[field] === b[field]);

/** A zone as a strip of tape, drawn anew only when something of it changes. */
const Strip = memo(
  function Strip({ zone, lowest, highest, height, movable, onDrag, onChoose }: StripProps) {
    const count = highest - lowest + 1;
    const low = Math.max(lowest, zone.lowKey);
    const high = Math.min(highest, zone.highKey);
    return (
      <div className="relative mb-1" style={{ height }}>
        {high >= low && (
          <div
            role="button"
            tabIndex={0}
            aria-label={`zone of ${zone.name}${zone.muted ? ', muted' : ''}`}
            aria-pressed={zone.chosen}
            onPointerDown={(event) => onDrag(zone, 'all', event)}
            onFocus={() => onChoose(zone.id)}
            className={`tape tape-${zone.tape} absolute inset-y-0 flex items-center gap-1 overflow-hidden px-2 text-sm ${zone.muted ? 'tape-muted' : ''} ${movable ? 'cursor-grab touch-none' : ''} ${zone.chosen ? 'outline-2 outline-offset-1 outline-ink' : ''}`}
            style={{ left: `${((low - lowest) / count) * 100}%`, width: `${((high - low + 1) / count) * 100}%` }}
          >
            {movable && (
              <span
                aria-hidden
                onPointerDown={(event) => onDrag(zone, 'low', event)}
                className="absolute inset-y-0 left-0 w-3 cursor-ew-resize touch-none"
              />
            )}
            <span className="named truncate" style={{ textShadow: '0 0 3px var(--tape)' }}>
              <span aria-hidden data-letter={zone.letter} className="mr-1 after:content-[attr(data-letter)]" />
              {zone.name}
            </span>
            {zone.muted && <b className="shrink-0 bg-ink px-1 text-xs text-ground">muted</b>}
            <span
              aria-hidden
              data-note={zone.note}
              className="mono ml-auto whitespace-nowrap text-xs after:content-[attr(data-note)]"
            />
            {movable && (
              <span
                aria-hidden
                onPointerDown={(event) => onDrag(zone, 'high', event)}
                className="absolute inset-y-0 right-0 w-3 cursor-ew-resize touch-none"
              />
            )}
          </div>
        )}
      </div>
    );
  },
  (before, after) =>
    sameZone(before.zone, after.zone) &&
    before.lowest === after.lowest &&
    before.highest === after.highest &&
    before.height === after.height &&
    before.movable === after.movable,
);

/** Keys as marks, those that are down, and the names of the C's. */
const Marks = memo(function Marks({
  lowest,
  highest,
  keys,
  nameOf,
}: Pick<Props, 'lowest' | 'highest' | 'keys' | 'nameOf'>) {
  const count = highest - lowest + 1;
  const share = (key: number): string => `${((key - lowest) / count) * 100}%`;
  return (
    <>
      <div className="relative mt-3 h-4">
        {Array.from({ length: count }, (_, i) => lowest + i).map((key) => {
          const held = keys.find((candidate) => candidate.key === key);
          const black = BLACK.has(key % 12);
          return (
            <span key={key} className="absolute bottom-0 top-0" style={{ left: share(key), width: `${100 / count}%` }}>
              {!black && <span className="absolute inset-y-0 left-0 w-px bg-ink2" />}
              {black && <span className="absolute left-0 top-0 h-2 w-full bg-ink" />}
              {held && (
                <span
                  data-testid={`held-${key}`}
                  className={`absolute inset-0 ${held.carried ? 'border border-live' : 'bg-live'}`}
                  style={
                    held.carried
                      ? { backgroundImage: 'repeating-linear-gradient(135deg, #e0401c 0 2px, transparent 2px 5px)' }
                      : undefined
                  }
                />
              )}
            </span>
          );
        })}
      </div>
      <div className="mono relative h-5 text-[11px] text-ink2">
        {Array.from({ length: count }, (_, i) => lowest + i)
          .filter((key) => key % 12 === 0)
          .map((key) => (
            <span key={key} className="absolute" style={{ left: share(key) }}>
              {nameOf(key)}
            </span>
          ))}
      </div>
    </>
  );
});
