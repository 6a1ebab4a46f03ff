import { useVirtualizer } from '@tanstack/react-virtual';
import { Star } from 'lucide-react';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { programText } from '@rackle/core/programs';
import { useSetlist } from '../../state/hooks';
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
  const rows = useVirtualizer({
    count: hits.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 10,
  });
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
  }, [at, rows]);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto">
      <div
        id="hits"
        role="listbox"
        aria-label="sounds"
        tabIndex={0}
        aria-activedescendant={at >= 0 ? `hit-${at}` : undefined}
        onKeyDown={onKeyDown}
        className="relative focus-visible:outline-2 focus-visible:-outline-offset-2"
        style={{ height: rows.getTotalSize() }}
      >
        {rows.getVirtualItems().map((row) => {
          const hit = hits[row.index];
          const isStarred = hit.sound !== null && shelf.stars.has(soundKey(hit.sound));
          return (
            <Hit
              key={hit.id}
              hit={hit}
              index={row.index}
              top={row.start}
              isAt={row.index === at}
              isOwn={ownId === hit.id}
              isStarred={isStarred}
              onGo={onGo}
              onKeep={onKeep}
              onStar={shelf.toggleStar}
            />
          );
        })}
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
  isAt: boolean;
  isOwn: boolean;
  isStarred: boolean;
  onGo: (at: number) => void;
  onKeep: (hit: FoundSound) => void;
  onStar: Shelf['toggleStar'];
}

function Hit({ hit, index, top, isAt, isOwn, isStarred, onGo, onKeep, onStar }: HitProps) {
  const { programsFrom } = useSetlist() ?? { programsFrom: 1 as const };
  return (
    <div
      id={`hit-${index}`}
      role="option"
      aria-selected={isAt}
      onClick={() => onGo(index)}
      onDoubleClick={() => onKeep(hit)}
      className={`absolute inset-x-0 flex cursor-pointer items-baseline gap-3 border-b border-rule px-1 ${isAt ? 'bg-ink text-ground' : isOwn ? 'bg-ground2' : ''}`}
      style={{ height: ROW_PX, transform: `translateY(${top}px)` }}
    >
      {hit.sound ? (
        <button
          type="button"
          tabIndex={-1}
          aria-pressed={isStarred}
          aria-label={`star ${hit.name}`}
          onClick={(event) => {
            event.stopPropagation();
            onStar(hit.sound!);
          }}
          className="w-6 shrink-0 self-center"
        >
          <Star size={15} fill={isStarred ? 'currentColor' : 'none'} className={isStarred ? '' : 'opacity-30'} />
        </button>
      ) : (
        <span className="w-6 shrink-0" />
      )}
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
