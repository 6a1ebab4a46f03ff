import {
  KINDS,
  everySetlistOf,
  bodiesOf,
  playedSetlist,
  showFaults,
  type GearList,
  type Setlist,
  type Show,
} from '../show';
import { SEVERITIES, gathered, type Finding, type Found, type MeantFinding } from './finding';
import { withoutMeantPlaces } from './meant';
import type { Rule, RuleGroup, SongRule } from './rule';
import { RULES, WITHOUT_GEAR } from './rules';
import { faultFound } from './rules/reach/pointsNowhere';
import {
  UNKNOWN_HERE,
  onPage,
  tonightOf,
  type Here,
  type KnownTonight,
  type SongTonight,
  type Step,
  type Tonight,
} from './tonight';

/** What a rule has looked at. */
export interface Looked {
  rule: string;
  group: RuleGroup;
  /** What it makes sure of. */
  sure: string;
  /** How many of what: “41 numbers”. */
  counted: string;
  /** How much of it was not as it should be. */
  found: number;
}

/** What a soundcheck has found, and what it has looked at. */
export interface SoundcheckResult {
  /** The worst first; else in the order of the rules. */
  findings: Finding[];
  /** What the player has said is meant so. */
  meant: MeantFinding[];
  looked: Looked[];
}

/** What is looked over. */
export interface SoundcheckInput {
  /** With what is done in every setlist. */
  setlist: Setlist;
  gear: GearList | null;
  songs: Show['songs'];
  instruments: readonly Show['instruments'][number][];
  here: Here;
}

const NO_GEAR: GearList = { id: 'none', name: 'no gear list', ports: [], roles: [] } as unknown as GearList;

/** What a song was looked at with, and what was found. */
interface Kept {
  around: object;
  song: object;
  shifts: string;
  before: Step | null;
  after: Step | null;
  found: ReadonlyMap<string, Found[]>;
}

/**
 * Looks a setlist over by rules that need no playing. It is kept over edits: what an edit does not touch is not looked at
 * again. Values are told apart by identity.
 */
export class Soundcheck {
  private readonly known: KnownTonight = { around: null, instruments: null };
  private kept = new Map<string, Kept>();

  check({ gear, ...parts }: SoundcheckInput): SoundcheckResult {
    const tonight = tonightOf({ ...parts, gear: gear ?? NO_GEAR }, this.known);
    const rules = gear === null ? RULES.filter(({ id }) => WITHOUT_GEAR.has(id)) : RULES;
    const bySong = this.lookAtSongs(
      tonight,
      rules.filter((rule): rule is SongRule => rule.per === 'song'),
    );
    const all = rules.map((rule) => ({
      rule,
      findings: gathered(
        rule.id,
        rule.per === 'evening' ? rule.find(tonight) : bySong.flatMap(({ found }) => found.get(rule.id) ?? []),
      ),
    }));
    const counted = new Map<Rule['counts'], ReturnType<Rule['counts']>>();
    return {
      ...withoutMeantPlaces(
        all.flatMap(({ findings }) => findings),
        parts.setlist.meant,
      ),
      looked: all.map(({ rule, findings }) => {
        if (!counted.has(rule.counts)) counted.set(rule.counts, rule.counts(tonight));
        const [count, one, many] = counted.get(rule.counts)!;
        return {
          rule: rule.id,
          group: rule.group,
          sure: rule.sure,
          counted: `${count} ${count === 1 ? one : many}`,
          found: findings.length,
        };
      }),
    };
  }

  private lookAtSongs(tonight: Tonight, rules: readonly SongRule[]): Kept[] {
    const { around } = tonight;
    const kept = new Map<string, Kept>();
    for (const song of tonight.songs) {
      const last = this.kept.get(song.song.id);
      const now = last !== undefined && isSame(last, song, around) ? last : look(song, tonight, rules);
      kept.set(song.song.id, now);
    }
    this.kept = kept;
    return [...kept.values()];
  }
}

const sameStep = (a: Step | null, b: Step | null): boolean =>
  a === b || (a !== null && b !== null && a.song === b.song && a.patch === b.patch);

const isSame = (kept: Kept, { song, shifts, before, after }: SongTonight, around: object): boolean =>
  kept.around === around &&
  kept.song === song &&
  kept.shifts === shifts.join() &&
  sameStep(kept.before, before) &&
  sameStep(kept.after, after);

const look = (song: SongTonight, { around }: Tonight, rules: readonly SongRule[]): Kept => ({
  around,
  song: song.song,
  shifts: song.shifts.join(),
  before: song.before,
  after: song.after,
  found: new Map(rules.map((rule) => [rule.id, rule.find(song, around)])),
});

/** What is wrong in what no setlist plays: the library, songs that stand by, ids that stand twice. */
function elsewhere(show: Show): Finding[] {
  const played = new Set(
    show.setlists.flatMap(({ id, entries }) => [
      id as string,
      ...entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])),
    ]),
  );
  return gathered(
    'points-nowhere',
    showFaults(show)
      .filter(({ code, id }) => code === 'twice' || !played.has(id))
      .map((fault) => faultFound(fault, onPage(KINDS[fault.kind].noun, 'setlist'))),
  );
}

/** A show looked over once: all its setlists, or one. */
export function soundcheck(show: Show, setlistId: string | null = null): SoundcheckResult {
  const every = everySetlistOf(bodiesOf(show));
  const results = show.setlists
    .filter(({ id }) => setlistId === null || id === setlistId)
    .map((setlist) =>
      new Soundcheck().check({
        setlist: playedSetlist(setlist, every),
        gear: show.gearLists.find(({ id }) => id === setlist.gearListId) ?? show.gearLists.at(0) ?? null,
        songs: show.songs,
        instruments: show.instruments,
        here: UNKNOWN_HERE,
      }),
    );
  const findings = [...elsewhere(show), ...results.flatMap((result) => result.findings)];
  return {
    findings: SEVERITIES.flatMap((severity) => findings.filter((finding) => finding.severity === severity)),
    meant: results.flatMap(({ meant }) => meant),
    looked: results.flatMap(({ looked }) => looked),
  };
}
