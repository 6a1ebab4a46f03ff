import { assertNever } from '@rackle/core/result';
import type { Effect } from '@rackle/core/show';
import { KnownParam } from '../knownParam';
import { delay } from './delay';
import { drive } from './drive';
import { compressor, limiter } from './dynamics';
import type { EffectCore, EffectSurroundings } from './effectCore';
import { equaliser, filter } from './filters';
import { chorus, phaser, tremolo } from './modulation';
import { rotary } from './rotary';
import { reverb } from './reverb';

const SMOOTH_S = 0.02;
const PRE_DELAY_S = 0.012;

/** One effect in a series: dry and wet side by side, so that switching it and mixing it make no click. */
export interface EffectUnit extends Pick<EffectCore, 'wake' | 'rest' | 'tailS' | 'dispose'> {
  readonly input: GainNode;
  readonly output: GainNode;
  /**
   * Takes the settings of the same kind of effect, those that can glide within a time; at least the time that keeps
   * clicks away.
   */
  set(effect: Effect, bpm: number, rampS?: number): void;
}

/** What of an effect is heard: the wet share, and the dry beside it. */
export function mixOf(effect: Effect): { wet: number; dry: number } {
  if (!effect.on) return { wet: 0, dry: 1 };
  switch (effect.kind) {
    // The sound itself stays as it is up to the middle; from there on it makes room.
    case 'delay':
    case 'reverb':
      return { wet: Math.min(1, effect.mix / 50), dry: Math.min(1, 2 - effect.mix / 50) };
    case 'chorus':
    case 'phaser':
    case 'drive':
      return { wet: effect.mix / 100, dry: 1 - effect.mix / 100 };
    default:
      return { wet: 1, dry: 0 };
  }
}

/** input → core → wet → output, and input → dry → output. It begins where its settings are. */
export function makeEffectUnit(around: EffectSurroundings, effect: Effect, bpm: number): EffectUnit {
  const { context } = around;
  const input = context.createGain();
  const output = context.createGain();
  const wet = context.createGain();
  const dry = context.createGain();
  const core = coreOf(around, effect, bpm);
  input.connect(core.input);
  // What the worklet reckons it reckons in silence too, as long as it is heard: it is led on only while it is awake.
  const isWorklet = core.output instanceof AudioWorkletNode;
  if (isWorklet) [wet.channelCount, wet.channelCountMode] = [2, 'explicit'];
  else core.output.connect(wet);
  wet.connect(output);
  input.connect(dry).connect(output);
  const first = mixOf(effect);
  const mix = { wet: new KnownParam(wet.gain, first.wet), dry: new KnownParam(dry.gain, first.dry) };
  core.set(effect, bpm, 0);
  return {
    input,
    output,
    set(next, nextBpm, rampS = 0) {
      const longS = Math.max(SMOOTH_S, rampS);
      const now = context.currentTime;
      core.set(next, nextBpm, longS);
      mix.wet.go(mixOf(next).wet, longS, now);
      mix.dry.go(mixOf(next).dry, longS, now);
    },
    wake() {
      if (isWorklet) core.output.connect(wet);
      core.wake?.();
    },
    rest() {
      if (isWorklet) core.output.disconnect();
      core.rest?.();
    },
    tailS: core.tailS,
    dispose() {
      for (const node of [input, output, wet, dry]) node.disconnect();
      core.rest?.();
      core.dispose();
    },
  };
}

function coreOf(around: EffectSurroundings, effect: Effect, bpm: number): EffectCore {
  const { context } = around;
  switch (effect.kind) {
    case 'equaliser':
      return equaliser(context, effect);
    case 'drive':
      return drive(context);
    case 'chorus':
      return chorus(context, effect);
    case 'phaser':
      return phaser(context, effect);
    case 'tremolo':
      return tremolo(context, effect, bpm);
    case 'rotary':
      return rotary(context);
    case 'delay':
      return delay(around, effect, bpm);
    case 'compressor':
      return compressor(context);
    case 'filter':
      return filter(around, effect);
    case 'reverb':
      return reverb(context, effect.seconds, PRE_DELAY_S);
    case 'limiter':
      return limiter(context, effect.ceilingDb);
    default:
      return assertNever(effect);
  }
}
