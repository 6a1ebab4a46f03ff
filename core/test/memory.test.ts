import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { HeldNotes, NO_SLOT, HoldState } from '../src/engine/state/heldNotes';
import { Inputs } from '../src/engine/state/inputs';
import { Schedule } from '../src/engine/state/schedule';

describe('the schedule', () => {
  it('gives what is due by time, and among equal times in the order of arrival', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer({ min: 0, max: 20 }), fc.constant('take' as const)), { maxLength: 200 }),
        (steps) => {
          const schedule = new Schedule(256);
          const model: { atMs: number; subject: number }[] = [];
          steps.forEach((step, subject) => {
            if (step !== 'take') {
              expect(schedule.add(step, 1, subject, 0)).toBe(true);
              const later = model.findIndex((entry) => entry.atMs > step);
              model.splice(later < 0 ? model.length : later, 0, { atMs: step, subject });
            } else if (model.length > 0) {
              const next = model.shift()!;
              expect([schedule.nextMs, schedule.nextSubject]).toEqual([next.atMs, next.subject]);
              schedule.drop();
            }
            expect(schedule.size).toBe(model.length);
            expect(schedule.nextMs).toBe(model[0]?.atMs ?? Infinity);
          });
        },
      ),
      { seed: 21, numRuns: 500 },
    );
  });

  it('that is full says so, and keeps what it has', () => {
    const schedule = new Schedule(2);
    expect([schedule.add(2, 1, 0, 0), schedule.add(1, 1, 1, 0), schedule.add(0, 1, 2, 0)]).toEqual([true, true, false]);
    expect(schedule.nextSubject).toBe(1);
  });
});

describe('the held-note table', () => {
  it('keeps every hold on its slot and in the list of active ones, whatever is taken and dropped', () => {
    const stepArb = fc.oneof(
      fc.record({ kind: fc.constant('take' as const), slot: fc.integer({ min: -1, max: 5 }) }),
      fc.record({ kind: fc.constant('drop' as const), which: fc.nat(50) }),
    );
    fc.assert(
      fc.property(fc.array(stepArb, { maxLength: 120 }), (steps) => {
        const holds = new HeldNotes(16);
        const model = new Map<number, number>();
        for (const step of steps) {
          if (step.kind === 'take') {
            const hold = holds.take(
              { slot: step.slot === -1 ? NO_SLOT : step.slot, layer: 3, lane: 7, key: 60, velocity: 90 },
              HoldState.sounding,
            );
            expect(hold < 0).toBe(model.size === 16);
            if (hold >= 0) model.set(hold, step.slot);
          } else if (model.size > 0) {
            const hold = [...model.keys()][step.which % model.size];
            holds.unhang(hold);
            holds.drop(hold);
            model.delete(hold);
          }
          expect(new Set(holds.active.subarray(0, holds.activeCount))).toEqual(new Set(model.keys()));
          for (let slot = 0; slot <= 5; slot++) {
            const hung = [];
            for (let hold = holds.head[slot]; hold >= 0; hold = holds.next(hold)) hung.push(hold);
            expect(new Set(hung)).toEqual(new Set([...model].filter(([, at]) => at === slot).map(([hold]) => hold)));
          }
        }
      }),
      { seed: 22, numRuns: 500 },
    );
  });

  it('keeps key, velocity and state apart', () => {
    const holds = new HeldNotes(4);
    const hold = holds.take({ slot: 9, layer: 5, lane: 6, key: 127, velocity: 127 }, HoldState.sounding);
    holds.setState(hold, HoldState.waitingReleased);
    expect([
      holds.key(hold),
      holds.velocity(hold),
      holds.state(hold),
      holds.layer(hold),
      holds.lane(hold),
      holds.slot(hold),
    ]).toEqual([127, 127, 3, 5, 6, 9]);
  });

  it('tells a hold from an earlier one in the same place', () => {
    const holds = new HeldNotes(1);
    const note = { slot: NO_SLOT, layer: 0, lane: 0, key: 60, velocity: 1 };
    const first = holds.take(note, HoldState.sounding);
    const generation = holds.generation(first);
    holds.drop(first);
    expect(holds.generation(holds.take(note, HoldState.sounding))).not.toBe(generation);
  });
});

describe('what hands and feet did', () => {
  it('knows a pedal as down from 64, in any of the places heard, and not while a panic has swallowed it', () => {
    const inputs = new Inputs();
    const hears = new Uint8Array(1024);
    hears[3] = 1;
    inputs.movePedal(2, 0, 127);
    expect(inputs.pedalValue(hears, 0)).toBe(0);
    inputs.movePedal(3, 0, 64);
    expect([inputs.pedalValue(hears, 0), inputs.pedalValue(hears, 2)]).toEqual([64, 0]);
    inputs.pedalSwallowed[3 * 3] = 1;
    expect(inputs.pedalValue(hears, 0)).toBe(0);
    inputs.movePedal(3, 0, 63);
    inputs.movePedal(3, 0, 100);
    expect([inputs.pedalValue(hears, 0), inputs.downCount]).toEqual([100, 2]);
  });
});
