import type { AtEnd } from '../compile/compiled';
import type { TrackParts } from './trackPlayer';

/** What the transport acts upon. */
export interface TransportParts extends Pick<TrackParts, 'notes' | 'outboard'> {
  recallAt(position: number, cause: 'cue'): void;
  /** The timeline of an entry has come to its end, and has stopped. */
  ended(atEnd: AtEnd, outside: boolean): void;
}
