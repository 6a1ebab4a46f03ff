import type { Effect } from '@rackle/core/show';
import { KnownParam } from '../knownParam';
import { secondsOf } from './delay';
import { NO_TAIL, ofKind, swingS, type EffectCore } from './effectCore';

const CHORUS_DELAY_S = 0.004;
const PHASER_STAGES = 10;
const PHASER_Q = 10;
const PHASER_BASE_HZ = 350;

/** What a wave moves: a parameter, by so much to either side; `against`: the other way round. */
interface Moved {
  amount: GainNode;
  params: readonly AudioParam[];
  against: boolean;
}

/**
 * A low oscillator that runs only while something sounds through it. At rest nothing hangs on the parameters that it
 * moves: a parameter with something connected is reckoned for every sample, also in silence.
 */
class Wave {
  private readonly turned: GainNode;
  private readonly moved: Moved[] = [];
  private oscillator: OscillatorNode | null = null;
  private rate: KnownParam | null = null;
  private hz: number;

  constructor(
    private readonly context: BaseAudioContext,
    hz: number,
  ) {
    this.hz = hz;
    this.turned = context.createGain();
    this.turned.gain.value = -1;
  }

  /** @returns by how much the parameters are moved, in their own unit. */
  moves(params: readonly AudioParam[], by: number, against = false): KnownParam {
    const amount = this.context.createGain();
    this.moved.push({ amount, params, against });
    return new KnownParam(amount.gain, by);
  }

  go(hz: number, rampS: number): void {
    this.hz = hz;
    this.rate?.go(hz, rampS, this.context.currentTime, true);
  }

  wake(): void {
    if (this.oscillator !== null) return;
    this.oscillator = this.context.createOscillator();
    this.rate = new KnownParam(this.oscillator.frequency, this.hz);
    this.oscillator.connect(this.turned);
    for (const { amount, params, against } of this.moved) {
      (against ? this.turned : this.oscillator).connect(amount);
      for (const param of params) amount.connect(param);
    }
    this.oscillator.start();
  }

  rest(): void {
    this.oscillator?.stop();
    this.oscillator?.disconnect();
    this.turned.disconnect();
    for (const { amount } of this.moved) amount.disconnect();
    this.oscillator = null;
    this.rate = null;
  }
}

/** Both sides of a stereo signal apart, and together again. */
function sides(context: BaseAudioContext): { input: GainNode; split: ChannelSplitterNode; merge: ChannelMergerNode } {
  const input = context.createGain();
  input.channelCount = 2;
  input.channelCountMode = 'explicit';
  const split = context.createChannelSplitter(2);
  const merge = context.createChannelMerger(2);
  input.connect(split);
  return { input, split, merge };
}

const SIDES = [0, 1] as const;

/** Two short delays, one a side, that swing against each other. */
export function chorus(context: BaseAudioContext, first: Extract<Effect, { kind: 'chorus' }>): EffectCore {
  const { input, split, merge } = sides(context);
  const wave = new Wave(context, first.rateHz);
  const swing = (depth: number): number => (depth / 100) * CHORUS_DELAY_S;
  const lines = SIDES.map((side) => {
    const line = context.createDelay(1);
    line.delayTime.value = CHORUS_DELAY_S;
    split.connect(line, side).connect(merge, 0, side);
    return { line, depth: wave.moves([line.delayTime], swing(first.depth), side === 1) };
  });
  return {
    input,
    output: merge,
    tailS: () => CHORUS_DELAY_S * 2,
    set: ofKind('chorus', ({ rateHz, depth }, _bpm, rampS) => {
      wave.go(rateHz, rampS);
      for (const side of lines) side.depth.go(swing(depth), swingS(rampS), context.currentTime);
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.rest();
      for (const { line } of lines) line.disconnect();
      for (const node of [input, split, merge]) node.disconnect();
    },
  };
}

/** Ten allpass filters a side, whose frequency swings between 350 Hz and some octaves above it. */
export function phaser(context: BaseAudioContext, first: Extract<Effect, { kind: 'phaser' }>): EffectCore {
  const { input, split, merge } = sides(context);
  const wave = new Wave(context, first.rateHz);
  const reach = (depth: number): number => (PHASER_BASE_HZ * (2 ** (1 + (depth / 100) * 4) - 1)) / 2;
  const series = SIDES.map((side) => {
    const stages = Array.from({ length: PHASER_STAGES }, () => {
      const stage = context.createBiquadFilter();
      stage.type = 'allpass';
      stage.Q.value = PHASER_Q;
      return stage;
    });
    const middles = stages.map(({ frequency }) => new KnownParam(frequency, PHASER_BASE_HZ + reach(first.depth)));
    split.connect(stages[0], side);
    for (let i = 1; i < stages.length; i++) stages[i - 1].connect(stages[i]);
    stages[stages.length - 1].connect(merge, 0, side);
    const frequencies = stages.map(({ frequency }) => frequency);
    return { stages, middles, depth: wave.moves(frequencies, reach(first.depth), side === 1) };
  });
  return {
    input,
    output: merge,
    tailS: () => 0.1,
    set: ofKind('phaser', ({ rateHz, depth }, _bpm, rampS) => {
      const now = context.currentTime;
      wave.go(rateHz, rampS);
      for (const side of series) {
        side.depth.go(reach(depth), swingS(rampS), now);
        for (const middle of side.middles) middle.go(PHASER_BASE_HZ + reach(depth), swingS(rampS), now);
      }
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.rest();
      for (const { stages } of series) for (const stage of stages) stage.disconnect();
      for (const node of [input, split, merge]) node.disconnect();
    },
  };
}

/** The level swings, on both sides alike, between what comes in and less. */
export function tremolo(
  context: BaseAudioContext,
  first: Extract<Effect, { kind: 'tremolo' }>,
  bpm: number,
): EffectCore {
  const rateOf = ({ note, rateHz }: Pick<typeof first, 'note' | 'rateHz'>, nowBpm: number): number =>
    note === null ? rateHz : 1 / secondsOf(note, nowBpm);
  const level = context.createGain();
  const middle = new KnownParam(level.gain, 1 - first.depth / 200);
  const wave = new Wave(context, rateOf(first, bpm));
  const depth = wave.moves([level.gain], first.depth / 200);
  return {
    input: level,
    output: level,
    tailS: NO_TAIL,
    set: ofKind('tremolo', (effect, nowBpm, rampS) => {
      wave.go(rateOf(effect, nowBpm), rampS);
      depth.go(effect.depth / 200, rampS, context.currentTime);
      middle.go(1 - effect.depth / 200, rampS, context.currentTime);
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.rest();
      level.disconnect();
    },
  };
}
