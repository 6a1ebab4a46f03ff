import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, memo, useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import type { Place, Setlist, SetlistEntry, Song } from '@rackle/core/show';
import { useApp, useNumbers, usePlacesByEntry, useSetlist } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { useGoTo } from '../../state/useGoTo';
import { useLatest } from '../../ui/useLatest';
import { Tape } from '../../ui/Tape';

/** Up to so many entries all are drawn, and share the room; longer sets have a width of their own and are drawn where they are seen. */
const ALL_DRAWN = 40;
const TICK_PX = 26;
/** Room for twelve letters of the song's name. */
const SONG_PX = 84;
const BREAK_PX = 24;
const GAP_PX = 12;
const NO_ENTRIES: Setlist['entries'] = [];
const NO_PLACES: readonly Place[] = [];

/** The whole setlist from left to right: each song a block, each patch a tick of tape with its number under it. */
export const RunStrip = memo(function RunStrip({ onGo }: { onGo?: (place: Place) => void }) {
  const entries = useSetlist()?.entries ?? NO_ENTRIES;
  const numberOf = useNumbers();
  const { position, cursor } = useApp(({ live }) => live.place);
  const locked = useApp(({ ui }) => ui.locked);
  const strip = useRef<HTMLElement>(null);
  const byEntry = usePlacesByEntry();
  const goTo = useGoTo();
  const go = useLatest((place: Place): void => {
    goTo(place);
    if (!locked) onGo?.(place);
  });
  // One stop for Tab: at the cursor, else at what is live.
  const stop = cursor >= 0 ? cursor : Math.max(0, position);
  const draw = (entry: SetlistEntry): ReactNode => {
    if (entry.kind === 'break') return <Break entry={entry} />;
    const own = byEntry.get(entry.id) ?? NO_PLACES;
    const first = own[0]?.position ?? -1;
    const within = (at: number): number => (first >= 0 && at >= first && at < first + own.length ? at : -1);
    return (
      <Block
        own={own}
        song={own[0]?.song ?? null}
        first={first}
        skip={entry.skip}
        position={within(position)}
        cursor={within(cursor)}
        stop={within(stop)}
        numberOf={numberOf}
        onGo={go}
      />
    );
  };
  const isLong = entries.length > ALL_DRAWN;
  return (
    <nav
      ref={strip}
      aria-label="run strip"
      data-focus="player"
      onKeyDown={(event) => walk(event, strip.current)}
      className="no-print h-[66px] shrink-0 overflow-x-auto pointer-coarse:h-[74px] border-b border-rule px-4 pt-1.5 [scrollbar-width:thin]"
      data-testid="run-strip"
    >
      {isLong ? (
        <LongRow entries={entries} byEntry={byEntry} strip={strip} position={position} draw={draw} />
      ) : (
        <ShortRow entries={entries} byEntry={byEntry} strip={strip} position={position} draw={draw} />
      )}
    </nav>
  );
});

/** Arrows, Home and End go from tick to tick; they are not the player's while the strip has the focus. */
function walk(event: KeyboardEvent, strip: HTMLElement | null): void {
  const ticks = [...(strip?.querySelectorAll<HTMLElement>('[data-position]') ?? [])];
  const at = ticks.indexOf(event.target as HTMLElement);
  if (at < 0 || event.shiftKey || event.ctrlKey || event.metaKey || event.altKey) return;
  const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: ticks.length - 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  ticks[Math.max(0, Math.min(ticks.length - 1, to))]?.focus();
}

interface RowProps {
  entries: readonly SetlistEntry[];
  byEntry: ReadonlyMap<string, readonly Place[]>;
  strip: { readonly current: HTMLElement | null };
  position: number;
  draw: (entry: SetlistEntry) => ReactNode;
}

const widthOf = (entry: SetlistEntry, byEntry: RowProps['byEntry']): number =>
  entry.kind === 'break' ? BREAK_PX : Math.max(SONG_PX, (byEntry.get(entry.id)?.length ?? 0) * TICK_PX);

/** Blocks share the room. */
function ShortRow({ entries, byEntry, strip, position, draw }: RowProps) {
  useEffect(() => {
    void strip.current
      ?.querySelector(`[data-position="${position}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [strip, position]);
  return (
    <div className="flex items-stretch gap-2.5">
      {entries.map((entry) => {
        const px = widthOf(entry, byEntry);
        const style = entry.kind === 'break' ? undefined : { flex: `${px} 0 ${px}px`, maxWidth: px * 1.6 };
        return (
          <div key={entry.id} className="shrink-0" style={style}>
            {draw(entry)}
          </div>
        );
      })}
    </div>
  );
}

/** Hundreds of songs: only what is seen is drawn. */
function LongRow({ entries, byEntry, strip, position, draw }: RowProps) {
  const row = useVirtualizer({
    horizontal: true,
    count: entries.length,
    getScrollElement: () => strip.current,
    estimateSize: (i) => widthOf(entries[i], byEntry) + GAP_PX,
    getItemKey: (i) => entries[i].id,
    overscan: 3,
  });
  const live = entries.findIndex(({ id }) =>
    (byEntry.get(id) ?? NO_PLACES).some((place) => place.position === position),
  );
  useEffect(() => {
    if (live >= 0) row.scrollToIndex(live, { align: 'center' });
  }, [row, live]);
  return (
    <div className="relative h-[54px] pointer-coarse:h-[62px]" style={{ width: row.getTotalSize() }}>
      {row.getVirtualItems().map((item) => (
        <div key={item.key} className="absolute top-0" style={{ left: item.start, width: item.size - GAP_PX }}>
          {draw(entries[item.index])}
        </div>
      ))}
    </div>
  );
}

const Break = ({ entry }: { entry: Extract<SetlistEntry, { kind: 'break' }> }) => (
  <span
    title={`${entry.name}, ${entry.minutes} minutes`}
    className="mx-0.5 block h-[50px] w-4 border-x border-dashed border-ink2"
  />
);

interface BlockProps {
  own: readonly Place[];
  song: Song | null;
  /** Position of its first step. */
  first: number;
  skip: boolean;
  /** What is live, the cursor and the stop of Tab, where they are in this block; −1 where not. */
  position: number;
  cursor: number;
  stop: number;
  numberOf: (songId: string, patchId: string, blendId: string | null) => string | null;
  onGo: (place: Place) => void;
}

/** One song. Its places follow from the song and where it begins. */
const Block = memo(
  function Block({ own, song, skip, position, cursor, stop, numberOf, onGo }: BlockProps) {
    return (
      <div>
        <div
          dir="auto"
          className={`named truncate text-[13px] leading-4 ${skip ? 'line-through' : ''} ${position >= 0 ? 'text-ink' : 'font-medium text-ink2'}`}
        >
          {song?.name ?? 'song is missing'}
        </div>
        <div className="flex gap-[2px]">
          {own.map((place) => {
            const number = numberOf(place.song.id, place.patch.id, place.blend?.id ?? null);
            return (
              <button
                key={place.position}
                type="button"
                tabIndex={place.position === stop ? 0 : -1}
                onClick={() => onGo(place)}
                data-position={place.position}
                aria-label={`${place.song.name}, ${place.patch.name}${place.blend ? `, ${place.blend.name}` : ''}`}
                aria-description={number === null ? 'no number' : `program ${number}`}
                aria-current={place.position === position}
                title={`${place.patch.name}${place.blend ? ` · ${place.blend.name}` : ''}`}
                className={`min-h-9 min-w-6 flex-1 ${place.position === cursor ? 'outline-1 outline-dashed outline-ink' : ''}`}
              >
                <span
                  className={`flex h-3.5 ${skip ? 'opacity-40' : ''} ${place.blend ? 'mt-[3px] h-[11px]' : ''} ${place.position === position ? 'outline-2 outline-offset-1 outline-live' : ''}`}
                >
                  {tapesOf(place.song, place.patch.id).map((tape, i) => (
                    <Fragment key={i}>
                      <Tape tape={tape} className="flex-1" />
                    </Fragment>
                  ))}
                </span>
                {/* Not text of the button, whose name says what it recalls; its description says the number. */}
                <span
                  aria-hidden
                  data-number={number ?? '·'}
                  className={`mono block text-center text-[11px] leading-4 after:content-[attr(data-number)] ${place.position === position ? 'live-text font-bold' : 'text-ink2'}`}
                />
              </button>
            );
          })}
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
    before.stop === after.stop &&
    before.numberOf === after.numberOf,
);
