import type { MendStep, PatchId, SongId } from '../show';

/**
 * How much it matters. `willFail`: certain, in running order, with tonight's gear; `mayFail`: depends on keys, on a jump or
 * on what is not known; `toKnow`: nothing sounds wrong.
 */
export type Severity = 'willFail' | 'mayFail' | 'toKnow';

/** From the worst on. */
export const SEVERITIES: readonly Severity[] = ['willFail', 'mayFail', 'toKnow'];

/** Where a player looks for it: the words of the place, and the page that shows it. */
export interface Place {
  words: string;
  page: 'song' | 'timeline' | 'numbers' | 'gear' | 'sounds' | 'setlist';
  songId: SongId | null;
  patchId: PatchId | null;
}

/** A way out, done as one edit that can be undone. */
export interface Mend {
  /** As a verb: “make it latching”. */
  label: string;
  steps: MendStep[];
}

/** What a rule says of a place, or of several at once. What has the same cause becomes one finding. */
export interface Found {
  severity: Severity;
  /** What is the matter, told apart from others of the rule; changes as soon as the matter does. */
  cause: string;
  place: Place | readonly Place[];
  message: string;
  /** What it means on stage. */
  why: string;
  mend?: Mend;
}

/** One thing that the soundcheck has found, with everywhere it is so. */
export interface Finding {
  severity: Severity;
  /** Name of the rule that found it. */
  rule: string;
  cause: string;
  places: Place[];
  /** The places in words. */
  where: string;
  message: string;
  why: string;
  mend: Mend | null;
}

/** A finding that the player has said is meant so, with the reason. */
export interface MeantFinding {
  finding: Finding;
  note: string;
}

const MOST_PLACES = 6;
/** As much of it as is kept with what is meant so. */
const LONGEST_CAUSE = 600;

/** Places in words: the first of them, and how many more there are. */
export function placesInWords(places: readonly Place[]): string {
  const words = [...new Set(places.map((place) => place.words))];
  const shown = words.slice(0, MOST_PLACES).join(', ');
  return words.length <= MOST_PLACES ? shown : `${shown} and ${words.length - MOST_PLACES} more`;
}

/** Findings of one rule from what it says place by place: one for each cause, in the order in which they came. */
export function gathered(rule: string, found: readonly Found[]): Finding[] {
  const byCause = new Map<string, Found[]>();
  for (const one of found) {
    const same = byCause.get(one.cause);
    if (same === undefined) byCause.set(one.cause, [one]);
    else same.push(one);
  }
  return [...byCause].map(([cause, [first, ...others]]): Finding => {
    const all = [first, ...others];
    const places = all.flatMap(({ place }) => place);
    return {
      severity: SEVERITIES.find((severity) => all.some((one) => one.severity === severity))!,
      rule,
      cause: cause.slice(0, LONGEST_CAUSE),
      places,
      where: placesInWords(places),
      message: first.message,
      why: first.why,
      mend: mendOf(all),
    };
  });
}

/** Only where every place has a way out: then nothing is left of it. */
function mendOf(all: readonly Found[]): Mend | null {
  const mends = all.flatMap(({ mend }) => mend ?? []);
  if (mends.length < all.length) return null;
  const steps = new Map(mends.flatMap((mend) => mend.steps).map((step) => [JSON.stringify(step), step]));
  return { label: mends[0].label, steps: [...steps.values()] };
}
