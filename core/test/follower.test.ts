import { describe, expect, it } from '@jest/globals';
import { PlanFollower, type HeldByStep, type RecallPlace } from '../src/loading';

const KEYS = ['piano', 'organ', 'strings'];
/** Steps as "entry patch", each with what is in memory there. */
const planOf = (jump: number, ...steps: [string, number][]): HeldByStep => ({
  jump,
  keys: KEYS,
  steps: steps.map(([place, held]) => ({ ...at(place), held: held.toString(16).padStart(2, '0') }) as never),
});
function at(place: string): RecallPlace {
  const [entryId, patchId] = place.split(' ');
  return { entryId, patchId };
}
const evening = planOf(0, ['a one', 1], ['a two', 2], ['a one', 3], ['a one', 4], ['b one', 5], ['b two', 6]);
const held = (follower: PlanFollower): string[] | null => follower.held && [...follower.held];

describe('whoever follows a plan', () => {
  it('has what it holds at every recall, also of a patch that is recalled twice', () => {
    const follower = new PlanFollower();
    expect(follower.take(evening)).toBe(false);
    expect(follower.held).toBeNull();
    const jumps = ['a one', 'a two', 'a one', 'a one', 'b one', 'b two'].map((place) => follower.goTo(at(place)));
    expect(jumps).not.toContain(true);
    expect(held(follower)).toEqual(['organ', 'strings']);
    const again = new PlanFollower();
    again.take(evening);
    for (const place of ['a one', 'a two', 'a one']) again.goTo(at(place));
    expect(held(again)).toEqual(['piano', 'organ']);
  });

  it('knows a jump, and goes by the plan that is made for it', () => {
    const follower = new PlanFollower();
    follower.take(evening);
    follower.goTo(at('a one'));
    expect(follower.goTo(at('b one'))).toBe(true);
    expect(follower.jumps).toBe(1);
    // Until that plan is there it is the old one's step of the same name.
    expect(held(follower)).toEqual(['piano', 'strings']);
    expect(follower.take(planOf(1, ['b one', 2], ['b two', 3]))).toBe(false);
    expect(held(follower)).toEqual(['organ']);
    expect(follower.goTo(at('b two'))).toBe(false);
    expect(held(follower)).toEqual(['piano', 'organ']);
    // Back is another one, where this plan does not know its way.
    expect(follower.goTo(at('a one'))).toBe(true);
    expect(follower.held).toBeNull();
    expect(follower.jumps).toBe(2);
  });

  it('asks once more when the evening is planned anew after a jump, and not before one', () => {
    const follower = new PlanFollower();
    follower.take(evening);
    follower.goTo(at('a one'));
    expect(follower.take(planOf(0, ['a one', 7], ['b one', 7]))).toBe(false);
    expect(held(follower)).toEqual(KEYS);
    follower.goTo(at('b two'));
    expect(follower.held).toBeNull();
    expect(follower.take(evening)).toBe(true);
    expect(follower.jumps).toBe(1);
    // One that was asked for at the jump before comes late: the next is on its way.
    follower.goTo(at('a two'));
    expect(follower.take(planOf(1, ['b two', 1]))).toBe(false);
    expect(follower.held).toBeNull();
  });

  it('begun in the midst of an evening, asks for a plan from there', () => {
    const follower = new PlanFollower();
    expect(follower.goTo(at('b one'))).toBe(false);
    expect(follower.take(evening)).toBe(true);
    const first = new PlanFollower();
    first.goTo(at('a one'));
    expect(first.take(evening)).toBe(false);
    // A plan of a follower that is gone says nothing of what is in memory now.
    const second = new PlanFollower();
    second.goTo(at('b one'));
    expect(second.take(planOf(3, ['b one', 1]))).toBe(true);
    expect(second.jumps).toBe(4);
    expect(second.take(null)).toBe(false);
    expect(second.held).toBeNull();
  });
});
