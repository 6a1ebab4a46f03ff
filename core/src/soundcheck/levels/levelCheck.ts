import { keyName } from '../../midi';
import { LEVEL, playingOrder, type Meant, type Part, type Place, type Song } from '../../show';
import { gathered, type Finding, type Found, type MeantFinding, type Mend } from '../finding';
import { withoutMeantPlaces } from '../meant';
import { actionsIn, isAbout, rowsIn, type Keys } from '../sounding';
import { stopsIn } from '../simulated/pairs';
import type { Strike } from '../simulated/stimuli';
import type { Looked, SoundcheckInput } from '../soundcheck';
import { inSong, tonightOf, type Tonight } from '../tonight';
import { CHORD_VELOCITY, chordIn, stretchesOf, type Stretch } from './stretches';
import { takeKey, type LevelMeasured, type LevelTake } from './take';
import { TakeRecorder } from './takeRecorder';

/** Above this true peak a sound is taken to clip, in dBTP. */
export const CLIPS_DB = -1;
/** Stretches that have fewer keys than this in common are no neighbours. */
const COMMON_KEYS = 12;
const HARDEST = 127;
/** What is meant so is no longer meant when it is so much more. */
const CAUSE_DB = 6;
/** Where each hand is, in a patch of one stretch. */
const HANDS = [0.25, 0.75];
/** Softer than this is silence, and no neighbour of anything, in LUFS. */
const SILENT_LUFS = -60;

/** A key as it was struck, and how hard. */
export interface PlayedKey {
  key: number;
  velocity: number;
}

/** A patch of the evening, with the loudness of its stretches. */
interface Step {
  place: Place;
  stretches: { stretch: Stretch; key: string | null }[];
  /** Of what two hands play as hard as they can, and of what was last played. */
  hands: string[];
}

/** How loud a patch is, for the evening's picture. */
export interface PatchLoudness {
  position: number;
  lufs: number;
}

/** What has been found about levels. */
export interface LevelResult {
  findings: Finding[];
  meant: MeantFinding[];
  looked: Looked[];
  /** In running order, of steps that could be measured. */
  loudness: PatchLoudness[];
}

/**
 * Levels of the evening's patches: what has to be rendered to measure them, and what is said of it. Every step is struck
 * with a chord in each of its stretches at velocity 80, and with two hands at 127.
 */
export class LevelCheck {
  /** What has to be rendered, by `takeKey`: alike sounds once. */
  readonly takes = new Map<string, LevelTake>();
  private readonly tonight: Tonight | null;
  private readonly recorder: TakeRecorder | null;
  private readonly places: readonly Place[];
  private readonly steps: Step[] = [];

  /** @param played keys that were last struck: they are struck in each patch too */
  constructor(
    { gear, ...parts }: SoundcheckInput,
    private readonly played: readonly PlayedKey[] = [],
  ) {
    this.tonight = gear === null ? null : tonightOf({ ...parts, gear }, { around: null, instruments: null });
    this.places = this.tonight === null ? [] : stopsIn(playingOrder(parts.setlist, this.tonight.byId));
    this.recorder =
      gear === null
        ? null
        : new TakeRecorder({ songs: [...parts.songs], instruments: [...parts.instruments] }, parts.setlist, gear);
  }

  /** How many steps are recorded, and how many there are. */
  get progress(): { done: number; of: number } {
    return { done: this.steps.length, of: this.places.length };
  }

  get isRecorded(): boolean {
    return this.steps.length >= this.places.length;
  }

  /** Has the engine play so many further steps. */
  record(count: number): void {
    for (let i = 0; i < count && !this.isRecorded; i++) this.steps.push(this.recorded(this.places[this.steps.length]));
  }

  private recorded(place: Place): Step {
    const stretches = stretchesOf(place, this.tonight!.around);
    const recorder = this.recorder!;
    recorder.recall(place);
    const keep = (strikes: readonly Strike[]): string | null => {
      const take = strikes.length === 0 ? null : recorder.take(strikes);
      if (take === null) return null;
      const key = takeKey(take);
      this.takes.set(key, take);
      return key;
    };
    const measured = stretches.filter(({ isMeasured }) => isMeasured);
    return {
      place,
      stretches: stretches.map((stretch) => ({
        stretch,
        key: stretch.isMeasured ? keep(strikesIn(stretch, chordIn(stretch), CHORD_VELOCITY)) : null,
      })),
      hands: [...handsIn(measured), lastPlayed(measured, this.played)].flatMap((strikes) => keep(strikes) ?? []),
    };
  }

  /**
   * What the levels come to.
   * @param measured by `takeKey`; what is not there was not measured
   * @param jumpLu more than this between the momentary loudness of neighbours is said, in LU
   * @param meant what the player has said is meant so
   */
  result(measured: ReadonlyMap<string, LevelMeasured>, jumpLu: number, meant: readonly Meant[] = []): LevelResult {
    const lufsOf = (key: string | null): number | null => (key === null ? null : (measured.get(key)?.lufs ?? null));
    const jumps = this.steps.slice(1).flatMap((to, i) => this.jumpBetween(this.steps[i], to, jumpLu, lufsOf) ?? []);
    const clips = this.steps.flatMap((step) => this.clipOf(step, measured) ?? []);
    const silent = this.steps.flatMap((step) => this.silentIn(step, lufsOf));
    const all = this.steps.flatMap(({ stretches }) => stretches);
    const struck = this.steps.filter(({ hands }) => hands.some((key) => measured.has(key))).length;
    const done = all.filter(({ key }) => lufsOf(key) !== null).length;
    return {
      ...withoutMeantPlaces(
        [
          ...gathered('sounds-nothing', silent),
          ...gathered('clips', clips),
          ...gathered('level-jump', jumps),
          ...gathered('not-measured', this.notMeasured()),
        ],
        meant,
      ),
      looked: [
        looked('sounds-nothing', 'a chord is heard wherever a layer lies', `${done} stretches of keys`, silent),
        looked('clips', 'two hands at full force do not clip', `${struck} steps`, clips),
        looked('level-jump', `no more than ${jumpLu} LU from step to step`, `${done} stretches of keys`, jumps),
      ],
      loudness: this.steps.flatMap(({ place: { position }, stretches }) => {
        const list = stretches.flatMap(({ key }) => lufsOf(key) ?? []);
        return list.length === 0 ? [] : [{ position, lufs: Math.max(...list) }];
      }),
    };
  }

  /** Stretches whose layers are there, and nothing is heard of them; where a hand may bring them up they wait for it. */
  private silentIn({ place, stretches }: Step, lufsOf: (key: string | null) => number | null): Found[] {
    const { around } = this.tonight!;
    const rows = rowsIn(place.song, place.patch, around);
    const actions = actionsIn(place.song, place.patch, around);
    return stretches.flatMap(({ stretch, key }): Found[] => {
      const lufs = lufsOf(key);
      if (lufs === null || lufs >= SILENT_LUFS) return [];
      const at = rows.filter(({ part: { zone } }) => common(stretch, { low: zone.lowKey, high: zone.highKey }) > 0);
      if (at.some(({ layer }) => actions.some(({ action }) => isAbout(action, layer.id)))) return [];
      const [low, high] = [stretch.low, stretch.high].map((each) =>
        keyName(each - stretch.input.keyShift, around.setlist.middleC),
      );
      const names = at.map(({ layer }) => layer.name).join(', ');
      return [
        {
          severity: 'mayFail',
          cause: `${placeKey(place)} ${stretch.low}-${stretch.high}`,
          place: inSong(place.song, place.patch),
          message: `nothing is heard of ${names} on ${low}–${high} in ${nameOf(place)}`,
          why: 'A chord in the middle was rendered, and is silent: its recordings do not reach there, or its level is at nothing.',
        },
      ];
    });
  }

  /** The largest jump on keys that two steps have in common. */
  private jumpBetween(
    from: Step,
    to: Step,
    jumpLu: number,
    lufsOf: (key: string | null) => number | null,
  ): Found | null {
    let most: { by: number; at: Stretch } | null = null;
    for (const now of to.stretches)
      for (const before of from.stretches) {
        if (!isNeighbour(before.stretch, now.stretch)) continue;
        const [was, is] = [lufsOf(before.key), lufsOf(now.key)];
        if (was === null || is === null || Math.min(was, is) < SILENT_LUFS) continue;
        if (Math.abs(is - was) > Math.abs(most?.by ?? 0)) most = { by: is - was, at: now.stretch };
      }
    if (most === null || Math.abs(most.by) <= jumpLu) return null;
    const { by, at } = most;
    const words = `${Math.abs(by).toFixed(1)} LU ${by > 0 ? 'louder' : 'softer'}`;
    return {
      severity: 'mayFail',
      cause: `${placeKey(from.place)} ${placeKey(to.place)} ${by > 0 ? 'louder' : 'softer'} ${Math.floor(Math.abs(by) / CAUSE_DB)}`,
      place: inSong(to.place.song, to.place.patch),
      message: `${nameOf(to.place)} is ${words} than ${nameOf(from.place, to.place.song)} before it`,
      why: `The same chord, struck as hard, jumps on ${at.input.alias}.`,
      ...mendBy(-by, to.place, at, this.tonight!),
    };
  }

  private clipOf({ place, hands }: Step, measured: ReadonlyMap<string, LevelMeasured>): Found | null {
    const peakDb = Math.max(...hands.map((key) => measured.get(key)?.peakDb ?? -Infinity));
    if (peakDb <= CLIPS_DB) return null;
    const words = `${peakDb >= 0 ? '+' : '−'}${Math.abs(peakDb).toFixed(1)}`;
    return {
      severity: 'mayFail',
      cause: `${placeKey(place)} ${Math.floor(peakDb / CAUSE_DB)}`,
      place: inSong(place.song, place.patch),
      message: `two hands at full force reach ${words} dBTP in ${nameOf(place)}`,
      why: `Above ${String(CLIPS_DB).replace('-', '−')} dBTP the limiter of the output has to hold it down, which is heard.`,
      ...mendBy(Math.floor(CLIPS_DB - peakDb), place, null, this.tonight!),
    };
  }

  private notMeasured(): Found[] {
    return this.steps
      .filter(({ stretches }) => stretches.some(({ stretch }) => !stretch.isMeasured))
      .map(({ place }): Found => ({
        severity: 'toKnow',
        cause: 'outboard',
        place: inSong(place.song, place.patch),
        message: 'levels of outboard gear and of live sound are not measured',
        why: 'What sounds outside of this machine can only be heard: play these steps one after the other.',
      }));
  }
}

const placeKey = ({ song, patch, blend }: Place): string => [song.id, patch.id, ...(blend ? [blend.id] : [])].join(' ');
/** @param within the song is not said again where it is this one */
const nameOf = ({ song, patch, blend }: Place, within: Song = song): string =>
  [...(song.id === within.id ? [] : [song.name]), patch.name, ...(blend ? [blend.name] : [])].join(', ');

const common = (a: Keys, b: Keys): number => Math.min(a.high, b.high) - Math.max(a.low, b.low) + 1;

/** Whether hands that play one of them go on in the other. What only stands beneath is not what they play. */
const isNeighbour = (a: Stretch, b: Stretch): boolean =>
  a.input === b.input && a.hasOwn && b.hasOwn && common(a, b) >= COMMON_KEYS;

const looked = (rule: string, sure: string, counted: string, all: readonly Found[]): Looked => ({
  rule,
  group: 'sound',
  sure,
  counted,
  found: all.length,
});

/** Keys as zones see them, struck where their keyboard has them. */
const strikesIn = ({ input, channel }: Stretch, keys: readonly number[], velocity: number): Strike[] =>
  keys.map((key) => ({ device: input.device, channel, key: key - input.keyShift, velocity }));

/** Two hands on each keyboard: in every two stretches beside each other, or apart in its only one. */
function handsIn(stretches: readonly Stretch[]): Strike[][] {
  const inputs = [...new Set(stretches.map(({ input }) => input))];
  return inputs.flatMap((input) => {
    const list = stretches.filter((stretch) => stretch.input === input);
    return list.length === 1
      ? [HANDS.flatMap((share) => strikesIn(list[0], chordIn(list[0], share), HARDEST))]
      : list.slice(1).map((right, i) => [list[i], right].flatMap((hand) => strikesIn(hand, chordIn(hand), HARDEST)));
  });
}

/** What was last played, as far as the keys of the first keyboard have it. */
function lastPlayed(stretches: readonly Stretch[], played: readonly PlayedKey[]): Strike[] {
  const own = stretches.filter(({ input }) => input === stretches[0].input);
  return played.flatMap(({ key, velocity }) => {
    const at = own.find(({ low, high }) => key >= low && key <= high);
    return at === undefined ? [] : strikesIn(at, [key], velocity);
  });
}

/** Every layer that sounds in some keys of a patch, or (null) in any, turned by so much where all of it can be. */
function mendBy(db: number, { song, patch, blend }: Place, keys: Keys | null, { around }: Tonight): { mend?: Mend } {
  if (blend !== null) return {};
  const by = Math.round(db);
  const rows = rowsIn(song, patch, around).filter(
    ({ part }) => !part.mute && (keys === null || common(keys, { low: part.zone.lowKey, high: part.zone.highKey }) > 0),
  );
  const isOwn = rows.every(({ standsIn }) => standsIn === null);
  const canGo = rows.every(({ part }) => part.levelDb + by >= LEVEL.low && part.levelDb + by <= LEVEL.high);
  if (by === 0 || rows.length === 0 || !isOwn || !canGo) return {};
  return {
    mend: {
      label: `turn it ${by > 0 ? 'up' : 'down'} by ${Math.abs(by)} dB`,
      steps: rows.map(({ part }) => ({
        kind: 'songs' as const,
        id: song.id,
        at: ['patches', { id: patch.id }, 'parts', { layerId: part.layerId }, 'levelDb' satisfies keyof Part],
        was: part.levelDb,
        now: part.levelDb + by,
      })),
    },
  };
}
