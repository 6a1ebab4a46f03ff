import { LevelCheck, SimulatedCheck, Soundcheck, UNKNOWN_HERE, type SoundcheckInput } from '@rackle/core/soundcheck';
import type { Show } from '@rackle/core/show';
import { unevenShowOf } from './figureShows';
import { cpuMs } from './cpuMs';

/** What looking a long evening over by its rules takes, in ms of CPU. */
export interface SoundcheckFigures {
  /** 200 songs of eight patches, all of them. */
  allMs: number;
  /** The same after an edit of one song: the median. */
  editMs: number;
  findings: number;
  /** Every pair of neighbouring recalls of 100 songs of eight patches played by the engine, s. */
  playedS: number;
  cases: number;
  /** Every step of the same struck for its levels, s, and so many different takes to be rendered. */
  struckS: number;
  takes: number;
}

const SONGS = 200;
const PLAYED_SONGS = 100;
const PATCHES = 8;
const LAYERS = 3;
const EDITS = 21;
const WARM_UP = 3;

const inputOf = (show: Show): SoundcheckInput => ({
  setlist: show.setlists[0],
  gear: show.gearLists[0],
  songs: show.songs,
  instruments: show.instruments,
  here: UNKNOWN_HERE,
});

export function soundcheckFigures(): SoundcheckFigures {
  const show = unevenShowOf(SONGS, PATCHES, LAYERS);
  const input = inputOf(show);
  // First for code that is cold.
  for (let turn = 0; turn < WARM_UP; turn++) new Soundcheck().check(input);
  const kept = new Soundcheck();
  let findings = 0;
  const allMs = cpuMs(() => (findings = kept.check(input).findings.length));
  const edits = Array.from({ length: EDITS }, (_, turn) => {
    const songs = show.songs.map((song, s) =>
      s === turn ? { ...song, patches: song.patches.map((patch) => ({ ...patch, note: `edit ${turn}` })) } : song,
    );
    return cpuMs(() => kept.check({ ...input, songs }));
  });
  const simulated = new SimulatedCheck(inputOf(unevenShowOf(PLAYED_SONGS, PATCHES, LAYERS)));
  const playedS = cpuMs(() => simulated.run(Infinity)) / 1000;
  const { cases } = simulated;
  const levels = new LevelCheck(inputOf(unevenShowOf(PLAYED_SONGS, PATCHES, LAYERS)));
  const struckS = cpuMs(() => levels.record(Infinity)) / 1000;
  return {
    allMs,
    editMs: edits.sort((a, b) => a - b)[EDITS >> 1],
    findings,
    playedS,
    cases,
    struckS,
    takes: levels.takes.size,
  };
}
