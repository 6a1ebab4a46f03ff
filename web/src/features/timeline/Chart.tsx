import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type ReactNode,
  type RefObject,
} from 'react';
import type { Song } from '@rackle/core/show';
import type { Lead, TempoMap } from '@rackle/core/timeline';
import { useHost } from '../../state/hooks';
import { BackingLane } from './BackingLane';
import { CallsLane } from './CallsLane';
import { Lane } from './Lane';
import { LyricsLane } from './LyricsLane';
import { MapLines } from './MapLines';
import { PatchesLane } from './PatchesLane';
import { Playhead } from './Playhead';
import { ProposedCues } from './proposal';
import { chartLayout } from './chartLayout';
import { ChartContext, useTimeline } from './timelineContext';
import type { SongCall } from './useCalls';
import type { CueHands } from './useCueHands';
import type { ChartView } from './useChartView';

const NO_LEADS: readonly Lead[] = [];

/** The song as a long ruled sheet: bars and meter, sections, tempo, the patches as tape, cues in their lanes. */
export function Chart({
  hands,
  view,
  box,
  calls,
}: {
  hands: CueHands;
  view: ChartView;
  calls: readonly SongCall[];
  box: RefObject<HTMLDivElement | null>;
}) {
  const { song, map, names, leads, showTick } = useTimeline();
  const gearLeads = useMemo(() => leads.filter(({ cue }) => cue.kind !== 'recall'), [leads]);
  const chartNow = useMemo(() => ({ map, names, showTick }), [map, names, showTick]);
  const layout = useMemo(() => chartLayout(song), [song]);
  const { from, to, widthPx } = view;
  const seen = useMemo(() => ({ from, to, widthPx }), [from, to, widthPx]);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const fold = useCallback(
    (id: string): void =>
      setFolded((old) => {
        const next = new Set(old);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    [],
  );
  const label = `bars 1 to ${song.map.bars} with ${song.cues.length} cue${song.cues.length === 1 ? '' : 's'}`;
  return (
    <div className="border-y border-ink" role="group" aria-label={label}>
      <div ref={box} className="relative overflow-x-auto overflow-y-hidden" onWheel={view.onWheel}>
        <div className="relative" style={{ width: `${view.zoom * 100}%` }}>
          <Ruler map={map} bars={song.map.bars} view={view} />
          <Sections song={song} map={map} />
          <TempoLine song={song} />
          <ChartContext value={chartNow}>
            <div onKeyDown={hands.onKeyDown}>
              <PatchesLane stretches={layout.stretches} chosen={hands.chosen} hands={hands.flags} view={seen} />
              <CallsLane calls={calls} view={seen} />
              <Band hands={hands} map={map}>
                {layout.lanes.map(({ id, name, flags }) => (
                  <Lane
                    key={id}
                    id={id}
                    name={name}
                    flags={flags}
                    isFolded={folded.has(id)}
                    onFold={fold}
                    leads={id === 'gear' ? gearLeads : NO_LEADS}
                    chosen={hands.chosen}
                    hands={hands.flags}
                    view={seen}
                  />
                ))}
                <div className="h-4" />
              </Band>
              {song.backing.map((part) => (
                <BackingLane
                  key={part.id}
                  part={part}
                  sections={song.sections}
                  isFolded={folded.has(part.id)}
                  onFold={fold}
                  view={seen}
                />
              ))}
              <LyricsLane lyrics={song.lyrics} view={seen} />
            </div>
            <ProposedCues />
          </ChartContext>
          <Playhead view={view} />
        </div>
      </div>
    </div>
  );
}

const share = (tick: number, map: TempoMap): string => `${(tick / map.endTick) * 100}%`;

/** Bars across the top; a press there goes to the nearest one. */
function Ruler({ map, bars, view }: { map: TempoMap; bars: number; view: ChartView }) {
  const { here } = useTimeline();
  const host = useHost();
  const locate = (event: PointerEvent<HTMLDivElement>): void => {
    if (!here || event.button !== 0) return;
    const { left, width } = event.currentTarget.getBoundingClientRect();
    host.post({ type: 'locate', tick: nearestBarTick(map, ((event.clientX - left) / width) * map.endTick) });
  };
  // A number stands at every so many bars that it has room.
  const room = Math.max(1, Math.ceil((bars * 44) / Math.max(1, view.widthPx)));
  const step = room <= 2 ? room : Math.ceil(room / 4) * 4;
  return (
    <>
      <div aria-hidden className="pointer-events-none absolute inset-0">
        {Array.from({ length: Math.ceil(bars / step) }, (_, i) => 1 + i * step).map((bar) => (
          <span
            key={bar}
            className="mono absolute inset-y-0 border-l border-rule pl-1 text-[11px] text-ink2"
            style={{ left: share(map.barTick(bar), map) }}
          >
            {bar}
          </span>
        ))}
      </div>
      <div
        data-testid="bar-ruler"
        title={here ? 'go to a bar' : undefined}
        className="relative h-8"
        onPointerDown={locate}
      />
    </>
  );
}

/** The start of the bar that is nearest to a tick. */
function nearestBarTick(map: TempoMap, tick: number): number {
  const { bar } = map.positionAt(Math.max(0, tick));
  const [from, to] = [map.barTick(bar), map.barTick(bar + 1)];
  return tick - from < to - tick || to >= map.endTick ? from : to;
}

/** Sections as headings, each as wide as it is long. */
function Sections({ song, map }: { song: Song; map: TempoMap }) {
  if (song.sections.length === 0) return null;
  return (
    <ol aria-label="sections" className="relative h-9">
      {song.sections.map(({ id, name, tape, fromTick, toTick, repeats }) => (
        <li
          key={id}
          className="absolute inset-y-0 overflow-hidden border-l-2 border-ink"
          style={{ left: share(fromTick, map), width: share(Math.min(toTick, map.endTick) - fromTick, map) }}
          title={name}
        >
          <span aria-hidden className={`tape tape-${tape} absolute inset-x-0 top-0 h-1`} />
          <span className="named truncate pl-1.5 text-xl leading-9" dir="auto">
            {name}
          </span>
          {repeats !== null && (
            <span className="pl-1 text-[11px] text-ink2">
              as {song.sections.find((section) => section.id === repeats)?.name}
            </span>
          )}
        </li>
      ))}
    </ol>
  );
}

/** Where tempo and meter change. */
function TempoLine({ song }: { song: Song }) {
  const changes = song.map.tempos.length > 1;
  return (
    <div className={`pointer-events-none relative ${changes ? 'h-12' : song.map.meters.length > 1 ? 'h-5' : ''}`}>
      <MapLines song={song} />
    </div>
  );
}

/** Lanes, over which a rectangle can be drawn that takes the cues in it. */
function Band({ hands, map, children }: { hands: CueHands; map: TempoMap; children: ReactNode }) {
  const [drawn, setDrawn] = useState<{ left: number; top: number; width: number; height: number } | null>(null);
  const began = useRef<{ x: number; y: number } | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (drawn === null) return;
    const cancel = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape') return;
      began.current = null;
      setDrawn(null);
    };
    window.addEventListener('keydown', cancel);
    return () => window.removeEventListener('keydown', cancel);
  }, [drawn]);
  const down = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.button !== 0 || (event.target as Element).closest('[data-cue], button') !== null) return;
    began.current = { x: event.clientX, y: event.clientY };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent<HTMLDivElement>): void => {
    const from = began.current;
    if (from === null || box.current === null) return;
    const { left, top } = box.current.getBoundingClientRect();
    setDrawn({
      left: Math.min(from.x, event.clientX) - left,
      top: Math.min(from.y, event.clientY) - top,
      width: Math.abs(event.clientX - from.x),
      height: Math.abs(event.clientY - from.y),
    });
  };
  const up = (event: PointerEvent<HTMLDivElement>): void => {
    const from = began.current;
    began.current = null;
    setDrawn(null);
    if (from === null || box.current === null) return;
    const { left, width } = box.current.getBoundingClientRect();
    const tickAt = (x: number): number => ((x - left) / width) * map.endTick;
    if (Math.abs(event.clientX - from.x) < 4) return hands.select(new Set());
    const [low, high] = [from.y, event.clientY].sort((a, b) => a - b);
    const lanes = [...box.current.querySelectorAll('[data-lane]')]
      .filter((lane) => {
        const { top, bottom } = lane.getBoundingClientRect();
        return bottom >= low && top <= high;
      })
      .map((lane) => lane.getAttribute('data-lane')!);
    hands.selectWithin(
      tickAt(Math.min(from.x, event.clientX)),
      tickAt(Math.max(from.x, event.clientX)),
      lanes,
      event.shiftKey,
    );
  };
  return (
    <div ref={box} className="relative" onPointerDown={down} onPointerMove={move} onPointerUp={up}>
      {children}
      {drawn !== null && (
        <span aria-hidden className="pointer-events-none absolute border border-dashed border-ink" style={drawn} />
      )}
    </div>
  );
}
