import type { Effect } from '@rackle/core';
import { KnownParam } from '../knownParam';
import { secondsOf } from './delay';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';

const CHORUS_DELAY_S = 0.004;
const PHASER_STAGES = 10;
const PHASER_Q = 10;
const PHASER_BASE_HZ = 350;

/**
 * A low oscillator that runs only while something sounds through it. `out` swings between −1 and 1, `against` the other
 * way.
 */
class Wave {
  readonly out: GainNode;
  readonly against: GainNode;
  private oscillator: OscillatorNode | null = null;
  private rate: KnownParam | null = null;
  private hz: number;

  constructor(
    private readonly context: BaseAudioContext,
    hz: number,
  ) {
    this.hz = hz;
    this.out = context.createGain();
    this.against = context.createGain();
    this.against.gain.value = -1;
  }

  go(hz: number, rampS: number): void {
    this.hz = hz;
    this.rate?.go(hz, rampS, this.context.currentTime, true);
  }

  wake(): void {
    if (this.oscillator !== null) return;
    this.oscillator = this.context.createOscillator();
    this.rate = new KnownParam(this.oscillator.frequency, this.hz);
    this.oscillator.connect(this.out);
    this.oscillator.connect(this.against);
    this.oscillator.start();
  }

  rest(): void {
    this.oscillator?.stop();
    this.oscillator?.disconnect();
    this.oscillator = null;
    this.rate = null;
  }

  dispose(): void {
    this.rest();
    this.out.disconnect();
    this.against.disconnect();
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

/** Two short delays, one a side, that swing against each other. */
export function chorus(context: BaseAudioContext, first: Extract<Effect, { kind: 'chorus' }>): EffectCore {
  const { input, split, merge } = sides(context);
  const wave = new Wave(context, first.rateHz);
  const swing = (['out', 'against'] as const).map((side, channel) => {
    const line = context.createDelay(1);
    line.delayTime.value = CHORUS_DELAY_S;
    const amount = context.createGain();
    wave[side].connect(amount).connect(line.delayTime);
    split.connect(line, channel).connect(merge, 0, channel);
    return { line, amount, depth: new KnownParam(amount.gain, (first.depth / 100) * CHORUS_DELAY_S) };
  });
  return {
    input,
    output: merge,
    tailS: () => CHORUS_DELAY_S * 2,
    set: ofKind('chorus', ({ rateHz, depth }, _bpm, rampS) => {
      wave.go(rateHz, rampS);
      for (const side of swing) side.depth.go((depth / 100) * CHORUS_DELAY_S, rampS, context.currentTime);
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.dispose();
      for (const { line, amount } of swing) {
        line.disconnect();
        amount.disconnect();
      }
      for (const node of [input, split, merge]) node.disconnect();
    },
  };
}

/** Ten allpass filters a side, whose frequency swings between 350 Hz and some octaves above it. */
export function phaser(context: BaseAudioContext, first: Extract<Effect, { kind: 'phaser' }>): EffectCore {
  const { input, split, merge } = sides(context);
  const wave = new Wave(context, first.rateHz);
  const reach = (depth: number): number => (PHASER_BASE_HZ * (2 ** (1 + (depth / 100) * 4) - 1)) / 2;
  const swing = (['out', 'against'] as const).map((side, channel) => {
    const amount = context.createGain();
    // Where it swings around: one source for all filters of the side, for as long as they sound.
    const stages = Array.from({ length: PHASER_STAGES }, () => {
      const stage = context.createBiquadFilter();
      stage.type = 'allpass';
      stage.Q.value = PHASER_Q;
      stage.frequency.automationRate = 'k-rate';
      amount.connect(stage.frequency);
      return { stage, middle: new KnownParam(stage.frequency, PHASER_BASE_HZ + reach(first.depth)) };
    });
    wave[side].connect(amount);
    let before: AudioNode | null = null;
    for (const { stage } of stages) {
      if (before === null) split.connect(stage, channel);
      else before.connect(stage);
      before = stage;
    }
    before!.connect(merge, 0, channel);
    return { amount, stages, depth: new KnownParam(amount.gain, reach(first.depth)) };
  });
  return {
    input,
    output: merge,
    tailS: () => 0.1,
    set: ofKind('phaser', ({ rateHz, depth }, _bpm, rampS) => {
      const now = context.currentTime;
      wave.go(rateHz, rampS);
      for (const side of swing) {
        side.depth.go(reach(depth), rampS, now);
        for (const { middle } of side.stages) middle.go(PHASER_BASE_HZ + reach(depth), rampS, now);
      }
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.dispose();
      for (const { amount, stages } of swing) {
        amount.disconnect();
        for (const { stage } of stages) stage.disconnect();
      }
      for (const node of [input, split, merge]) node.disconnect();
    },
  };
}

/** The level swings, on both sides alike, around half of what comes in. */
export function tremolo(
  context: BaseAudioContext,
  first: Extract<Effect, { kind: 'tremolo' }>,
  bpm: number,
): EffectCore {
  const rateOf = ({ note, rateHz }: Pick<typeof first, 'note' | 'rateHz'>, nowBpm: number): number =>
    note === null ? rateHz : 1 / secondsOf(note, nowBpm);
  const level = context.createGain();
  level.gain.value = 0.5;
  const amount = context.createGain();
  const wave = new Wave(context, rateOf(first, bpm));
  wave.out.connect(amount).connect(level.gain);
  const depth = new KnownParam(amount.gain, first.depth / 200);
  return {
    input: level,
    output: level,
    tailS: NO_TAIL,
    set: ofKind('tremolo', (effect, nowBpm, rampS) => {
      wave.go(rateOf(effect, nowBpm), rampS);
      depth.go(effect.depth / 200, rampS, context.currentTime);
    }),
    wake: () => wave.wake(),
    rest: () => wave.rest(),
    dispose() {
      wave.dispose();
      amount.disconnect();
      level.disconnect();
    },
  };
}
