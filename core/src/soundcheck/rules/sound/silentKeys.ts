import { keyName } from '../../../midi';
import type { InputPort, Patch } from '../../../show';
import type { Found, Place } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { edgesIn, hears, isPlayedByKeys, keysOf, rowsIn, type Keys, type Row } from '../../sounding';
import { inSong, type Around, type Step } from '../../tonight';

const LAST_VELOCITY = 127;

/** A run of keys, and the velocities at which nothing sounds between those at which something does. */
interface Run extends Keys {
  sounds: boolean;
  gap: { soft: number; hard: number } | null;
}

/** What sounds where, in the patch of a step, on one keyboard. */
function runsOf({ song, patch }: Step, input: InputPort, around: Around): Run[] {
  const keys = keysOf(input);
  if (keys === null) return [];
  // What is muted or outdone there is told by itself, and no second time for its keys.
  const rows = rowsIn(song, patch, around).filter(
    (row) => isPlayedByKeys(row) && hears(row.part, input) && isUpright(row),
  );
  const edges = edgesIn(keys, rows);
  return edges.slice(0, -1).map((low, i) => {
    const at = rows.filter(({ part: { zone } }) => zone.lowKey <= low && zone.highKey >= low);
    return { low, high: edges[i + 1] - 1, sounds: at.length > 0, gap: gapOf(at) };
  });
}

const isUpright = ({ part: { zone } }: Row): boolean =>
  zone.lowKey <= zone.highKey && zone.lowVelocity <= zone.highVelocity;

/** The first velocities between two at which something sounds. */
function gapOf(rows: readonly Row[]): Run['gap'] {
  const zones = rows.map(({ part }) => part.zone).sort((a, b) => a.lowVelocity - b.lowVelocity);
  let heard = zones.at(0)?.highVelocity ?? LAST_VELOCITY;
  for (const { lowVelocity, highVelocity } of zones) {
    if (lowVelocity > heard + 1) return { soft: heard + 1, hard: lowVelocity - 1 };
    heard = Math.max(heard, highVelocity);
  }
  return null;
}

/** Whether all of some keys sound in a step; what is not there sounds nowhere. */
const soundsIn = (runs: readonly Run[], { low, high }: Keys): boolean =>
  runs.length > 0 && runs.every((run) => run.sounds || run.high < low || run.low > high);

/** Runs beside each other in which nothing sounds, as one. */
function silentRuns(runs: readonly Run[]): Keys[] {
  const silent: Keys[] = [];
  for (const { low, high, sounds } of runs) {
    if (sounds) continue;
    const last = silent.at(-1);
    if (last !== undefined && last.high === low - 1) last.high = high;
    else silent.push({ low, high });
  }
  return silent;
}

/** Keys that play, and others beside them that do not, are meant so at the ends only. */
export const silentKeys: SongRule = {
  id: 'silent-keys',
  group: 'sound',
  sure: 'no key falls silent between others that sound, or for one patch only, and no velocity between others',
  per: 'song',
  counts: counts.patches,
  find({ song, before, after }, around) {
    const steps = song.patches.filter(({ isStep }) => isStep).map((patch) => ({ song, patch, shift: 0 }));
    const switches = switchKeys(around);
    const isOne = around.keyboards.length === 1;
    return around.keyboards.flatMap((input) => {
      const ends = keysOf(input);
      /** The same for every keyboard on which it is so, wherever its keys end. */
      const causeOf = ({ low, high }: Keys): string =>
        `${song.id} ${low === ends?.low ? 'end' : low}-${high === ends?.high ? 'end' : high}`;
      const placeOf = (patch: Patch): Place => {
        const place = inSong(song, patch);
        return isOne ? place : { ...place, words: `${place.words} (${input.alias})` };
      };
      const runs = [before, ...steps, after].map((step) => (step === null ? [] : runsOf(step, input, around)));
      const nameOf = ({ low, high }: Keys): string =>
        [...new Set([low, high])].map((key) => keyName(key - input.keyShift, around.setlist.middleC)).join('–');
      /** At the ends of a patch keys are silent by mistake where somebody has played them. */
      const struckIn = ({ low, high }: Keys, patch: Patch, { alias, keyShift }: InputPort): Found[] => {
        const struck = around.here.silentStrikes
          .filter((strike) => strike.songId === song.id && strike.patchId === patch.id && strike.port === alias)
          .map(({ key }) => key + keyShift)
          .filter((key) => key >= low && key <= high);
        if (struck.length === 0) return [];
        const keys = { low: Math.min(...struck), high: Math.max(...struck) };
        return [
          {
            severity: 'mayFail',
            cause: `${song.id} ${patch.id} struck`,
            place: placeOf(patch),
            message: `${nameOf(keys)} ${keys.low === keys.high ? 'is' : 'are'} silent`,
            why: 'It was played there, and nothing sounded.',
          },
        ];
      };
      return steps.flatMap(({ patch }, i): Found[] => {
        const [was, here, next] = [runs[i], runs[i + 1], runs[i + 2]];
        const sounding = here.filter(({ sounds }) => sounds);
        if (sounding.length === 0) return [];
        const [lowest, highest] = [sounding[0].low, sounding[sounding.length - 1].high];
        const silent = silentRuns(here)
          .filter((keys) => !isAllSwitches(keys, switches.get(input.alias)))
          .flatMap((keys): Found[] => {
            const isBetween = keys.low > lowest && keys.high < highest;
            const isForOne = soundsIn(was, keys) && soundsIn(next, keys);
            if (!isBetween && !isForOne) return struckIn(keys, patch, input);
            const had = [...steps.slice(0, i).reverse(), ...steps.slice(i + 1)].find((step) =>
              soundsIn(runs[steps.indexOf(step) + 1], keys),
            );
            return [
              {
                severity: 'mayFail',
                cause: `${causeOf(keys)} ${isBetween ? 'between' : 'once'}`,
                place: placeOf(patch),
                message: `${nameOf(keys)} ${keys.low === keys.high ? 'is' : 'are'} silent`,
                why: had
                  ? `${had.patch.name} has ${keys.low === keys.high ? 'it' : 'them'}.`
                  : isForOne
                    ? 'The patches before and after have them.'
                    : 'What lies beside them sounds.',
              },
            ];
          });
        const gaps = here.flatMap(({ low, high, gap }): Found[] =>
          gap === null
            ? []
            : [
                {
                  severity: 'mayFail',
                  cause: `${causeOf({ low, high })} at ${gap.soft}-${gap.hard}`,
                  place: placeOf(patch),
                  message: `${nameOf({ low, high })} are silent at velocities ${gap.soft}–${gap.hard}`,
                  why: 'Softer and harder strokes sound there.',
                },
              ],
        );
        return [...silent, ...gaps];
      });
    });
  },
};

/** Keys that are switches, by input: they are not meant to sound. */
function switchKeys({ gear }: Around): ReadonlyMap<string, ReadonlySet<number>> {
  const byInput = new Map<string, Set<number>>();
  for (const { source } of gear.roles)
    if (source.kind === 'note') byInput.set(source.port, (byInput.get(source.port) ?? new Set()).add(source.number));
  return byInput;
}

function isAllSwitches({ low, high }: Keys, switches: ReadonlySet<number> | undefined): boolean {
  if (switches === undefined) return false;
  for (let key = low; key <= high; key++) if (!switches.has(key)) return false;
  return true;
}
