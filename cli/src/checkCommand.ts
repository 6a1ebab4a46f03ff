import { soundcheck } from '@rackle/core/soundcheck';
import { UsageError, readArguments } from './arguments';
import { readShow } from './files';

/** `rackle check SHOW.json [--setlist NAME] [--json]`: 0 nothing wrong, 1 findings that are errors. */
export function checkCommand(words: readonly string[]): number {
  const found = readArguments(words, ['setlist'], ['json']);
  if (found.positional.length !== 1) throw new UsageError('one show file is needed: rackle check SHOW.json');
  const show = readShow(found.positional[0]);
  const name = found.options.get('setlist');
  const setlist = show.setlists.find((candidate) => candidate.name === name);
  if (name !== undefined && !setlist) throw new UsageError(`there is no setlist "${name}"`);
  const findings = soundcheck(show, setlist?.id ?? null);
  if (found.options.has('json')) process.stdout.write(`${JSON.stringify(findings, null, 2)}\n`);
  else if (findings.length === 0) process.stdout.write('Nothing wrong.\n');
  else
    for (const finding of findings)
      process.stdout.write(`${finding.severity}: ${finding.message}\n    ${finding.where}. ${finding.why}\n`);
  return findings.some((finding) => finding.severity === 'error') ? 1 : 0;
}
