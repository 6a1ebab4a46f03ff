import { createContext, use } from 'react';
import type { Song } from '@rackle/core/show';
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

/** Set by the page. */
export const TimelineContext = createContext<TimelineNow | null>(null);

/** @throws Error outside of the timeline page */
export function useTimeline(): TimelineNow {
  const now = use(TimelineContext);
  if (now === null) throw new Error('there is no timeline here');
  return now;
}
