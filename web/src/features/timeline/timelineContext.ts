import { createContext, use, type PointerEvent } from 'react';
import type { Cue, Song } from '@rackle/core/show';
import type { TempoMap } from '@rackle/core/timeline';
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
  /** Brings the table of cues up. */
  showCues: () => void;
}

/** What flags need of the hands on them: the same object while nothing else is chosen, also while a hand drags. */
export interface FlagHands {
  selected: ReadonlySet<string>;
  /** The cue whose flag the Tab key comes to; arrows lead to the others. */
  entry: string;
  onPointerDown(event: PointerEvent<HTMLElement>, cue: Cue): void;
  onPointerMove(event: PointerEvent<HTMLElement>): void;
  onPointerUp(event: PointerEvent<HTMLElement>): void;
  toggle(cue: Cue): void;
}

/** Set by the page. */
export const TimelineContext = createContext<TimelineNow | null>(null);

/** @throws Error outside of the timeline page */
export function useTimeline(): TimelineNow {
  const now = use(TimelineContext);
  if (now === null) throw new Error('there is no timeline here');
  return now;
}
