import { createContext, use, type PointerEvent } from 'react';
import type { Cue, Song } from '@rackle/core/show';
import type { Lead, TempoMap } from '@rackle/core/timeline';
import type { CueNames } from './cueWords';

/** What every part of the timeline page works with. Made anew with each state of the song, never with the playhead. */
export interface TimelineNow {
  song: Song;
  map: TempoMap;
  names: CueNames;
  /** The song is the one that is played. */
  here: boolean;
  change: (label: string, next: Song, mergeKey?: string) => void;
  showTick: (tick: number) => string;
  readTick: (text: string) => number | null;
  /** Where the playhead stands now; 0 in another song. */
  tickNow: () => number;
  /** Cues that switch outboard gear, and when that is ready. */
  leads: readonly Lead[];
  /** Brings the table of cues up. */
  showCues: () => void;
}

/** What flags say, and where they hang: the same object through edits of cues, so that only what changed is drawn. */
export type ChartNow = Pick<TimelineNow, 'map' | 'names' | 'showTick'>;

/** Which flags are chosen. */
export interface ChosenFlags {
  selected: ReadonlySet<string>;
  /** The cue whose flag the Tab key comes to; arrows lead to the others. */
  entry: string;
}

/** What hands do with flags: always the same object. */
export interface FlagHands {
  onPointerDown(event: PointerEvent<HTMLElement>, cue: Cue): void;
  onPointerMove(event: PointerEvent<HTMLElement>): void;
  onPointerUp(event: PointerEvent<HTMLElement>): void;
  toggle(cue: Cue): void;
}

/** Set by the page. */
export const TimelineContext = createContext<TimelineNow | null>(null);
/** Set by the chart. */
export const ChartContext = createContext<ChartNow | null>(null);

/** @throws Error outside of the timeline page */
export function useTimeline(): TimelineNow {
  const now = use(TimelineContext);
  if (now === null) throw new Error('there is no timeline here');
  return now;
}

/** @throws Error outside of the chart */
export function useChartNow(): ChartNow {
  const now = use(ChartContext);
  if (now === null) throw new Error('there is no chart here');
  return now;
}
