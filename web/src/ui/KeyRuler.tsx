import { memo, useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react';
import { useLatest } from './useLatest';
import { useLinePx } from './useLinePx';

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
  /** Zones that do not meet share a line, so that many fit; each has its own otherwise. */
  packed?: boolean;
}

/** Zones by the lines they stand on: each on the first where it meets no other. */
export function packedLines(zones: readonly RulerZone[]): RulerZone[][] {
  const lines: RulerZone[][] = [];
  for (const zone of zones) {
    const free = lines.find((line) =>
      line.every((other) => zone.lowKey > other.highKey || zone.highKey < other.lowKey),
    );
    if (free) free.push(zone);
    else lines.push([zone]);
  }
  return lines;
}

/**
 * One wide ruler of keys: C's named, black keys as short marks, zones as strips of tape whose ends can be dragged. All
 * ends are inclusive.
 */
export function KeyRuler({
  lowest,
  highest,
  zones,
  keys,
  nameOf,
  onChoose,
  onZone,
  barHeight = 24,
  packed = false,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const count = highest - lowest + 1;
  const height = useLinePx(barHeight);
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
      {(packed ? packedLines(zones) : zones.map((zone) => [zone])).map((line) => (
        <div key={line[0].id} className="relative mb-1" style={{ height: onZone ? height : barHeight }}>
          {line.map((zone) => (
            <Strip
              key={zone.id}
              zone={zone}
              lowest={lowest}
              highest={highest}
              movable={onZone !== undefined}
              nameOf={nameOf}
              onDrag={drag}
              onChoose={choose}
              onZone={zoned}
            />
          ))}
        </div>
      ))}
      <Marks lowest={lowest} highest={highest} keys={keys} nameOf={nameOf} />
    </div>
  );
}

interface StripProps {
  zone: RulerZone;
  lowest: number;
  highest: number;
  movable: boolean;
  nameOf: (key: number) => string;
  onDrag: (zone: RulerZone, grip: Grip, event: PointerEvent<HTMLElement>) => void;
  onChoose: (id: string) => void;
  onZone: (id: string, lowKey: number, highKey: number) => void;
}

const sameZone = (a: RulerZone, b: RulerZone): boolean =>
  (Object.keys(a) as (keyof RulerZone)[]).every((field) => a[field] === b[field]);

/** A zone as a strip of tape, drawn anew only when something of it changes. */
const Strip = memo(
  function Strip(props: StripProps) {
    const { zone, lowest, highest, movable } = props;
    const count = highest - lowest + 1;
    const low = Math.max(lowest, zone.lowKey);
    const high = Math.min(highest, zone.highKey);
    const style = { left: `${((low - lowest) / count) * 100}%`, width: `${((high - low + 1) / count) * 100}%` };
    const look = `tape tape-${zone.tape} absolute inset-y-0 flex items-center gap-1 overflow-hidden text-sm ${zone.muted ? 'tape-muted' : ''} ${zone.chosen ? 'outline-2 outline-offset-1 outline-ink' : ''}`;
    if (high < low) return null;
    if (movable) return <MovableStrip {...props} look={look} style={style} />;
    return (
      <div className={`${look} px-2`} style={style}>
        <StripWords zone={zone} />
      </div>
    );
  },
  (before, after) =>
    sameZone(before.zone, after.zone) &&
    before.lowest === after.lowest &&
    before.highest === after.highest &&
    (before.nameOf === after.nameOf || !after.movable) &&
    before.movable === after.movable,
);

function StripWords({ zone }: { zone: RulerZone }) {
  return (
    <>
      <span dir="auto" className="named tape-words truncate">
        <span aria-hidden data-letter={zone.letter} className="mr-1 after:content-[attr(data-letter)]" />
        {zone.name}
      </span>
      {zone.muted && <b className="shrink-0 bg-ink px-1 text-xs text-ground">muted</b>}
      <span
        aria-hidden
        data-note={zone.note}
        className="mono tape-words ml-auto whitespace-nowrap text-xs after:content-[attr(data-note)]"
      />
    </>
  );
}

/** How far an arrow key moves an end, or (with Page Up and Down) an octave. */
const BY_KEY: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -12,
  PageUp: 12,
};
const LAST_KEY = 127;

/** A zone whose ends are moved, by pointer or by keys, or the whole of it. */
function MovableStrip({
  zone,
  nameOf,
  onDrag,
  onChoose,
  onZone,
  look,
  style,
}: StripProps & { look: string; style: CSSProperties }) {
  const { id, name, lowKey, highKey } = zone;
  const moves = (to: (by: number) => [low: number, high: number]) => (event: KeyboardEvent) => {
    const by = BY_KEY[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    // The keys are the zone's while it has the focus, and not the player's.
    event.preventDefault();
    event.stopPropagation();
    onZone(id, ...to(by));
  };
  const within = (key: number, low: number, high: number): number => Math.min(high, Math.max(low, key));
  const both = (by: number): [number, number] => {
    const far = within(by, -lowKey, LAST_KEY - highKey);
    return [lowKey + far, highKey + far];
  };
  const grip =
    'absolute inset-y-0 w-3 pointer-coarse:w-6 cursor-ew-resize touch-none focus-visible:bg-ink focus-visible:outline-2';
  return (
    <div className={look} style={style}>
      <button
        type="button"
        aria-label={`zone of ${name}${zone.muted ? ', muted' : ''}`}
        aria-description={`${nameOf(lowKey)} to ${nameOf(highKey)}; arrows move it`}
        aria-pressed={zone.chosen}
        onPointerDown={(event) => onDrag(zone, 'all', event)}
        onFocus={() => onChoose(id)}
        onKeyDown={moves(both)}
        className="flex h-full w-full cursor-grab touch-none items-center gap-1 overflow-hidden px-2 text-left focus-visible:-outline-offset-2"
      >
        <StripWords zone={zone} />
      </button>
      <span
        role="slider"
        tabIndex={0}
        aria-label={`low end of ${name}`}
        aria-valuemin={0}
        aria-valuemax={highKey}
        aria-valuenow={lowKey}
        aria-valuetext={nameOf(lowKey)}
        onPointerDown={(event) => onDrag(zone, 'low', event)}
        onKeyDown={moves((by) => [within(lowKey + by, 0, highKey), highKey])}
        className={`${grip} left-0`}
      />
      <span
        role="slider"
        tabIndex={0}
        aria-label={`high end of ${name}`}
        aria-valuemin={lowKey}
        aria-valuemax={LAST_KEY}
        aria-valuenow={highKey}
        aria-valuetext={nameOf(highKey)}
        onPointerDown={(event) => onDrag(zone, 'high', event)}
        onKeyDown={moves((by) => [lowKey, within(highKey + by, lowKey, LAST_KEY)])}
        className={`${grip} right-0`}
      />
    </div>
  );
}

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
