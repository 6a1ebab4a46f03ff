import { bodiesOf, everySetlistOf, playedSetlist, type Show } from '@rackle/core/show';
import {
  SEVERITIES,
  SimulatedCheck,
  UNKNOWN_HERE,
  soundcheck,
  type Finding,
  type Severity,
} from '@rackle/core/soundcheck';
import { UsageError, readArguments } from './arguments';
import { readShow } from './files';

const WORDS: Record<Severity, string> = { willFail: 'will fail', mayFail: 'may fail', toKnow: 'to know' };

/** Nothing sounds on the command line. */
const NOT_MEASURED = 'levels not measured: that needs the sound of the application';

/** The engine plays every pair of neighbouring recalls of the setlists, or any two of their steps. */
function simulated(show: Show, setlistId: string | null, all: boolean): { findings: Finding[]; cases: number } {
  const every = everySetlistOf(bodiesOf(show));
  const checks = show.setlists
    .filter(({ id }) => setlistId === null || id === setlistId)
    .map((setlist) => {
      const gear = show.gearLists.find(({ id }) => id === setlist.gearListId) ?? show.gearLists.at(0) ?? null;
      const { songs, instruments } = show;
      const played = playedSetlist(setlist, every);
      const check = new SimulatedCheck({ setlist: played, gear, songs, instruments, here: UNKNOWN_HERE }, all);
      check.run(Infinity);
      return check;
    });
  return {
    findings: checks.flatMap((check) => check.findings()),
    cases: checks.reduce((sum, { cases }) => sum + cases, 0),
  };
}

function print(findings: readonly Finding[], done: readonly string[], meant: number): void {
  for (const { severity, message, where, why, mend } of findings)
    process.stdout.write(`${WORDS[severity]}: ${message}\n    ${where}. ${why}${mend ? ` (${mend.label})` : ''}\n`);
  const counted = SEVERITIES.map(
    (one) => `${findings.filter(({ severity }) => severity === one).length} ${WORDS[one]}`,
  );
  process.stdout.write(`${[...done, ...counted, `${meant} meant so`].join(' · ')}\n`);
}

/**
 * `rackle check SHOW.json [--setlist NAME] [--simulate] [--all-pairs] [--strict] [--json]`: 1 where something will fail,
 * with `--strict` also where something may fail; else 0.
 */
export function checkCommand(words: readonly string[]): number {
  const found = readArguments(words, ['setlist'], ['json', 'strict', 'simulate', 'all-pairs']);
  if (found.positional.length !== 1) throw new UsageError('one show file is needed: rackle check SHOW.json');
  const show = readShow(found.positional[0]);
  const name = found.options.get('setlist');
  const setlist = show.setlists.find((candidate) => candidate.name === name);
  if (name !== undefined && !setlist) throw new UsageError(`there is no setlist "${name}"`);
  const setlistId = setlist?.id ?? null;
  const byRules = soundcheck(show, setlistId);
  const { meant, looked } = byRules;
  const allPairs = found.options.has('all-pairs');
  const played = found.options.has('simulate') || allPairs ? simulated(show, setlistId, allPairs) : null;
  const findings = [...(played?.findings ?? []), ...byRules.findings];
  const result = { ...byRules, findings, notMeasured: ['levels'], ...(played && { cases: played.cases }) };
  if (found.options.has('json')) process.stdout.write(`${JSON.stringify(result, null, 2)}\n`);
  else {
    print(findings, [`${looked.length} rules`, ...(played ? [`${played.cases} cases played`] : [])], meant.length);
    process.stdout.write(`${NOT_MEASURED}\n`);
  }
  const fails = found.options.has('strict') ? ['willFail', 'mayFail'] : ['willFail'];
  return findings.some(({ severity }) => fails.includes(severity)) ? 1 : 0;
}
