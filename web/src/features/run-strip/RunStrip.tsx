import { Fragment, useEffect, useRef } from 'react';
import type { Place } from '@rackle/core';
import { useAct, useApp, useDoor, useNumbers, usePlaces, useSetlist } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { chose } from '../../state/uiSlice';
import { Tape } from '../../ui/Tape';

/** The whole setlist from left to right: each song a block, each patch a tick of tape with its number under it. */
export function RunStrip({ onGo }: { onGo?: (place: Place) => void }) {
  const setlist = useSetlist();
  const places = usePlaces();
  const numberOf = useNumbers();
  const door = useDoor();
  const act = useAct();
  const { position, cursor } = useApp(({ live }) => live.snapshot);
  const locked = useApp(({ ui }) => ui.locked);
  const live = useRef<HTMLButtonElement>(null);
  useEffect(() => { void live.current?.scrollIntoView({ block: 'nearest', inline: 'center' }); }, [position]);
  const go = (place: Place): void => {
    if (locked) return door.post({ type: 'cursor', position: place.position });
    door.post({ type: 'recall', position: place.position });
    act(chose({ songId: place.song.id, patchId: place.patch.id, blendId: place.blend?.id ?? null }));
    onGo?.(place);
  };
  return (
    <nav aria-label="run strip" className="no-print flex h-[62px] shrink-0 items-stretch gap-3 overflow-x-auto border-b border-rule px-4 pt-1.5 [scrollbar-width:thin]" data-testid="run-strip">
      {setlist?.entries.map((entry) => {
        if (entry.kind === 'break') return <span key={entry.id} title={`${entry.name}, ${entry.minutes} minutes`} className="mx-1 w-4 shrink-0 border-x border-dashed border-ink2" />;
        const own = places.filter((place) => place.entry.id === entry.id);
        const here = own.some((place) => place.position === position);
        return (
          <div key={entry.id} className={`shrink-0 ${entry.skip ? 'opacity-45' : ''}`} style={{ flex: `${Math.max(2, own.length)} 0 ${own.length * 24}px`, maxWidth: own.length * 44 }}>
            <div className={`named truncate text-[13px] leading-4 ${here ? 'text-ink' : 'font-medium text-ink2'}`}>{own[0]?.song.name ?? 'song is missing'}</div>
            <div className="flex gap-[2px]">
              {own.map((place) => (
                <button
                  key={place.position} ref={place.position === position ? live : undefined} type="button" onClick={() => go(place)} data-position={place.position}
                  aria-label={`${place.song.name}, ${place.patch.name}${place.blend ? `, ${place.blend.name}` : ''}`} aria-current={place.position === position}
                  title={`${place.patch.name}${place.blend ? ` · ${place.blend.name}` : ''}`}
                  className={`min-w-5 flex-1 ${place.position === cursor ? 'outline-1 outline-dashed outline-ink' : ''}`}
                >
                  <span className={`flex h-3.5 ${place.blend ? 'mt-[3px] h-[11px]' : ''} ${place.position === position ? 'outline-2 outline-offset-1 outline-live' : ''}`}>
                    {tapesOf(place.song, place.patch.id).map((tape, i) => <Fragment key={i}><Tape tape={tape} className="flex-1" /></Fragment>)}
                  </span>
                  <span className={`mono block text-center text-[10px] leading-4 ${place.position === position ? 'live-text font-bold' : 'text-ink2'}`}>{numberOf(place.song.id, place.patch.id, place.blend?.id ?? null) ?? '·'}</span>
                </button>
              ))}
            </div>
          </div>
        );
      })}
    </nav>
  );
}
