import type { LoadingPicture } from '@rackle/core/loading';
import type { Finding, LevelResult, Looked, MeantFinding, SimulatedFinding } from '@rackle/core/soundcheck';

/** What is computed over the whole show, for all pages. */
export interface Checks {
  findings: Finding[];
  /** What the player has said is meant so. */
  meant: MeantFinding[];
  /** What was looked at, with counts. */
  looked: Looked[];
  /** Roles that tonight's gear does not play, and controls that play two. */
  openRoles: number;
  /** Numbers of the setlist that stand twice. */
  numbersTwice: number;
}

/** Before the first look. */
export const NO_CHECKS: Checks = { findings: [], meant: [], looked: [], openRoles: 0, numbersTwice: 0 };

/** How the evening is to be loaded, and what is wrong with that. */
export interface LoadingChecks {
  picture: LoadingPicture;
  findings: Finding[];
  looked: Looked[];
}

/** What playing every pair of neighbouring recalls has come to. */
export type SimulationState =
  | { state: 'none' }
  | { state: 'running'; done: number; of: number }
  | {
      state: 'done';
      findings: SimulatedFinding[];
      cases: number;
      pairs: number;
      /** The show has been edited since. */
      isStale: boolean;
    };

/** What measuring the levels of the evening has come to. */
export type LevelsState =
  | { state: 'none' }
  | { state: 'running'; done: number; of: number }
  | ({
      state: 'done';
      /** The show has been edited since. */
      isStale: boolean;
    } & LevelResult);
