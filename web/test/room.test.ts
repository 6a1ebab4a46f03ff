import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Room, ringSeconds } from '../src/host/audio/effects/room';

const RATE = 44_100;
const BLOCK = 128;

/** What a room answers to an input of so many seconds (null: nothing), block by block. */
function answer(room: Room, input: Float32Array | null, seconds: number): { left: Float32Array; right: Float32Array } {
  const length = Math.ceil((seconds * RATE) / BLOCK) * BLOCK;
  const left = new Float32Array(length);
  const right = new Float32Array(length);
  for (let at = 0; at < length; at += BLOCK) {
    const block = input !== null && at < input.length ? padded(input.subarray(at, at + BLOCK)) : null;
    room.process(block, null, left.subarray(at, at + BLOCK), right.subarray(at, at + BLOCK));
  }
  return { left, right };
}

function padded(samples: Float32Array): Float32Array {
  const block = new Float32Array(BLOCK);
  block.set(samples);
  return block;
}

const click = Float32Array.of(1);
const energyFrom = (samples: Float32Array, at: number): number =>
  samples.subarray(at).reduce((sum, sample) => sum + sample ** 2, 0);

/** RT60 by backward integration (Schroeder): twice the time from −5 to −35 dB. */
function ringOf(samples: Float32Array): number {
  const left = new Float64Array(samples.length + 1);
  for (let i = samples.length - 1; i >= 0; i--) left[i] = left[i + 1] + samples[i] ** 2;
  const when = (db: number): number => left.findIndex((energy) => 10 * Math.log10(energy / left[0]) <= db);
  return (2 * (when(-35) - when(-5))) / RATE;
}

/** Low tones only: high ones die away sooner, as in rooms. */
function low(samples: Float32Array): Float32Array {
  let state = 0;
  return samples.map((sample) => (state += 0.05 * (sample - state)));
}

describe('a room', () => {
  it.each([0.5, 1, 2.6, 6, 12])('of length %d rings for as long as that says, on both sides', (seconds) => {
    const { left, right } = answer(new Room(RATE, seconds, 0.012), click, ringSeconds(seconds) * 1.6 + 0.3);
    for (const side of [left, right]) {
      const ring = ringOf(low(side));
      expect(ring).toBeGreaterThan(ringSeconds(seconds) * 0.85);
      expect(ring).toBeLessThan(ringSeconds(seconds) * 1.15);
    }
  });

  it('answers after its pause, and not alike on both sides', () => {
    const { left, right } = answer(new Room(RATE, 2, 0.02), click, 0.5);
    expect(left.subarray(0, Math.floor(0.02 * RATE)).every((sample) => sample === 0)).toBe(true);
    const together = left.reduce((sum, sample, i) => sum + sample * right[i], 0);
    expect(Math.abs(together)).toBeLessThan(0.3 * Math.sqrt(energyFrom(left, 0) * energyFrom(right, 0)));
  });

  it('soon has so many echoes that none is heard by itself', () => {
    const { left } = answer(new Room(RATE, 2.6, 0.012), click, 0.4);
    const part = left.subarray(Math.floor(0.15 * RATE), Math.floor(0.25 * RATE));
    const sigma = Math.sqrt(energyFrom(part, 0) / part.length);
    // As many samples beyond one sigma as noise has (31.7 %), or nearly.
    const beyond = part.filter((sample) => Math.abs(sample) > sigma).length / part.length;
    expect(beyond).toBeGreaterThan(0.25);
  });

  it('is still once it has died away, and stays at nothing until something comes in', () => {
    const room = new Room(RATE, 0.5, 0.012);
    expect(room.isStill).toBe(true);
    answer(room, click, 0.1);
    expect(room.isStill).toBe(false);
    answer(room, null, 4);
    expect(room.isStill).toBe(true);
    const { left, right } = answer(room, null, 0.1);
    expect([left, right].every((side) => side.every((sample) => sample === 0))).toBe(true);
    expect(energyFrom(answer(room, click, 0.2).left, 0)).toBeGreaterThan(0);
  });

  it('glides to another length without a jump', () => {
    const tone = Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 220 * i) / RATE));
    const roughest = (samples: Float32Array): number =>
      samples.reduce(
        (most, s, i) => (i < 2 ? most : Math.max(most, Math.abs(s - 2 * samples[i - 1] + samples[i - 2]))),
        0,
      );
    const room = new Room(RATE, 6, 0.012);
    const before = answer(room, tone, 0.5).left;
    const steady = roughest(before.subarray(RATE * 0.2));
    room.setSeconds(0.3);
    expect(roughest(answer(room, tone.subarray(before.length), 0.2).left)).toBeLessThan(steady * 2);
  });

  it('stays finite and bounded, whatever goes in and whatever it is set to', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ seconds: fc.double({ min: 0.2, max: 12, noNaN: true }), seed: fc.nat(1000) }), {
          minLength: 1,
          maxLength: 6,
        }),
        (steps) => {
          const room = new Room(RATE, steps[0].seconds, 0.012);
          for (const { seconds, seed } of steps) {
            room.setSeconds(seconds);
            const noise = Float32Array.from({ length: 4096 }, (_, i) => Math.sin((i + 1) * (seed + 1) * 12.9898));
            const { left, right } = answer(room, noise, 0.1);
            for (const side of [left, right])
              expect(side.every((sample) => Number.isFinite(sample) && Math.abs(sample) < 20)).toBe(true);
          }
        },
      ),
      { seed: 31, numRuns: 40 },
    );
  });
});
