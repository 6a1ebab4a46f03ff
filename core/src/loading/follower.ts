import type { RecallPlace } from './evening';
import { heldAt, type HeldByStep } from './held';

/**
 * Goes along with a plan through the evening, recall by recall: what it has in memory where the evening is, and when the
 * evening goes another way than it, so that it has to be planned anew from there.
 */
export class PlanFollower {
  private plan: HeldByStep | null = null;
  private place: RecallPlace | null = null;
  /** Where in the plan; −1: it does not know of that. */
  private step = -1;
  private keys: ReadonlySet<string> | null = null;
  private jumped = 0;

  /** Keys of what is to be in memory now; null: there is no plan for that. */
  get held(): ReadonlySet<string> | null {
    return this.keys;
  }

  /** How often the evening has gone another way; 0: never. */
  get jumps(): number {
    return this.jumped;
  }

  /** A patch has been recalled. @returns whether that was a jump: not what the plan comes to next */
  goTo(place: RecallPlace): boolean {
    if (this.place !== null && isSame(place, this.place)) return false;
    this.place = { entryId: place.entryId, patchId: place.patchId };
    if (this.plan === null) return false;
    const next = this.next();
    const isNext = this.isAt(next);
    this.stand(isNext ? next : this.first());
    if (!isNext) this.jumped++;
    return !isNext;
  }

  /** Another plan. @returns whether it has to be planned anew from here: it was made for another way here */
  take(plan: HeldByStep | null): boolean {
    const wasAt = this.step;
    this.plan = plan;
    this.stand(this.isAt(wasAt) ? wasAt : this.first());
    if (plan === null || this.place === null) return false;
    if (plan.jump > 0) {
      if (plan.jump <= this.jumped) return false;
      // Of another follower, before this one was there.
      this.jumped = plan.jump + 1;
      return true;
    }
    if (this.jumped > 0) return true;
    // Begun in the midst of an evening, with nothing loaded of what the plan has there.
    const isAmidst = wasAt < 0 && this.step !== 0;
    if (isAmidst) this.jumped = 1;
    return isAmidst;
  }

  /** The same patch may be recalled several times in a row, which nobody notices. */
  private next(): number {
    const steps = this.plan!.steps;
    let next = this.step + 1;
    while (this.step >= 0 && next < steps.length && isSame(steps[next], steps[this.step])) next++;
    return next;
  }

  private first(): number {
    const { plan, place } = this;
    return plan === null || place === null ? -1 : plan.steps.findIndex((step) => isSame(step, place));
  }

  private isAt(step: number): boolean {
    const there = this.plan?.steps[step];
    return there !== undefined && this.place !== null && isSame(there, this.place);
  }

  private stand(step: number): void {
    this.step = step;
    this.keys = this.plan === null || step < 0 ? null : heldAt(this.plan, step);
  }
}

const isSame = (a: RecallPlace, b: RecallPlace): boolean => a.entryId === b.entryId && a.patchId === b.patchId;
