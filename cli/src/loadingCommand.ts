import { chooseSetlist } from '@rackle/core/dryRun';
import { estimatedParts, eveningOf, jumpWaits, planLoading, type Evening, type LoadPlan } from '@rackle/core/loading';
import { BYTES_IN_MB as MB } from '@rackle/core/show';
import { UsageError, readArguments, required, type Arguments } from './arguments';
import { readShow } from './files';

const BUDGET_MB = 800;
const PARALLEL = 2;

function wholeNumber(found: Arguments, option: string, otherwise: number): number {
  const text = found.options.get(option);
  if (text === undefined) return otherwise;
  if (!/^\d{1,6}$/.test(text) || Number(text) < 1) throw new UsageError(`--${option} is a whole number from 1 on`);
  return Number(text);
}

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;

/** A line a song: what is in memory at most, how long its recalls wait. */
function songLines(evening: Evening, plan: LoadPlan, nameOf: (entryId: string) => string): string[] {
  const entries = [...new Set(evening.places.map(({ entryId }) => entryId))];
  return entries.map((entryId) => {
    const stops = plan.stops.filter((_, i) => evening.places[i].entryId === entryId);
    const waits = stops.filter(({ waitMs }) => waitMs > 0);
    const loads = stops.reduce((sum, stop) => sum + stop.loads.length, 0);
    const most = Math.max(...stops.map(({ bytes }) => bytes)) / MB;
    return [
      nameOf(entryId),
      `${most.toFixed(0)} MB`,
      loads === 0 ? 'nothing to load' : `loads ${loads}`,
      waits.length === 0 ? 'no wait' : `waits ${waits.map(({ waitMs }) => seconds(waitMs)).join(', ')}`,
      ...(stops.some(({ isOver }) => isOver) ? ['more than the budget holds'] : []),
    ].join(' · ');
  });
}

/**
 * `rackle loading SHOW.json --setlist NAME [--budget MB] [--parallel N] [--json]`: what is in memory when, by estimated
 * times. 0: nobody waits, and all of it fits; else 1.
 */
export function loadingCommand(words: readonly string[]): number {
  const found = readArguments(words, ['setlist', 'budget', 'parallel'], ['json']);
  if (found.positional.length !== 1)
    throw new UsageError('one show file is needed: rackle loading SHOW.json --setlist NAME');
  const show = readShow(found.positional[0]);
  const chosen = chooseSetlist(show, required(found, 'setlist'), null);
  if (!chosen.ok) throw new UsageError(chosen.error.message);
  const { setlist } = chosen.value;
  const instruments = new Map(show.instruments.map((instrument) => [instrument.id as string, instrument]));
  const songs = Object.fromEntries(show.songs.map((song) => [song.id, song]));
  const evening = eveningOf(setlist, songs, {
    budgetBytes: wholeNumber(found, 'budget', BUDGET_MB) * MB,
    parallel: wholeNumber(found, 'parallel', PARALLEL),
    beforeMs: Infinity,
    pinned: new Set(),
    partsOf: (sound) => estimatedParts(sound, (id) => instruments.get(id)),
  });
  const plan = planLoading(evening.task);
  if (found.options.has('json')) process.stdout.write(`${JSON.stringify({ ...evening, plan }, null, 2)}\n`);
  else {
    const entryNames = new Map(
      setlist.entries.map((entry) => [
        entry.id as string,
        entry.kind === 'song' ? songs[entry.songId]?.name : entry.name,
      ]),
    );
    const jumps = jumpWaits(evening.task, plan);
    const worstJumpMs = Math.max(0, ...jumps.atBeginning.flat(), ...jumps.atEnd.flat());
    const { worstMs, totalMs, peakBytes } = plan.cost;
    process.stdout.write(
      `${[
        ...songLines(evening, plan, (entryId) => entryNames.get(entryId) ?? entryId),
        `at most ${(peakBytes / MB).toFixed(0)} MB · ${totalMs === 0 ? 'no wait' : `waits ${seconds(totalMs)} in all, ${seconds(worstMs)} at the worst`} · a jump waits at most ${seconds(worstJumpMs)} (estimated)`,
      ].join('\n')}\n`,
    );
  }
  return plan.cost.totalMs > 0 || plan.stops.some(({ isOver }) => isOver) ? 1 : 0;
}
