import type { RoleSource } from '../show';
import { Learner, type Learned, type LearnOptions } from './learn';
import { sameSource } from './sources';
import type { HeardMessage } from './tracks';

/** What a row of learns has found: the control of its role, or one that plays another role already. */
export type LearnStep =
  { kind: 'filled'; role: string; learned: Learned } | { kind: 'taken'; role: string; by: string; learned: Learned };

/**
 * Learns a row of roles, one after the other: fills one, goes to the next. A control that plays another role already
 * is not taken; it says so and goes on waiting. Pure: it gets messages and times, and keeps no clock.
 */
export class LearnRow {
  private learner: Learner;
  private at = 0;
  readonly filled: { role: string; learned: Learned }[] = [];

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
    this.learner.hear(message);
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
    if (by !== null) return { kind: 'taken', role, by, learned };
    this.filled.push({ role, learned });
    this.at++;
    return { kind: 'filled', role, learned };
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
    this.learner = new Learner(this.options);
  }

  /** Empties the role that was filled last, and waits for it again. @returns its name, or null when there is none. */
  undo(): string | null {
    const last = this.filled.pop();
    if (!last) return null;
    this.at = this.roles.indexOf(last.role);
    this.learner = new Learner(this.options);
    return last.role;
  }
}
