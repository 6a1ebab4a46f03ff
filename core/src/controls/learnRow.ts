import type { RoleSource } from '../show';
import { Learner, type Learned, type LearnOptions } from './learn';
import { sameSource } from './sources';
import type { HeardMessage } from './tracks';

/** What a row of learns has found: the control of its role, or one that plays another role already. */
export type LearnStep =
  /** `from`: the role that it is taken away from. */
  | { kind: 'filled'; role: string; learned: Learned; from: string | null }
  | { kind: 'taken'; role: string; by: string; learned: Learned };

/** A gesture that goes on for so long without a break is still the one that filled the last role. */
const SAME_GESTURE_MS = 350;

/**
 * Learns a row of roles, one after the other: fills one, goes to the next. A control that plays another role already
 * is not taken; it says so and goes on waiting. Pure: it gets messages and times, and keeps no clock.
 */
export class LearnRow {
  private learner: Learner;
  private at = 0;
  readonly filled: { role: string; learned: Learned }[] = [];
  /** What was found last, while it plays another role. */
  private taken: { role: string; by: string; learned: Learned } | null = null;
  /** When each port was heard last. */
  private readonly heardMs = new Map<string, number>();
  /** The port of the role that was filled last, while its gesture may go on. */
  private trailing: string | null = null;

  /** @param inUse sources that play roles already; those of the roles that are learned do not count. */
  constructor(
    readonly roles: readonly string[],
    private readonly inUse: readonly RoleSource[] = [],
    private readonly options: LearnOptions = {},
  ) {
    this.learner = new Learner(options);
  }

  /** The role that is waited for, null when all are filled. */
  get waitsFor(): string | null {
    return this.roles[this.at] ?? null;
  }

  get isMoving(): boolean {
    return this.learner.isMoving;
  }

  hear(message: HeardMessage): void {
    const { port, atMs } = message;
    const lastMs = this.heardMs.get(port) ?? -Infinity;
    this.heardMs.set(port, atMs);
    // One strike fills one role: neither what goes on of it, nor its release, is meant for the next.
    if (this.trailing === port && atMs - lastMs >= SAME_GESTURE_MS) this.trailing = null;
    if (this.trailing === port || this.isRelease(message)) return;
    this.learner.hear(message);
  }

  /** Whether a message lets go of the control that was filled last. */
  private isRelease({ port, status, data1, data2 }: HeardMessage): boolean {
    const source = this.filled.at(-1)?.learned.source;
    if (source === undefined || source.kind === 'computerKey' || source.port !== port || !('number' in source))
      return false;
    if (source.number !== data1) return false;
    const kind = status & 0xf0;
    if (source.kind === 'note') return kind === 0x80 || (kind === 0x90 && data2 === 0);
    return source.kind === 'controller' && kind === 0xb0 && data2 === 0;
  }

  hearComputerKey(code: string, atMs: number): void {
    this.learner.hearComputerKey(code, atMs);
  }

  /** Takes what has been found, if anything has. */
  poll(nowMs: number): LearnStep | null {
    const role = this.waitsFor;
    const learned = role === null ? null : this.learner.found(nowMs);
    if (role === null || learned === null) return null;
    this.learner = new Learner(this.options);
    const by = this.playsAlready(learned);
    this.taken = by === null ? null : { role, by, learned };
    return by === null ? this.fill(role, learned, null) : { kind: 'taken', role, by, learned };
  }

  /** Takes what has been moved at once, without waiting for the end of the gesture. */
  confirm(): LearnStep | null {
    return this.taken === null ? this.poll(Infinity) : this.takeOver();
  }

  /** The control that was found last fills the role, although it plays another one: that one loses it. */
  takeOver(): LearnStep | null {
    const { taken } = this;
    if (taken === null || taken.role !== this.waitsFor) return null;
    this.taken = null;
    return this.fill(taken.role, taken.learned, taken.by);
  }

  private fill(role: string, learned: Learned, from: string | null): LearnStep {
    this.filled.push({ role, learned });
    this.at++;
    this.trailing = 'port' in learned.source ? learned.source.port : null;
    return { kind: 'filled', role, learned, from };
  }

  private playsAlready(learned: Learned): string | null {
    const earlier = this.filled.find((one) => sameSource(one.learned.source, learned.source));
    if (earlier) return earlier.role;
    return (
      this.inUse.find((one) => !this.roles.includes(one.role) && sameSource(one.source, learned.source))?.role ?? null
    );
  }

  /** Leaves the role that is waited for as it is. */
  skip(): void {
    if (this.waitsFor === null) return;
    this.at++;
    this.taken = null;
    this.learner = new Learner(this.options);
  }

  /** Empties the role that was filled last, and waits for it again. @returns its name, or null when there is none. */
  undo(): string | null {
    const last = this.filled.pop();
    if (!last) return null;
    this.at = this.roles.indexOf(last.role);
    this.taken = null;
    this.learner = new Learner(this.options);
    return last.role;
  }
}
