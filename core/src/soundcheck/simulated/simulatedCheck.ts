import { Simulation } from '../../simulate';
import type { SoundcheckInput } from '../soundcheck';
import { playingOrder } from '../../show';
import { gathered, type Finding, type Found } from '../finding';
import { inSong, tonightOf, type Tonight } from '../tonight';
import { CaseRunner, type CaseRoll, type Failure } from './caseRun';
import { pairsOf, stopsIn, type Pair } from './pairs';
import { stimuliOf, type Stimulus } from './stimuli';

/** How far a simulated soundcheck has got. */
export interface SimulatedProgress {
  done: number;
  of: number;
}

/** A case that failed: enough to play it again. */
export interface FailedCase {
  from: number;
  to: number;
  stimulus: string;
}

/** A finding of the simulation, with the cases in which it showed. */
export interface SimulatedFinding extends Finding {
  cases: FailedCase[];
}

const MOST_CASES = 20;

const SAID: Record<Failure['kind'], (about: string) => [message: string, why: string]> = {
  stuck: (about) => [`${about} goes on sounding`, 'Ten seconds after every key and pedal is up it still sounds.'],
  elsewhere: (about) => [`${about} does not come`, 'The engine stands on another patch afterwards.'],
  cut: (about) => [`a held note of ${about} is cut off`, 'It was to go on over the recall, with its key still down.'],
  silent: (about) => [`${about} is silent`, 'A key in its zone is struck, and nothing of it sounds.'],
  late: (about) => [`${about} comes late`, 'It sounds more than 10 ms after its key.'],
  bent: (about) => [`${about} stays out of tune`, 'The wheel is at rest, and its last bend was not.'],
  pedal: (about) => [`the pedal stays down at ${about}`, 'It was let go of, and that was not sent.'],
  program: (about) => [`${about} has not got its preset`, 'After the recall its gear stands on another one.'],
  doubled: (about) => [`a note ends twice at ${about}`, 'Gear that counts presses would end another one.'],
  broken: (about) => [`the engine stops: ${about}`, 'Nothing would sound any more.'],
};

/**
 * The engine itself plays what an evening may bring: every pair of neighbouring recalls in every way of the list. It can be
 * gone through a stretch at a time.
 */
export class SimulatedCheck {
  readonly pairs: readonly Pair[];
  private readonly tonight: Tonight | null;
  private readonly runner: CaseRunner | null;
  private readonly found: Found[] = [];
  private readonly failed = new Map<string, FailedCase[]>();
  private readonly stimuli: readonly Stimulus[];
  private next = 0;
  private played = 0;

  /**
   * @param all any two steps, not only neighbours
   * @param simulate the engine with the show in it
   */
  constructor(
    { gear, ...parts }: SoundcheckInput,
    all = false,
    simulate: (...of: ConstructorParameters<typeof Simulation>) => Simulation = (...of) => new Simulation(...of),
  ) {
    this.tonight = gear === null ? null : tonightOf({ ...parts, gear }, { around: null, instruments: null });
    this.pairs = this.tonight === null ? [] : pairsOf(parts.setlist, this.tonight.byId, all);
    this.stimuli = this.tonight === null ? [] : stimuliOf(this.tonight.around);
    const show = { songs: parts.songs, instruments: parts.instruments };
    this.runner =
      this.tonight === null
        ? null
        : new CaseRunner(
            simulate({ songs: [...show.songs], instruments: [...show.instruments] }, parts.setlist, gear, {
              records: false,
            }),
            this.tonight,
            stopsIn(playingOrder(parts.setlist, this.tonight.byId)),
          );
  }

  get progress(): SimulatedProgress {
    return { done: this.next, of: this.pairs.length * this.stimuli.length };
  }

  /** So many cases could be done, and were played. */
  get cases(): number {
    return this.played;
  }

  get isDone(): boolean {
    return this.next >= this.pairs.length * this.stimuli.length;
  }

  /** Goes on by so many cases. */
  run(count: number): void {
    for (let i = 0; i < count && !this.isDone; i++, this.next++) {
      const { stimuli } = this;
      const pair = this.pairs[Math.floor(this.next / stimuli.length)];
      const stimulus = stimuli[this.next % stimuli.length];
      const failures = this.runner!.run(pair, stimulus);
      if (failures === null) continue;
      this.played++;
      for (const failure of failures) this.note(failure, pair, stimulus);
    }
  }

  /** What has been found so far, worst first. */
  findings(): SimulatedFinding[] {
    return gathered('simulation', this.found).map((finding) => ({
      ...finding,
      cases: (this.failed.get(finding.cause) ?? []).slice(0, MOST_CASES),
    }));
  }

  /** Plays a case once more. @returns everything that was sent */
  roll({ from, to, stimulus }: FailedCase): CaseRoll | null {
    const pair = this.pairs.find((one) => one.from.position === from && one.to.position === to);
    const how = this.stimuli.find(({ id }) => id === stimulus);
    if (pair === undefined || how === undefined || this.runner === null) return null;
    const roll: CaseRoll = { done: [], sent: [] };
    this.runner.run(pair, how, roll);
    return roll;
  }

  private note({ kind, about }: Failure, { from, to }: Pair, stimulus: Stimulus): void {
    const [message, why] = SAID[kind](about);
    const cause = kind === 'broken' ? `${kind} ${about}` : `${kind} ${to.song.id} ${about}`;
    const place = inSong(to.song, to.patch);
    const where = `${placeWords(from)} to ${placeWords(to)} ${stimulus.words}`;
    this.found.push({ severity: 'willFail', cause, place: { ...place, words: where }, message, why });
    this.failed.set(cause, [
      ...(this.failed.get(cause) ?? []),
      { from: from.position, to: to.position, stimulus: stimulus.id },
    ]);
  }
}

const placeWords = ({ song, patch, blend }: Pair['from']): string =>
  [song.name, patch.name, ...(blend ? [blend.name] : [])].join(', ');
