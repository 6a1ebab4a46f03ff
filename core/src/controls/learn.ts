import type { ControlSource } from '../show';
import { readTrack, type ControlKind, type Reading } from './recognise';
import { Tracks, type HeardMessage } from './tracks';
import { kindInWords, sourceInWords } from './words';

/** What learn has found: the message that matters, what kind of control it seems to be, and what else it could be. */
export interface Learned {
  source: ControlSource;
  kind: ControlKind;
  button: 'momentary' | 'latching';
  reversed: boolean;
  /** How sure, 0–1. */
  sure: number;
  /** What was seen, in words. */
  saw: string;
  /** Further readings, likelier ones first. */
  others: { source: ControlSource; kind: ControlKind; button: 'momentary' | 'latching' }[];
  /** A counting controller's lowest and highest number, as far as seen. */
  counter: { lowest: number; highest: number } | null;
  /** What to know about such a control on stage, or null. */
  advice: string | null;
}

/** How a learn session listens. */
export interface LearnOptions {
  /** Inputs that repeat what another input sends: alias → alias of the one that is listened to. */
  doubles?: ReadonlyMap<string, string>;
}

const KEY_QUIET_MS = 250;

/**
 * Watches one gesture on one control among everything else that comes in, and says which message matters.
 * Clock, active sensing, trembling pedals at rest, a sustain pedal that is held, bank select by itself and other
 * traffic do not count. Feed it with `hear` and ask `found` now and then; it decides nothing before the gesture is
 * over.
 */
export class Learner {
  private readonly tracks = new Tracks();
  private key: { code: string; atMs: number } | null = null;

  constructor(private readonly options: LearnOptions = {}) {}

  hear(message: HeardMessage): void {
    if (message.status < 0xf0) this.tracks.add(message);
  }

  /** A key of the computer, or of a page turner that types like one. */
  hearComputerKey(code: string, atMs: number): void {
    this.key ??= { code, atMs };
  }

  /** Whether a gesture has begun. */
  get isMoving(): boolean {
    return this.key !== null || this.readings().length > 0;
  }

  /** The control that was moved, or null while nothing has been, or the gesture may go on. */
  found(nowMs: number): Learned | null {
    if (this.key !== null) return nowMs < this.key.atMs + KEY_QUIET_MS ? null : learnedKey(this.key.code);
    const readings = this.readings();
    if (readings.length === 0) return null;
    const [best] = readings;
    if (nowMs < best.settledMs) return null;
    const same = readings.filter((other) => other.track === best.track);
    return learned(
      best,
      same.slice(1),
      readings.some(
        (other) => other.track !== best.track && !isSameGesture(other, best) && other.weight >= best.weight - 10,
      ),
    );
  }

  /**
   * All readings, the one that matters most first. The same gesture by a second port counts for the port where it came
   * first.
   */
  private readings(): Reading[] {
    const all = this.tracks.all.flatMap((track) => readTrack(track, this.tracks.all));
    const doubles = this.options.doubles ?? new Map<string, string>();
    const kept = all.filter(
      (one) => !all.some((other) => other.track.port === doubles.get(one.track.port) && isSameGesture(one, other)),
    );
    return kept.sort((a, b) => b.weight - a.weight || a.firstMs - b.firstMs || b.sure - a.sure);
  }
}

const isSameGesture = (a: Reading, b: Reading): boolean =>
  a.track.kind === b.track.kind && a.track.number === b.track.number && a.track.channel === b.track.channel;

const buttonOf = (kind: ControlKind): 'momentary' | 'latching' => (kind === 'latching' ? 'latching' : 'momentary');

function learnedKey(code: string): Learned {
  const source: ControlSource = { kind: 'computerKey', code };
  return {
    source,
    kind: 'computerKey',
    button: 'momentary',
    reversed: false,
    sure: 1,
    saw: sourceInWords(source),
    others: [],
    counter: null,
    advice: null,
  };
}

function learned(best: Reading, others: readonly Reading[], contested: boolean): Learned {
  const { track, kind, source, sure } = best;
  const count = track.events.length;
  return {
    source,
    kind,
    button: buttonOf(kind),
    reversed: best.reversed,
    sure: contested ? Math.min(sure, 0.7) : sure,
    counter: best.counter,
    saw: `${sourceInWords(source)}, ${count === 1 ? 'once' : `${count} messages`}: ${kindInWords(kind)}`,
    others: others.map((other) => ({ source: other.source, kind: other.kind, button: buttonOf(other.kind) })),
    advice: adviceFor(kind),
  };
}

function adviceFor(kind: ControlKind): string | null {
  switch (kind) {
    case 'program':
      return 'If this pedal does not send its number twice in a row, a second press does nothing: put two pedals on the role and step on them in turn, or let its direction count as next and previous.';
    case 'counter':
      return 'It counts by itself: only the direction matters, up for next and down for previous. Its first press after the start sets the reference and does nothing.';
    case 'latching':
      return 'It changes at every press; each change counts as one hit.';
    case 'wheel':
    case 'pressure':
      return 'It is used up by the role, and bends or swells nothing any more, unless it is also passed on.';
    default:
      return null;
  }
}
