import type { Finding } from '@rackle/core/soundcheck';

/** What is computed over the whole show, for all pages. */
export interface Checks {
  findings: Finding[];
  /** What was looked at, with counts, and what is not looked at yet. */
  checked: string[];
  unchecked: string[];
  /** Roles that tonight's gear does not play, and controls that play two. */
  openRoles: number;
  /** Numbers of the setlist that stand twice. */
  numbersTwice: number;
}

/** Before the first look. */
export const NO_CHECKS: Checks = { findings: [], checked: [], unchecked: [], openRoles: 0, numbersTwice: 0 };
