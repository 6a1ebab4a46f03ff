import { memo } from 'react';
import { rampPoints, type Lead } from '@rackle/core/timeline';
import { FlagButton, flagProps, type FlagProps } from './FlagButton';
import { Hatching } from './Hatching';
import type { Flag } from './chartLayout';
import { cueWords } from './cueWords';
import { useChartNow, type ChosenFlags, type FlagHands } from './timelineContext';
import type { SeenOfChart } from './useChartView';

const NOTES_PX = 44;
const VALUES_PX = 48;
/** Flags nearer than this stand without words. */
const NARROW_PX = 22;
/** Values nearer than this stand as points. */
const NARROW_VALUE_PX = 40;

interface Props {
  id: string;
  name: string;
  flags: readonly Flag[];
  isFolded: boolean;
  onFold: (id: string) => void;
  /** Of its cues: when their gear is ready. */
  leads: readonly Lead[];
  chosen: ChosenFlags;
  hands: FlagHands;
  view: SeenOfChart;
}

/** One lane of the chart: cues of one sort, hanging from their beat. */
export const Lane = memo(function Lane({ id, name, flags, isFolded, onFold, leads, chosen, hands, view }: Props) {
  const { endTick } = useChartNow().map;
  const margin = (view.to - view.from) / 2;
  const [from, to] = [(view.from - margin) * endTick, (view.to + margin) * endTick];
  const inSight = isFolded ? [] : flags.filter(({ atTick, cue }) => atTick <= to && atTick + lengthOf(cue) >= from);
  const rooms = id === 'notes' ? [] : roomsOf(inSight, endTick);
  const height = isFolded ? 20 : id === 'notes' ? NOTES_PX + 18 : id === 'controllers' ? VALUES_PX + 18 : 46;
  const keys = id === 'notes' ? inSight.map(({ cue }) => (cue.kind === 'note' ? cue.key : 60)) : [];
  const [low, high] = [Math.min(...keys), Math.max(...keys)];
  return (
    <div
      data-lane={id}
      className="relative isolate border-t border-rule"
      style={{ height }}
      role="group"
      aria-label={name}
    >
      <button
        type="button"
        aria-expanded={!isFolded}
        className="sticky left-0 z-10 block h-[18px] bg-ground pr-2 pl-1 text-[11px] leading-[18px] text-ink2"
        onClick={() => onFold(id)}
      >
        {isFolded ? '▸' : '▾'} {name}
      </button>
      {id === 'controllers' && <Ways flags={inSight} />}
      {!isFolded && leads.length > 0 && <Hatching leads={leads} className="bottom-0 h-1.5" />}
      {inSight.map((flag, i) => {
        const props = flagProps(flag, chosen, hands);
        const roomPx = (((rooms[i] ?? endTick) - flag.atTick) / endTick) * view.widthPx;
        if (id === 'notes') return <NoteFlag key={flag.key} {...props} low={low} high={high} />;
        if (id === 'controllers') return <ValueFlag key={flag.key} {...props} roomPx={roomPx} />;
        return <WordFlag key={flag.key} {...props} roomPx={roomPx} />;
      })}
    </div>
  );
});

/** For each flag, where the next one with words of its own hangs: the end of a text has none. */
function roomsOf(flags: readonly Flag[], endTick: number): number[] {
  const rooms: number[] = [];
  let next = endTick;
  for (let i = flags.length - 1; i >= 0; i--) {
    rooms[i] = next;
    const { cue, atTick } = flags[i];
    if (cue.kind !== 'text' || cue.text !== '') next = atTick;
  }
  return rooms;
}

const lengthOf = (cue: Flag['cue']): number =>
  cue.kind === 'note' ? cue.lengthTicks : cue.kind === 'controller' ? (cue.ramp?.lengthTicks ?? 0) : 0;

/** A flag with its words on it, as far as there is room to the next. */
const WordFlag = memo(function WordFlag({ roomPx, ...flag }: FlagProps & { roomPx: number }) {
  const { names, map } = useChartNow();
  const { cue } = flag;
  const { what, value } = cueWords(cue, names);
  const hasWords = cue.kind !== 'text' || cue.text !== '';
  return (
    <FlagButton
      {...flag}
      className={`absolute top-[18px] h-7 min-w-2.5 truncate border-l-2 border-ink pl-1 leading-7 whitespace-nowrap ${hasWords ? 'bg-ground2' : ''}`}
      left={`${(flag.atTick / map.endTick) * 100}%`}
      maxWidth={Math.max(10, roomPx - 3)}
    >
      {hasWords && roomPx > NARROW_PX && (
        <>
          <b>{value}</b> {what !== '' && <span className="text-[12px] text-ink2">{what}</span>}
        </>
      )}
    </FlagButton>
  );
});

/** A note of a small roll: along the time, by key. */
const NoteFlag = memo(function NoteFlag({ low, high, ...flag }: FlagProps & { low: number; high: number }) {
  const { endTick } = useChartNow().map;
  if (flag.cue.kind !== 'note') return null;
  const above = (flag.cue.key - low) / Math.max(1, high - low);
  return (
    <FlagButton
      {...flag}
      className="absolute h-1.5 min-w-1.5 bg-ink before:absolute before:inset-x-0 before:-inset-y-2"
      left={`${(flag.atTick / endTick) * 100}%`}
      width={`${(flag.cue.lengthTicks / endTick) * 100}%`}
      top={20 + (1 - above) * (NOTES_PX - 10)}
    />
  );
});

const yOf = (value: number): number => 18 + (1 - value / 127) * (VALUES_PX - 8) + 4;

/** The ways of controllers, as drawn lines. */
function Ways({ flags }: { flags: readonly Flag[] }) {
  const { map } = useChartNow();
  return (
    <svg
      aria-hidden
      className="pointer-events-none absolute inset-x-0 top-0 w-full"
      style={{ height: VALUES_PX + 18 }}
      viewBox={`0 0 ${map.endTick} ${VALUES_PX + 18}`}
      preserveAspectRatio="none"
    >
      {flags.map(({ key, cue, atTick }) => {
        if (cue.kind !== 'controller' || cue.ramp === null) return null;
        const points = rampPoints({ ...cue.ramp, atTick, value: cue.value }, map);
        const path = points.map(({ tick, value }) => `L ${tick} ${yOf(value)}`).join(' ');
        return (
          <path
            key={key}
            d={`M ${atTick} ${yOf(cue.value)} ${path}`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.5}
            vectorEffect="non-scaling-stroke"
          />
        );
      })}
    </svg>
  );
}

/** The value of a controller, at its height. */
const ValueFlag = memo(function ValueFlag({ roomPx, ...flag }: FlagProps & { roomPx: number }) {
  const { endTick } = useChartNow().map;
  if (flag.cue.kind !== 'controller') return null;
  return (
    <FlagButton
      {...flag}
      className="mono absolute -mt-2.5 flex h-5 items-center gap-1 text-[11px] whitespace-nowrap"
      left={`${(flag.atTick / endTick) * 100}%`}
      top={yOf(flag.cue.value)}
      maxWidth={Math.max(10, roomPx - 2)}
    >
      <span className="size-2 shrink-0 bg-ink" />
      {roomPx > NARROW_VALUE_PX && (
        <span className="truncate bg-ground">
          cc {flag.cue.controller} {flag.cue.value}
        </span>
      )}
    </FlagButton>
  );
});
