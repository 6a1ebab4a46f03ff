import { chooseSetlist, dryRun } from '@rackle/core/dryRun';
import { UsageError, readArguments, required } from './arguments';
import { readPlayed, readShow, writeWhole } from './files';

/** `rackle dry-run SHOW.json --setlist NAME [--gear NAME] --in PLAYED.mid --out RESULT.mid [--log LOG.ndjson]` */
export function dryRunCommand(words: readonly string[]): number {
  const found = readArguments(words, ['setlist', 'gear', 'in', 'out', 'log']);
  if (found.positional.length !== 1)
    throw new UsageError(
      'one show file is needed: rackle dry-run SHOW.json --setlist NAME --in PLAYED.mid --out RESULT.mid',
    );
  const [setlistName, input, output] = ['setlist', 'in', 'out'].map((option) => required(found, option));
  const show = readShow(found.positional[0]);
  const chosen = chooseSetlist(show, setlistName, found.options.get('gear') ?? null);
  if (!chosen.ok) throw new UsageError(chosen.error.message);
  const result = dryRun(show, chosen.value.setlist, chosen.value.gear, readPlayed(input));
  if (!result.ok) throw new UsageError(`${input}: ${result.error.message}`);
  writeWhole(output, result.value.midi);
  const log = found.options.get('log');
  if (log !== undefined) writeWhole(log, result.value.log.map((record) => `${JSON.stringify(record)}\n`).join(''));
  return 0;
}
