import type { Setlist } from '../model/setlist';

/** What of a finding says which one it is. */
export interface FoundCause {
  rule: string;
  cause: string;
  places: readonly { words: string }[];
}

/** What is found in a setlist is said to be meant so, everywhere it is found now. */
export const withMeant = (setlist: Setlist, { rule, cause, places }: FoundCause, note: string): Setlist => ({
  ...setlist,
  meant: [
    ...setlist.meant.filter((one) => one.rule !== rule || one.cause !== cause),
    ...[...new Set(places.map(({ words }) => words))].map((place) => ({ rule, cause, place, note })),
  ],
});

/** The same with that taken back. */
export const withoutMeant = (setlist: Setlist, { rule, cause }: FoundCause): Setlist => ({
  ...setlist,
  meant: setlist.meant.filter((one) => one.rule !== rule || one.cause !== cause),
});
