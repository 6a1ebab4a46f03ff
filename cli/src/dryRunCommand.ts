import { chooseSetlist, dryRun } from '@rackle/core/dryRun';
import { UsageError, readArguments, required } from './arguments';
import { readPlayed, readShow, writeWhole } from './files';

/**
 * `rackle dry-run SHOW.json --setlist NAME [--gear NAME] [--in PLAYED.mid] [--play "SONG"] --out RESULT.mid
 * [--log LOG.ndjson]`: what is played at the inputs, a song’s timeline, or both from the start.
 */
export function dryRunCommand(words: readonly string[]): number {
  const found = readArguments(words, ['setlist', 'gear', 'in', 'play', 'out', 'log']);
  if (found.positional.length !== 1)
    throw new UsageError(
      'one show file is needed: rackle dry-run SHOW.json --setlist NAME --in PLAYED.mid --out RESULT.mid',
    );
  const [setlistName, output] = ['setlist', 'out'].map((option) => required(found, option));
  const song = found.options.get('play') ?? null;
  const input = song === null ? required(found, 'in') : (found.options.get('in') ?? null);
  const show = readShow(found.positional[0]);
  const chosen = chooseSetlist(show, setlistName, found.options.get('gear') ?? null);
  if (!chosen.ok) throw new UsageError(chosen.error.message);
  const result = dryRun(show, chosen.value.setlist, chosen.value.gear, input === null ? null : readPlayed(input), song);
  if (!result.ok) throw new UsageError(`${input ?? found.positional[0]}: ${result.error.message}`);
  writeWhole(output, result.value.midi);
  const log = found.options.get('log');
  if (log !== undefined) writeWhole(log, result.value.log.map((record) => `${JSON.stringify(record)}\n`).join(''));
  return 0;
}
