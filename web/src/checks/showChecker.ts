import { openRoles, sourceConflicts } from '@rackle/core/controls';
import { PlayedShow, type PlayedShowParts } from '@rackle/core/engine';
import { BYTES_IN_MB, type LayerSound, type Setlist, type ShowNews, type Song } from '@rackle/core/show';
import { programConflicts } from '@rackle/core/programs';
import { momentaryLufs, truePeakDb, type Stereo } from '@rackle/core/loudness';
import {
  LevelCheck,
  SimulatedCheck,
  Soundcheck,
  UNKNOWN_HERE,
  loadingFindings,
  type CaseRoll,
  type FailedCase,
  type Here,
  type LevelMeasured,
  type PlayedKey,
  type SimulatedProgress,
} from '@rackle/core/soundcheck';
import {
  LoadingPictures,
  asMeasured,
  estimatedParts,
  heldFrom,
  type EveningOptions,
  type HeldByStep,
  type Jump,
} from '@rackle/core/loading';
import type { LoadTimes } from '../live/loadTimes';
import type { MemoryWishes } from '../protocol';
import type { KeptLevels } from './keptLevels';
import type { LevelChecker, Levels, NamedTake } from './leveling';
import type { Simulated, Simulator } from './simulating';
import type { Checker } from './feedChecks';
import { NO_CHECKS, type Checks, type LoadingChecks } from './checks';

/** So many cases are played before somebody else has a turn. */
const CASES_AT_ONCE = 40;
const TELLS_EVERY_MS = 150;
/** So many steps are struck for their levels before somebody else has a turn. */
const STEPS_AT_ONCE = 20;

/** What loading is planned with. */
interface PlannedWith {
  setlist: Setlist;
  songs: Readonly<Record<string, Song>>;
  options: EveningOptions;
}

/** Takes that were recorded, and what of the show they were recorded from. */
interface Recorded {
  check: LevelCheck;
  of: readonly unknown[];
  /** Not all of it was measured. */
  isPartial: boolean;
}

/** Keeps the show as it is, by what edits change, and looks it over when it is asked. */
export class ShowChecker implements Checker, Simulator, LevelChecker {
  private readonly show = new PlayedShow();
  private readonly soundcheck = new Soundcheck();
  private readonly pictures = new LoadingPictures();
  private here: Here = UNKNOWN_HERE;
  /** The one that runs, or ran last. */
  private simulation: SimulatedCheck | null = null;
  /** The takes that were recorded last, and of which state of the show. */
  private recorded: Recorded | null = null;
  /** By take, over all edits and visits. */
  private readonly measured = new Map<string, LevelMeasured>();
  private remembered: Promise<void> | null = null;

  /** @param kept null: what is measured is forgotten with this one */
  constructor(private readonly kept: KeptLevels | null = null) {}

  start(show: PlayedShowParts, setlistId: string | null): void {
    this.show.start(show, setlistId);
  }

  take(news: ShowNews, setlistId: string | null): void {
    this.show.take(news);
    this.show.choose(setlistId);
  }

  learn(here: Here): void {
    this.here = here;
  }

  check(): Checks {
    const { setlist, gear, songs, instruments } = this.show;
    if (setlist === null) return NO_CHECKS;
    const byId = Object.fromEntries(songs.map((song) => [song.id, song]));
    return {
      ...this.soundcheck.check({ setlist, gear, songs, instruments, here: this.here }),
      openRoles: gear === null ? 0 : openRoles(setlist, byId, gear).length + sourceConflicts(gear.roles).length,
      numbersTwice: programConflicts(setlist.programs).length,
    };
  }

  /** How the evening is to be loaded, by what is known of its sounds; null: there is none. */
  plan(wishes: MemoryWishes, loads: LoadTimes = {}): LoadingChecks | null {
    const evening = this.evening(wishes, loads);
    if (evening === null) return null;
    const { setlist, songs, options } = evening;
    const picture = this.pictures.of(setlist, songs, options);
    return { picture, ...loadingFindings(picture, setlist, songs) };
  }

  /** What the rest of the evening has in memory after a jump; null: it is not where that led to. */
  planFrom(jump: Jump, wishes: MemoryWishes, loads: LoadTimes): HeldByStep | null {
    const evening = this.evening(wishes, loads);
    return evening && heldFrom(evening.setlist, evening.songs, evening.options, jump);
  }

  private evening({ budgetMb, pins }: MemoryWishes, loads: LoadTimes): PlannedWith | null {
    const { setlist, songs, instruments } = this.show;
    if (setlist === null) return null;
    const stored = new Map(instruments.map((instrument) => [instrument.id as string, instrument]));
    const partsOf = (sound: MemoryWishes['pins'][number]) =>
      asMeasured(
        estimatedParts(sound as LayerSound, (id) => stored.get(id)),
        loads,
      );
    const options = {
      budgetBytes: budgetMb * BYTES_IN_MB,
      parallel: 1,
      beforeMs: Infinity,
      pinned: new Set(pins.flatMap((sound) => partsOf(sound).map(({ key }) => key))),
      partsOf,
    };
    return { setlist, songs: Object.fromEntries(songs.map((song) => [song.id, song])), options };
  }

  /** Has the engine play every pair of recalls; in between, whoever calls it off is heard. */
  async simulate(all: boolean, onProgress: (progress: SimulatedProgress) => unknown): Promise<Simulated> {
    const { setlist, gear, songs, instruments } = this.show;
    this.simulation = null;
    if (setlist === null || gear === null) return null;
    const simulation = new SimulatedCheck({ setlist, gear, songs, instruments, here: this.here }, all);
    this.simulation = simulation;
    for (let toldMs = -Infinity; !simulation.isDone;) {
      simulation.run(CASES_AT_ONCE);
      if (performance.now() - toldMs > TELLS_EVERY_MS) {
        toldMs = performance.now();
        void onProgress(simulation.progress);
      }
      await new Promise((resolve) => setTimeout(resolve));
      if (this.simulation !== simulation) return null;
    }
    const { cases } = simulation;
    return { findings: simulation.findings(), cases, pairs: simulation.pairs.length };
  }

  callOff(): void {
    this.simulation = null;
  }

  roll(of: FailedCase): CaseRoll | null {
    return this.simulation?.roll(of) ?? null;
  }

  async recordTakes(played: readonly PlayedKey[]): Promise<NamedTake[] | null> {
    this.recorded = await this.record(played);
    if (this.recorded === null) return null;
    return [...this.recorded.check.takes].flatMap(([key, take]) => (this.measured.has(key) ? [] : [{ key, take }]));
  }

  async recall(): Promise<boolean> {
    await this.remember();
    const before = this.recorded;
    const recorded = this.measured.size === 0 ? null : await this.record([]);
    // It may be measured anew meanwhile.
    if (recorded === null || this.recorded !== before) return false;
    const keys = [...recorded.check.takes.keys()];
    const known = keys.filter((key) => this.measured.has(key)).length;
    this.recorded = { ...recorded, isPartial: known < keys.length };
    return known > 0;
  }

  private async record(played: readonly PlayedKey[]): Promise<Recorded | null> {
    await this.remember();
    const { setlist, gear, songs, instruments } = this.show;
    if (setlist === null || gear === null) return null;
    const of = this.heard();
    const check = new LevelCheck({ setlist, gear, songs, instruments, here: this.here }, played);
    while (!check.isRecorded) {
      check.record(STEPS_AT_ONCE);
      await new Promise((resolve) => setTimeout(resolve));
    }
    return { check, of, isPartial: false };
  }

  measure(key: string, sound: Stereo): void {
    const measured = { lufs: momentaryLufs(sound), peakDb: truePeakDb(sound) };
    this.measured.set(key, measured);
    // It is known here in any case.
    void this.kept?.write(key, measured).catch(() => undefined);
  }

  /** What was measured in earlier visits is known from here on. */
  private remember(): Promise<void> {
    this.remembered ??= (this.kept?.read() ?? Promise.resolve(new Map<string, LevelMeasured>())).then(
      (kept) => kept.forEach((measured, key) => this.measured.set(key, measured)),
      () => undefined,
    );
    return this.remembered;
  }

  levels(jumpLu: number): Levels | null {
    if (this.recorded === null) return null;
    const { check, of, isPartial } = this.recorded;
    const now = this.heard();
    const isStale = isPartial || now.length !== of.length || now.some((value, i) => value !== of[i]);
    return { ...check.result(this.measured, jumpLu, this.show.setlist?.meant ?? []), isStale };
  }

  /** All that may be heard of the show: equal as long as nothing of it is edited. */
  private heard(): unknown[] {
    const { setlist, gear, songs, instruments } = this.show;
    // What is meant so sounds no different.
    return [JSON.stringify({ ...setlist, meant: [] }), gear, ...songs, ...instruments];
  }
}
