import { memo, useMemo } from 'react';
import { songTonight, curfewMinutes, type Setlist, type Song } from '@rackle/core/show';
import { tempoMapOfSong } from '@rackle/core/timeline';
import { useApp, usePlaces } from '../../state/hooks';
import { tapesOf } from '../../state/tapes';
import { clockText } from '../../ui/format';
import { Tape } from '../../ui/Tape';
import type { RowState } from './useRunningOrder';

/** More songs than this are too narrow for the tapes of their patches: each is one block. */
const MOST_WITH_PATCHES = 40;
const TEMPO_HEIGHT = 26;
const LOUDNESS_HEIGHT = 20;
/** Over the tapes, from the line of times. */
const CURFEW_ABOVE = 54;
/** Beside the lowest and highest tempo of the evening. */
const TEMPO_MARGIN = 3;
/** The same of loudness, in LU. */
const LOUDNESS_MARGIN = 1;
const MARK_MINUTES = [5, 10, 15, 30, 60, 120];
const MOST_MARKS = 9;

interface Span {
  id: string;
  name: string;
  kind: 'song' | 'break';
  song: Song | null;
  from: number;
  to: number;
}

interface Props {
  setlist: Pick<Setlist, 'curfew' | 'startsAt'>;
  rows: readonly RowState[];
  overAt: number;
}

/**
 * The evening on a line of time: songs as the tape of their patches, tempo over them, loudness below as far as it has
 * been measured, breaks between, and the curfew.
 */
export const EveningPicture = memo(function EveningPicture({ setlist, rows, overAt }: Props) {
  const spans = useMemo(() => spansOf(rows, overAt), [rows, overAt]);
  const tempo = useMemo(() => tempoLine(spans), [spans]);
  const loudness = useLoudness(spans);
  const curfew = curfewMinutes(setlist);
  const from = spans.at(0)?.from ?? 0;
  const end = Math.max(overAt, curfew ?? 0);
  if (spans.length === 0 || end <= from) return null;
  const at = (minutes: number): string => `${(((minutes - from) / (end - from)) * 100).toFixed(3)}%`;
  const songs = spans.filter(({ kind }) => kind === 'song').length;
  const words = [
    `${songs} songs from ${clockText(from)} to ${clockText(overAt)}`,
    `tempo ${tempo.lowest} to ${tempo.highest}`,
    ...(loudness === null ? [] : [`loudness ${lufsText(loudness.lowest)} to ${lufsText(loudness.highest)} LUFS`]),
  ].join(', ');
  const across = (minutes: number): number => ((minutes - from) / (end - from)) * 1000;
  return (
    <div role="img" aria-label={`the evening: ${words}`} className="no-print relative max-[699px]:hidden">
      <Lines lines={tempo.lines} height={TEMPO_HEIGHT} across={across} />
      <div className="relative h-6 border-b border-ink">
        {spans.map((span) => (
          <Block key={span.id} span={span} left={at(span.from)} right={at(span.to)} plain={songs > MOST_WITH_PATCHES} />
        ))}
        {curfew !== null && (
          <span
            className="absolute -top-2 bottom-0 border-l-2 border-ink"
            style={{ left: `min(${at(curfew)}, 100% - 2px)` }}
          />
        )}
      </div>
      {loudness && <Lines lines={loudness.lines} height={LOUDNESS_HEIGHT} across={across} isDashed />}
      <div className="mono relative h-4 text-[11px] text-ink2">
        {marksOf(from, end).map((minutes) => (
          <span key={minutes} className="absolute -translate-x-1/2" style={{ left: at(minutes) }}>
            {clockText(minutes)}
          </span>
        ))}
        {curfew !== null && (
          <span
            className="absolute right-0 bg-ground pl-1 text-ink"
            style={{ top: -CURFEW_ABOVE - (loudness ? LOUDNESS_HEIGHT : 0) }}
          >
            curfew {clockText(curfew)}
          </span>
        )}
      </div>
      <p className="mono mt-0.5 flex gap-x-5 text-[11px] text-ink2">
        <span>
          <Sample /> {tempo.lowest === tempo.highest ? tempo.lowest : `${tempo.lowest}–${tempo.highest}`} a minute
        </span>
        {loudness ? (
          <span>
            <Sample isDashed /> {lufsText(loudness.lowest)} to {lufsText(loudness.highest)} LUFS
          </span>
        ) : (
          <span>loudness comes once it is measured on Soundcheck</span>
        )}
      </p>
    </div>
  );
});

/** Points in minutes and from 0 to 1, from the bottom up. */
type Line = [minutes: number, y: number][];

function Lines({
  lines,
  height,
  across,
  isDashed = false,
}: {
  lines: readonly Line[];
  height: number;
  across: (minutes: number) => number;
  isDashed?: boolean;
}) {
  return (
    <svg viewBox={`0 0 1000 ${height}`} preserveAspectRatio="none" className="block w-full" style={{ height }}>
      {lines.map((points) => (
        <polyline
          key={points[0].join()}
          points={points.map(([minutes, y]) => `${across(minutes)},${(1 - y) * height}`).join(' ')}
          fill="none"
          stroke="var(--ink2)"
          strokeWidth={1.5}
          strokeDasharray={isDashed ? '3 2' : undefined}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** A piece of a line, beside the words that say what it is. */
const Sample = ({ isDashed = false }: { isDashed?: boolean }) => (
  <span className={`mr-1 inline-block w-5 border-t-2 border-ink2 align-middle ${isDashed ? 'border-dashed' : ''}`} />
);

function Block({ span, left, right, plain }: { span: Span; left: string; right: string; plain: boolean }) {
  const { kind, name, song, from, to } = span;
  const style = { left, width: `calc(${right} - ${left} - 3px)` };
  const title = `${name}, ${clockText(from)} to ${clockText(to)}`;
  if (kind === 'break' || song === null)
    return (
      <span
        title={title}
        className="absolute inset-y-1.5 bg-[repeating-linear-gradient(135deg,var(--rule)_0_1px,transparent_1px_6px)]"
        style={style}
      />
    );
  if (plain) return <span title={title} className="absolute inset-y-0 bg-ink" style={style} />;
  return (
    <span title={title} className="absolute inset-y-0 flex overflow-hidden" style={style}>
      {song.patches.map((patch) => (
        <span key={patch.id} className="flex min-w-0 flex-1">
          {tapesOf(song, patch.id).map((tape, i) => (
            <Tape key={i} tape={tape} className="min-w-0 flex-1" />
          ))}
        </span>
      ))}
    </span>
  );
}

/** Songs that are played and breaks, from their beginnings to what follows. */
function spansOf(rows: readonly RowState[], overAt: number): Span[] {
  return rows.flatMap(({ entry, song, startsAt }, i): Span[] => {
    const to = rows[i + 1]?.startsAt ?? overAt;
    if (to <= startsAt) return [];
    const name = entry.kind === 'break' ? entry.name : (song?.name ?? 'a song');
    const played = song && entry.kind === 'song' ? songTonight(song, entry) : null;
    return [{ id: entry.id, name, kind: entry.kind, song: played, from: startsAt, to }];
  });
}

/** Tempo over the time of each song, in quarters a minute, 0 to 1 between the lowest and highest of the evening. */
function tempoLine(spans: readonly Span[]): { lines: Line[]; lowest: number; highest: number } {
  const songs = spans.flatMap(({ song, from, to }) => (song === null ? [] : [{ song, from, to }]));
  const all = songs.flatMap(({ song }) => song.map.tempos.map(({ bpm }) => bpm));
  const [lowest, highest] = all.length === 0 ? [0, 0] : [Math.min(...all), Math.max(...all)];
  const y = (bpm: number): number => (bpm - lowest + TEMPO_MARGIN) / (highest - lowest + 2 * TEMPO_MARGIN);
  const lines = songs.map(({ song, from, to }) => {
    const map = tempoMapOfSong(song);
    const wholeMs = Math.max(1, map.msAt(map.endTick));
    const points: Line = [];
    song.map.tempos.forEach(({ atTick, bpm, ramp }, i) => {
      const at = from + Math.min(1, map.msAt(atTick) / wholeMs) * (to - from);
      const before = song.map.tempos[i - 1];
      if (before && !before.ramp) points.push([at, y(before.bpm)]);
      points.push([at, y(bpm)]);
      if (i === song.map.tempos.length - 1 && !ramp) points.push([to, y(bpm)]);
    });
    return points;
  });
  return { lines, lowest: Math.round(lowest), highest: Math.round(highest) };
}

const lufsText = (lufs: number): string => `−${Math.abs(lufs).toFixed(0)}`;

/** How loud the loudest stretch of each step is, each for its share of its song; null: nothing was measured. */
function useLoudness(spans: readonly Span[]): { lines: Line[]; lowest: number; highest: number } | null {
  const places = usePlaces();
  const measured = useApp(({ checks }) => (checks.levels.state === 'done' ? checks.levels.loudness : null));
  return useMemo(() => {
    if (measured === null || measured.length === 0) return null;
    const all = measured.map(({ lufs }) => lufs);
    const [lowest, highest] = [Math.min(...all), Math.max(...all)];
    const y = (lufs: number): number => (lufs - lowest + LOUDNESS_MARGIN) / (highest - lowest + 2 * LOUDNESS_MARGIN);
    const entryAt = new Map(places.map(({ position, entry }) => [position, entry.id as string]));
    const lines = spans.flatMap(({ id, from, to }): Line[] => {
      const own = measured.filter(({ position }) => entryAt.get(position) === id);
      const share = (to - from) / Math.max(1, own.length);
      const line = own.flatMap(({ lufs }, i): Line => [
        [from + i * share, y(lufs)],
        [from + (i + 1) * share, y(lufs)],
      ]);
      return line.length === 0 ? [] : [line];
    });
    return lines.length === 0 ? null : { lines, lowest, highest };
  }, [measured, places, spans]);
}

/** Round times within the evening, not too many. */
function marksOf(from: number, end: number): number[] {
  const step = MARK_MINUTES.find((minutes) => (end - from) / minutes <= MOST_MARKS) ?? MARK_MINUTES.at(-1)!;
  const first = Math.ceil(from / step) * step;
  return Array.from({ length: Math.floor((end - first) / step) + 1 }, (_, i) => first + i * step).filter(
    (minutes) => minutes - from > step / 4 && end - minutes > step / 4,
  );
}
