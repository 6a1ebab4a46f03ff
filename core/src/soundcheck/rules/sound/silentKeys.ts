import { keyName } from '../../../midi';
import type { InputPort } from '../../../show';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { edgesIn, hears, isPlayedByKeys, keysOf, rowsIn, type Keys, type Row } from '../../sounding';
import { inSong, type Around, type SongTonight, type Step } from '../../tonight';

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

/** Keys that play, and others beside them that do not, are meant so at the ends only, as long as nobody has played them. */
export const silentKeys: SongRule = {
  id: 'silent-keys',
  group: 'sound',
  sure: 'no key falls silent between others that sound, where it was played, or for one patch only, and no velocity between others',
  per: 'song',
  counts: counts.patches,
  find: (song, around) => {
    const switches = switchKeys(around);
    return around.keyboards.flatMap((input) => {
      const keyboard = new KeyboardInSong(input, song, around, switches.get(input.alias));
      return keyboard.steps.flatMap((_, i) => keyboard.findingsAt(i));
    });
  },
};

/** One keyboard, over the steps of a song and what comes before and after it. */
class KeyboardInSong {
  readonly steps: readonly Step[];
  private readonly runs: readonly (readonly Run[])[];

  constructor(
    private readonly input: InputPort,
    { song: own, before, after }: SongTonight,
    private readonly around: Around,
    private readonly switches: ReadonlySet<number> | undefined,
  ) {
    this.steps = own.patches.filter(({ isStep }) => isStep).map((patch) => ({ song: own, patch, shift: 0 }));
    this.runs = [before, ...this.steps, after].map((step) => (step === null ? [] : runsOf(step, input, around)));
  }

  findingsAt(i: number): Found[] {
    const here = this.runs[i + 1];
    if (!here.some(({ sounds }) => sounds)) return [];
    const silent = silentRuns(here).filter((keys) => !isAllSwitches(keys, this.switches));
    return [
      ...silent.flatMap((keys) => this.silent(i, keys)),
      ...here.flatMap(({ low, high, gap }): Found[] =>
        gap === null
          ? []
          : [
              this.found(i, { low, high }, `at ${gap.soft}-${gap.hard}`, {
                message: `${this.nameOf({ low, high })} are silent at velocities ${gap.soft}–${gap.hard}`,
                why: 'Softer and harder strokes sound there.',
              }),
            ],
      ),
    ];
  }

  private silent(i: number, keys: Keys): Found[] {
    const [was, here, next] = this.runs.slice(i, i + 3);
    const sounding = here.filter(({ sounds }) => sounds);
    const isBetween = keys.low > sounding[0].low && keys.high < sounding[sounding.length - 1].high;
    const isForOne = soundsIn(was, keys) && soundsIn(next, keys);
    if (!isBetween && !isForOne) return this.struckIn(i, keys);
    const had = [...this.steps.slice(0, i).reverse(), ...this.steps.slice(i + 1)].find((step) =>
      soundsIn(this.runs[this.steps.indexOf(step) + 1], keys),
    );
    const isOne = keys.low === keys.high;
    return [
      this.found(i, keys, isBetween ? 'between' : 'once', {
        message: this.areSilent(keys),
        why: had
          ? `${had.patch.name} has ${isOne ? 'it' : 'them'}.`
          : isForOne
            ? 'The patches before and after have them.'
            : 'What lies beside them sounds.',
      }),
    ];
  }

  /** At the ends of a patch, where somebody has played. */
  private struckIn(i: number, { low, high }: Keys): Found[] {
    const { song, patch } = this.steps[i];
    const struck = this.around.here.silentStrikes
      .filter(
        (strike) => strike.songId === song.id && strike.patchId === patch.id && strike.device === this.input.device,
      )
      .map(({ key }) => key)
      .filter((key) => key >= low && key <= high);
    if (struck.length === 0) return [];
    const keys = { low: Math.min(...struck), high: Math.max(...struck) };
    return [
      this.found(i, keys, 'struck', {
        message: this.areSilent(keys),
        why: `${keys.low === keys.high ? 'It was' : 'They were'} played there, and nothing sounded.`,
      }),
    ];
  }

  /** The cause is the same for every keyboard on which it is so, wherever its keys end. */
  private found(i: number, { low, high }: Keys, how: string, words: Pick<Found, 'message' | 'why'>): Found {
    const { song, patch } = this.steps[i];
    const ends = keysOf(this.input);
    const [from, to] = [low === ends?.low ? 'end' : low, high === ends?.high ? 'end' : high];
    const place = inSong(song, patch);
    const isOne = this.around.keyboards.length === 1;
    return {
      severity: 'mayFail',
      cause: `${song.id} ${from}-${to} ${how}`,
      place: isOne ? place : { ...place, words: `${place.words} (${this.input.alias})` },
      ...words,
    };
  }

  private areSilent(keys: Keys): string {
    return `${this.nameOf(keys)} ${keys.low === keys.high ? 'is' : 'are'} silent`;
  }

  private nameOf({ low, high }: Keys): string {
    const { middleC } = this.around.setlist;
    return [...new Set([low, high])].map((key) => keyName(key - this.input.keyShift, middleC)).join('–');
  }
}

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
