import { Fragment, memo, useEffect, useRef } from 'react';
import type { Place, Song } from '@rackle/core/show';
import { useApp, useNumbers, usePlaces, useSetlist } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { useGoTo } from '../../state/useGoTo';
import { useLatest } from '../../ui/useLatest';
import { Tape } from '../../ui/Tape';

/** The whole setlist from left to right: each song a block, each patch a tick of tape with its number under it. */
export const RunStrip = memo(function RunStrip({ onGo }: { onGo?: (place: Place) => void }) {
  const setlist = useSetlist();
  const places = usePlaces();
  const numberOf = useNumbers();
  const { position, cursor } = useApp(({ live }) => live.place);
  const locked = useApp(({ ui }) => ui.locked);
  const strip = useRef<HTMLElement>(null);
  useEffect(() => {
    void strip.current
      ?.querySelector(`[data-position="${position}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [position]);
  const goTo = useGoTo();
  const go = useLatest((place: Place): void => {
    goTo(place);
    if (!locked) onGo?.(place);
  });
  return (
    <nav
      ref={strip}
      aria-label="run strip"
      data-focus="player"
      className="no-print flex h-[62px] shrink-0 items-stretch gap-3 overflow-x-auto border-b border-rule px-4 pt-1.5 [scrollbar-width:thin]"
      data-testid="run-strip"
    >
      {setlist?.entries.map((entry) => {
        if (entry.kind === 'break')
          return (
            <span
              key={entry.id}
              title={`${entry.name}, ${entry.minutes} minutes`}
              className="mx-1 w-4 shrink-0 border-x border-dashed border-ink2"
            />
          );
        const own = places.filter((place) => place.entry.id === entry.id);
        const within = (at: number): number => (own.some((place) => place.position === at) ? at : -1);
        return (
          <Block
            key={entry.id}
            own={own}
            song={own[0]?.song ?? null}
            first={own[0]?.position ?? -1}
            skip={entry.skip}
            position={within(position)}
            cursor={within(cursor)}
            numberOf={numberOf}
            onGo={go}
          />
        );
      })}
    </nav>
  );
});

interface BlockProps {
  own: readonly Place[];
  song: Song | null;
  /** Position of its first step. */
  first: number;
  skip: boolean;
  /** What is live, and the cursor, where they are in this block; −1 where not. */
  position: number;
  cursor: number;
  numberOf: (songId: string, patchId: string, blendId: string | null) => string | null;
  onGo: (place: Place) => void;
}

/** One song. Its places follow from the song and where it begins. */
const Block = memo(
  function Block({ own, song, skip, position, cursor, numberOf, onGo }: BlockProps) {
    return (
      <div
        className={`shrink-0 ${skip ? 'opacity-45' : ''}`}
        style={{ flex: `${Math.max(2, own.length)} 0 ${own.length * 24}px`, maxWidth: own.length * 44 }}
      >
        <div className={`named truncate text-[13px] leading-4 ${position >= 0 ? 'text-ink' : 'font-medium text-ink2'}`}>
          {song?.name ?? 'song is missing'}
        </div>
        <div className="flex gap-[2px]">
          {own.map((place) => (
            <button
              key={place.position}
              type="button"
              onClick={() => onGo(place)}
              data-position={place.position}
              aria-label={`${place.song.name}, ${place.patch.name}${place.blend ? `, ${place.blend.name}` : ''}`}
              aria-current={place.position === position}
              title={`${place.patch.name}${place.blend ? ` · ${place.blend.name}` : ''}`}
              className={`min-w-5 flex-1 ${place.position === cursor ? 'outline-1 outline-dashed outline-ink' : ''}`}
            >
              <span
                className={`flex h-3.5 ${place.blend ? 'mt-[3px] h-[11px]' : ''} ${place.position === position ? 'outline-2 outline-offset-1 outline-live' : ''}`}
              >
                {tapesOf(place.song, place.patch.id).map((tape, i) => (
                  <Fragment key={i}>
                    <Tape tape={tape} className="flex-1" />
                  </Fragment>
                ))}
              </span>
              <span
                className={`mono block text-center text-[10px] leading-4 ${place.position === position ? 'live-text font-bold' : 'text-ink2'}`}
              >
                {numberOf(place.song.id, place.patch.id, place.blend?.id ?? null) ?? '·'}
              </span>
            </button>
          ))}
        </div>
      </div>
    );
  },
  (before, after) =>
    before.song === after.song &&
    before.first === after.first &&
    before.own.length === after.own.length &&
    before.skip === after.skip &&
    before.position === after.position &&
    before.cursor === after.cursor &&
    before.numberOf === after.numberOf,
);
