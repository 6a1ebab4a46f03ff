import { expect, it } from '@jest/globals';
import { Recording } from '@rackle/core/show';
import { recordingAsPreset } from '../src/host/audio/sampled/recordingPreset';
import { SampleVoice } from '../src/host/audio/sampled/sampleVoice';
import type { SampleZone } from '../src/host/audio/sampled/sampledPreset';

/** A block of samples, by which the sound may be further on than a page knows. */
const BLOCK_S = 128 / 44_100;
const NOW_S = 4;

/** A parameter as browsers have it: a curve whose time has begun already begins late, and nothing may lie within it. */
class Param {
  value = 0;
  readonly points: [atS: number, value: number][] = [];
  private readonly curves: [fromS: number, toS: number][] = [];

  private add(atS: number, value: number): this {
    if (this.curves.some(([from, to]) => atS > from && atS < to)) throw new Error('NotSupportedError: overlaps');
    this.points.push([atS, value]);
    return this;
  }

  setValueAtTime(value: number, atS: number): this {
    return this.add(atS, value);
  }

  linearRampToValueAtTime(value: number, atS: number): this {
    return this.add(atS, value);
  }

  exponentialRampToValueAtTime(value: number, atS: number): this {
    return this.add(atS, value);
  }

  setValueCurveAtTime(values: Float32Array, atS: number, lengthS: number): this {
    const from = Math.max(atS, NOW_S + BLOCK_S);
    this.curves.push([from, from + lengthS]);
    return this.add(from, values[values.length - 1]);
  }
}

function soundOf(zone: Partial<SampleZone>): { detune: Param; filter: Param } {
  const detunes: Param[] = [];
  const node = () => {
    const detune = new Param();
    detunes.push(detune);
    return {
      detune,
      gain: new Param(),
      frequency: new Param(),
      Q: new Param(),
      playbackRate: new Param(),
      connect: (to: unknown) => to,
      start: () => undefined,
      stop: () => undefined,
    };
  };
  const context = {
    currentTime: NOW_S,
    createBufferSource: node,
    createGain: node,
    createBiquadFilter: node,
    createOscillator: node,
  };
  const recording = Recording.parse({ id: 'r', name: 'R', file: 'c'.repeat(64), lengthSeconds: 1 });
  const { zones } = recordingAsPreset(recording, [new Float32Array(44_100)], 44_100);
  const surroundings = { context, outputAt: node, bend: node(), shape: { attack: 1, release: 1 } };
  const buffer = { length: 44_100, sampleRate: 44_100 };
  detunes.length = 0;
  new SampleVoice(60, 100, { ...zones[0], ...zone }, buffer as never, surroundings as never, () => undefined);
  // The source is made first; its filter comes after its gain.
  return { detune: detunes[0], filter: detunes[2] };
}

const sweep = {
  delayS: 0,
  attackS: 3,
  holdS: 0,
  decayS: 1,
  releaseS: 1,
  holdCentsPerKey: 0,
  decayCentsPerKey: 0,
  sustain: 0.4,
  pitchCents: -85,
  filterCents: 1200,
};

it('a note whose pitch is swept without a pause at the top starts, though the sound is a block further on by then', () => {
  const { detune, filter } = soundOf({ sweep, filterHz: 800 });
  for (const [param, cents] of [
    [detune, -85],
    [filter, 1200],
  ] as const) {
    expect(param.points[0]).toEqual([NOW_S, 0]);
    expect(param.points.at(-1)![1]).toBeCloseTo(0.4 * cents, 6);
    // Convex: half of the way up it is nearly there, and at the top it is there.
    const at = (s: number): number => param.points.find(([atS]) => atS >= NOW_S + s - 1e-9)![1];
    expect(at(1.5) / cents).toBeCloseTo(1 + (40 / 96) * Math.log10(0.5), 2);
    expect(at(3)).toBeCloseTo(cents, 6);
  }
});

it('however short the way up is, its points come in order', () => {
  for (const attackS of [0, 0.001, 0.02, 0.4, 9]) {
    const { detune } = soundOf({ sweep: { ...sweep, attackS } });
    const times = detune.points.map(([atS]) => atS);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(times.length).toBeLessThan(70);
  }
});
