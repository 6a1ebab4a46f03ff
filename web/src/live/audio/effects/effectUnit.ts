import * as Tone from 'tone';
import { assertNever, quartersOf, type Effect } from '@rackle/core';

const SMOOTH_S = 0.02;

/** One effect in a series: dry and wet side by side, so that switching it and mixing it make no click. */
export interface EffectUnit {
  readonly input: GainNode;
  readonly output: GainNode;
  /** Takes the settings of the same kind of effect. */
  set(effect: Effect, bpm: number): void;
  dispose(): void;
}

/** What of an effect is heard: the wet share, and the dry beside it. */
export function mixOf(effect: Effect): { wet: number; dry: number } {
  if (!effect.on) return { wet: 0, dry: 1 };
  switch (effect.kind) {
    // The sound itself stays as it is up to the middle; from there on it makes room.
    case 'delay': case 'reverb': return { wet: Math.min(1, effect.mix / 50), dry: Math.min(1, 2 - effect.mix / 50) };
    case 'chorus': case 'phaser': case 'drive': return { wet: effect.mix / 100, dry: 1 - effect.mix / 100 };
    default: return { wet: 1, dry: 0 };
  }
}

interface Core {
  node: Tone.ToneAudioNode;
  /** Where it ends, if not in the same node. */
  tail?: Tone.ToneAudioNode;
  set(effect: Effect, bpm: number): void;
}

export function makeEffectUnit(context: BaseAudioContext, effect: Effect, bpm: number): EffectUnit {
  const input = context.createGain();
  const output = context.createGain();
  const wet = context.createGain();
  const dry = context.createGain();
  const core = coreOf(effect);
  Tone.connect(input, core.node);
  Tone.connect(core.tail ?? core.node, wet);
  wet.connect(output);
  input.connect(dry).connect(output);
  const mix = (now: Effect, atOnce: boolean): void => {
    const { wet: wetGain, dry: dryGain } = mixOf(now);
    for (const [gain, value] of [[wet.gain, wetGain], [dry.gain, dryGain]] as const) {
      if (atOnce) gain.value = value;
      else gain.setTargetAtTime(value, context.currentTime, SMOOTH_S);
    }
  };
  core.set(effect, bpm);
  mix(effect, true);
  return {
    input, output,
    set(next, nextBpm) {
      core.set(next, nextBpm);
      mix(next, false);
    },
    dispose() {
      input.disconnect();
      output.disconnect();
      wet.disconnect();
      dry.disconnect();
      core.node.dispose();
      core.tail?.dispose();
    },
  };
}

const secondsOf = (note: Parameters<typeof quartersOf>[0], bpm: number): number => (quartersOf(note) * 60) / Math.max(20, bpm);
const same = <K extends Effect['kind']>(kind: K, apply: (effect: Extract<Effect, { kind: K }>, bpm: number) => void) => (effect: Effect, bpm: number): void => {
  if (effect.kind === kind) apply(effect as Extract<Effect, { kind: K }>, bpm);
};
const LONGEST_DELAY_S = 4;

function coreOf(effect: Effect): Core {
  switch (effect.kind) {
    case 'equaliser': {
      const node = new Tone.EQ3({ lowFrequency: 300, highFrequency: 3000 });
      return { node, set: same('equaliser', ({ lowDb, middleDb, middleHz, highDb }) => {
        node.low.rampTo(lowDb, SMOOTH_S);
        node.mid.rampTo(middleDb, SMOOTH_S);
        node.high.rampTo(highDb, SMOOTH_S);
        node.lowFrequency.rampTo(Math.max(80, middleHz / 3), SMOOTH_S);
        node.highFrequency.rampTo(Math.min(12_000, middleHz * 3), SMOOTH_S);
      }) };
    }
    case 'drive': {
      const node = new Tone.Distortion({ distortion: 0.3, oversample: '2x', wet: 1 });
      return { node, set: same('drive', ({ amount }) => { node.distortion = amount / 100; }) };
    }
    case 'chorus': {
      const node = new Tone.Chorus({ frequency: 1, delayTime: 4, depth: 0.5, wet: 1 }).start();
      return { node, set: same('chorus', ({ rateHz, depth }) => { node.frequency.rampTo(rateHz, SMOOTH_S); node.depth = depth / 100; }) };
    }
    case 'phaser': {
      const node = new Tone.Phaser({ frequency: 0.5, octaves: 3, baseFrequency: 350, wet: 1 });
      return { node, set: same('phaser', ({ rateHz, depth }) => { node.frequency.rampTo(rateHz, SMOOTH_S); node.octaves = 1 + (depth / 100) * 4; }) };
    }
    case 'tremolo': {
      const node = new Tone.Tremolo({ frequency: 5, depth: 0.5, spread: 0, wet: 1 }).start();
      return { node, set: same('tremolo', ({ note, rateHz, depth }, bpm) => {
        node.frequency.rampTo(note === null ? rateHz : 1 / secondsOf(note, bpm), SMOOTH_S);
        node.depth.rampTo(depth / 100, SMOOTH_S);
      }) };
    }
    case 'delay': {
      const node = new Tone.FeedbackDelay({ delayTime: 0.4, feedback: 0.3, maxDelay: LONGEST_DELAY_S, wet: 1 });
      return { node, set: same('delay', ({ note, repeats }, bpm) => {
        node.delayTime.rampTo(Math.min(LONGEST_DELAY_S - 0.1, secondsOf(note, bpm)), 0.1);
        node.feedback.rampTo(repeats / 100, SMOOTH_S);
      }) };
    }
    case 'compressor': {
      const node = new Tone.Compressor({ attack: 0.006, release: 0.18 });
      const makeUp = new Tone.Volume(0);
      node.connect(makeUp);
      return { node, tail: makeUp, set: same('compressor', ({ thresholdDb, ratio, makeUpDb }) => {
        node.threshold.rampTo(thresholdDb, SMOOTH_S);
        node.ratio.rampTo(ratio, SMOOTH_S);
        makeUp.volume.rampTo(makeUpDb, SMOOTH_S);
      }) };
    }
    case 'filter': {
      const node = new Tone.Filter({ frequency: 2000, type: effect.type, rolloff: -24 });
      return { node, set: same('filter', ({ type, hz, resonance }) => {
        if (node.type !== type) node.type = type;
        node.frequency.rampTo(hz, SMOOTH_S);
        node.Q.rampTo(0.5 + resonance / 8, SMOOTH_S);
      }) };
    }
    case 'reverb': {
      const node = new Tone.Reverb({ decay: effect.seconds, preDelay: 0.012, wet: 1 });
      return { node, set: same('reverb', ({ seconds }) => { if (Math.abs(Number(node.decay) - seconds) > 0.01) node.decay = seconds; }) };
    }
    case 'limiter': {
      const node = new Tone.Limiter(effect.ceilingDb);
      return { node, set: same('limiter', ({ ceilingDb }) => node.threshold.rampTo(ceilingDb, SMOOTH_S)) };
    }
    default: return assertNever(effect);
  }
}
