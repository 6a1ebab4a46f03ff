import type { JumpAt, LastPlace, PlayedShowParts } from '@rackle/core/engine';
import type { Audition, ShowNews } from '@rackle/core/show';
import type { EntryMessage, PlainAction } from '@rackle/core/show';
import type { HeldByStep } from '@rackle/core/loading';
import type { LevelTake } from '@rackle/core/soundcheck';
import type { BenchGesture } from './bench';

/** So much memory sounds may take, before anybody has said how much. */
export const USUAL_BUDGET_MB = 1500;

/** A difference between the levels of neighbours that is told, before anybody has said which, in LU. */
export const USUAL_JUMP_LU = 6;

/** What the player says of memory on this machine. */
export interface MemoryWishes {
  budgetMb: number;
  /** Stay in memory all evening. */
  pins: readonly { instrumentId: string; presetId: string }[];
}

/** From a page to the host. Plain and serialisable; none carries a time, the host stamps them as they come. */
export type HostCommand =
  /** The whole show, and where the set was left. Its number is the first of the changes that follow. */
  | {
      type: 'show';
      number: number;
      show: PlayedShowParts;
      setlistId: string | null;
      place: LastPlace | null;
      /** The host before this one has stopped without a word: whatever sounds at the gear is ended first. */
      afterCrash: boolean;
    }
  /** What an edit has changed; numbers follow one another, else the host asks for the whole show. */
  | ({ type: 'changed'; number: number; setlistId: string | null } & ShowNews)
  /** Tries a sound in the place of a layer's own; null ends that. */
  | { type: 'audition'; audition: Audition | null }
  | { type: 'recall'; position: number }
  | { type: 'perform'; action: PlainAction }
  /** A hand on the page plays a role of the present patch: to a share of its range, or (null) a press. */
  | { type: 'role'; role: string; share: number | null }
  /** A hand on the page moves the level of a layer of the present patch. */
  | { type: 'fader'; layerId: string; levelDb: number }
  | { type: 'cursor'; position: number }
  | { type: 'locate'; tick: number }
  /** Plays a stretch of the present song over and over; null: on to the end. */
  | { type: 'loop'; range: { fromTick: number; toTick: number } | null }
  /** Goes on at another tick once the beat, bar or section has ended; null takes that back. */
  | { type: 'jump'; toTick: number | null; at: JumpAt }
  | { type: 'startSound' }
  | { type: 'connectMidi' }
  | { type: 'bench'; gesture: BenchGesture }
  | { type: 'watch'; monitor: boolean; meters: boolean }
  /** Waits for controls for these roles, one after the other; an empty list ends it. */
  | { type: 'learn'; roles: string[] }
  | { type: 'learnUndo' }
  | { type: 'learnSkip' }
  /** What was moved is meant, and there is nothing more to wait for; of a control that another role has: it is taken over. */
  | { type: 'learnConfirm' }
  | { type: 'computerKey'; code: string; down: boolean }
  /** How much of this machine's memory sounds may take, and how the evening is planned with it; null: not planned yet. */
  | ({ type: 'memory'; held: HeldByStep | null } & MemoryWishes)
  /** Plays a tone through an output of the gear list, or (null) ends it. */
  | { type: 'testTone'; output: string | null }
  /** Selects an address on outboard gear at once, to hear it; the next recall selects what belongs there. */
  | {
      type: 'tryName';
      port: string;
      channel: number;
      msb: number | null;
      lsb: number | null;
      program: number | null;
      also: EntryMessage[];
    }
  /** Says where an instrument that is stepped by counting stands. */
  | { type: 'setCount'; instrumentId: string; count: number }
  | { type: 'askFigures' }
  /** Renders a take unheard, once nothing sounds. */
  | { type: 'renderTake'; number: number; take: LevelTake }
  /** The page is not looked at any more: whatever is held through it goes up. */
  | { type: 'letGo' }
  | { type: 'ping'; number: number };
