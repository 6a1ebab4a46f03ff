import { useVirtualizer } from '@tanstack/react-virtual';
import { Star } from 'lucide-react';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { programText } from '@rackle/core/programs';
import { useSetlist } from '../../state/hooks';
import { useLinePx } from '../../ui/useLinePx';
import { soundKey, type FoundSound } from './soundIndex';
import type { useShelf } from './useShelf';

const ROW_PX = 34;

type Shelf = ReturnType<typeof useShelf>;

interface Props {
  hits: readonly FoundSound[];
  /** The hit that is gone to; −1: none. */
  at: number;
  /** The sound that the layer has as it is stored. */
  ownId: string | null;
  shelf: Shelf;
  /** What is said where there is none. */
  nothing: string;
  onGo: (at: number) => void;
  onKeep: (hit: FoundSound) => void;
  /** The keys of the field: they are the list's as well. */
  onKeyDown: (event: KeyboardEvent) => void;
}

/** The sounds that are found. */
export function SoundHits({ hits, at, ownId, shelf, nothing, onGo, onKeep, onKeyDown }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const linePx = useLinePx(ROW_PX);
  const rows = useVirtualizer({
    count: hits.length,
    getScrollElement: () => box.current,
    estimateSize: () => linePx,
    overscan: 10,
  });
  const isStarred = ({ sound }: FoundSound): boolean => sound !== null && shelf.stars.has(soundKey(sound));
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
  }, [at, rows]);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto">
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        <div
          id="hits"
          role="listbox"
          aria-label="sounds"
          tabIndex={0}
          aria-activedescendant={at >= 0 ? `hit-${at}` : undefined}
          onKeyDown={onKeyDown}
          className="absolute inset-0 focus-visible:outline-2 focus-visible:-outline-offset-2"
        >
          {rows.getVirtualItems().map((row) => (
            <Hit
              key={hits[row.index].id}
              hit={hits[row.index]}
              index={row.index}
              top={row.start}
              px={linePx}
              isAt={row.index === at}
              isOwn={ownId === hits[row.index].id}
              onGo={onGo}
              onKeep={onKeep}
            />
          ))}
        </div>
        {/* Beside the list, since nothing in an option can be pressed by itself. */}
        <div role="group" aria-label="stars">
          {rows.getVirtualItems().map((row) => (
            <StarOf
              key={hits[row.index].id}
              hit={hits[row.index]}
              top={row.start}
              px={linePx}
              isAt={row.index === at}
              isStarred={isStarred(hits[row.index])}
              onStar={shelf.toggleStar}
            />
          ))}
        </div>
      </div>
      {hits.length === 0 && <p className="py-6 text-lg text-ink2">{nothing}</p>}
    </div>
  );
}

interface HitProps {
  hit: FoundSound;
  index: number;
  /** Px from the top of the list. */
  top: number;
  px: number;
  isAt: boolean;
  isOwn: boolean;
  onGo: (at: number) => void;
  onKeep: (hit: FoundSound) => void;
}

function Hit({ hit, index, top, px, isAt, isOwn, onGo, onKeep }: HitProps) {
  const { programsFrom } = useSetlist() ?? { programsFrom: 1 as const };
  return (
    <div
      id={`hit-${index}`}
      role="option"
      aria-selected={isAt}
      onClick={() => onGo(index)}
      onDoubleClick={() => onKeep(hit)}
      className={`absolute inset-x-0 flex cursor-pointer items-baseline gap-3 border-b border-rule px-1 pointer-coarse:items-center ${isAt ? 'bg-ink text-ground' : isOwn ? 'bg-ground2' : ''}`}
      style={{ height: px, transform: `translateY(${top}px)` }}
    >
      <span className="w-6 shrink-0" />
      <span className="named w-72 shrink-0 truncate text-lg leading-8">{hit.name}</span>
      <span className="w-40 shrink-0 truncate">{hit.instrument}</span>
      <span className={`min-w-0 flex-1 truncate text-[13px] ${isAt ? '' : 'text-ink2'}`}>{hit.about}</span>
      <span className="mono shrink-0 text-xs">
        {hit.address
          ? programText(
              { msb: hit.address.msb ?? 0, lsb: hit.address.lsb ?? 0, program: hit.address.program },
              programsFrom,
            )
          : ''}
      </span>
    </div>
  );
}

/** The star before a sound. By key it is `*`, so that Tab does not stop at each. */
function StarOf({
  hit,
  top,
  px,
  isAt,
  isStarred,
  onStar,
}: {
  hit: FoundSound;
  top: number;
  px: number;
  isAt: boolean;
  isStarred: boolean;
  onStar: Shelf['toggleStar'];
}) {
  const { sound } = hit;
  if (!sound) return null;
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-pressed={isStarred}
      aria-label={`star ${hit.name}`}
      onClick={() => onStar(sound)}
      className={`absolute left-1 grid w-7 place-items-center ${isAt ? 'text-ground' : ''}`}
      style={{ height: px, transform: `translateY(${top}px)` }}
    >
      <Star size={15} fill={isStarred ? 'currentColor' : 'none'} className={isStarred ? '' : 'opacity-30'} />
    </button>
  );
}
