import type { Severity } from '@rackle/core/soundcheck';

/** The worst first. */
export const SEVERITY_ORDER: readonly Severity[] = ['willFail', 'mayFail', 'toKnow'];

/** What a player calls it. */
export const SEVERITY_WORDS: Record<Severity, string> = {
  willFail: 'will fail',
  mayFail: 'may fail',
  toKnow: 'to know',
};
