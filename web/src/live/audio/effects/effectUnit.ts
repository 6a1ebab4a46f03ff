import * as Tone from 'tone';
import { assertNever, quartersOf, type Effect } from '@rackle/core';

const SMOOTH_S = 0.02;
const MOST_DRIVE_DB = 34;
/** How much of what the drive adds in level is taken back, as a power of it. */
const MADE_UP = 0.45;
/** The curve holds for inputs of up to so many times full scale; what is louder is cut there, where it is flat. */
const CURVE_REACH = 8;
const CURVE_POINTS = 4096;
const ROOM_RESTS_MS = 180;

/** One effect in a series: dry and wet side by side, so that switching it and mixing it make no click. */
export interface EffectUnit {
  readonly input: GainNode;
  readonly output: GainNode;
  /**
   * Takes the settings of the same kind of effect, those that can glide within a time; at least the time that keeps
   * clicks away.
   */
  set(effect: Effect, bpm: number, rampS?: number): void;
  dispose(): void;
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

interface Core {
  node: Tone.ToneAudioNode;
  /** Where it ends, if not in the same node. */
  tail?: Tone.ToneAudioNode;
  between?: Tone.ToneAudioNode[];
  /** Ends what it still has in mind. */
  stop?(): void;
  set(effect: Effect, bpm: number, rampS: number): void;
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
  const mix = (now: Effect, rampS: number): void => {
    const { wet: wetGain, dry: dryGain } = mixOf(now);
    for (const [gain, value] of [
      [wet.gain, wetGain],
      [dry.gain, dryGain],
    ] as const) {
      if (rampS === 0) gain.value = value;
      else glide(gain, value, rampS, context.currentTime);
    }
  };
  core.set(effect, bpm, SMOOTH_S);
  mix(effect, 0);
  return {
    input,
    output,
    set(next, nextBpm, rampS = 0) {
      const longS = Math.max(SMOOTH_S, rampS);
      core.set(next, nextBpm, longS);
      mix(next, longS);
    },
    dispose() {
      input.disconnect();
      output.disconnect();
      wet.disconnect();
      dry.disconnect();
      core.stop?.();
      core.node.dispose();
      for (const node of core.between ?? []) node.dispose();
      core.tail?.dispose();
    },
  };
}

const secondsOf = (note: Parameters<typeof quartersOf>[0], bpm: number): number =>
  (quartersOf(note) * 60) / Math.max(20, bpm);
/** From wherever it stands now, in a straight line. */
function glide(param: AudioParam, value: number, rampS: number, now: number): void {
  const from = param.value;
  param.cancelScheduledValues(now);
  param.setValueAtTime(from, now);
  param.linearRampToValueAtTime(value, now + rampS);
}

const same =
  <K extends Effect['kind']>(
    kind: K,
    apply: (effect: Extract<Effect, { kind: K }>, bpm: number, rampS: number) => void,
  ) =>
  (effect: Effect, bpm: number, rampS: number): void => {
    if (effect.kind === kind) apply(effect as Extract<Effect, { kind: K }>, bpm, rampS);
  };
const LONGEST_DELAY_S = 4;

function coreOf(effect: Effect): Core {
  switch (effect.kind) {
    case 'equaliser': {
      // In series: at 0 dB each passes everything on as it is.
      const node = new Tone.BiquadFilter({ type: 'lowshelf', frequency: 300 });
      const middle = new Tone.BiquadFilter({ type: 'peaking', frequency: 1000, Q: 0.7 });
      const high = new Tone.BiquadFilter({ type: 'highshelf', frequency: 3000 });
      node.chain(middle, high);
      return {
        node,
        between: [middle],
        tail: high,
        set: same('equaliser', ({ lowDb, middleDb, middleHz, highDb }, _bpm, rampS) => {
          node.gain.linearRampTo(lowDb, rampS);
          middle.gain.linearRampTo(middleDb, rampS);
          high.gain.linearRampTo(highDb, rampS);
          node.frequency.rampTo(Math.max(80, middleHz / 3), rampS);
          middle.frequency.rampTo(middleHz, rampS);
          high.frequency.rampTo(Math.min(12_000, middleHz * 3), rampS);
        }),
      };
    }
    case 'drive': {
      // One fixed curve, driven into and made up for: levels can glide, a curve could only jump.
      const node = new Tone.Gain(1);
      const curve = new Tone.WaveShaper((x) => Math.tanh(x * CURVE_REACH), CURVE_POINTS);
      curve.oversample = '2x';
      const makeUp = new Tone.Gain(1);
      node.chain(curve, makeUp);
      return {
        node,
        between: [curve],
        tail: makeUp,
        set: same('drive', ({ amount }, _bpm, rampS) => {
          const gain = 10 ** ((amount / 100) * (MOST_DRIVE_DB / 20));
          node.gain.rampTo(gain / CURVE_REACH, rampS);
          makeUp.gain.rampTo(gain ** -MADE_UP, rampS);
        }),
      };
    }
    case 'chorus': {
      const node = new Tone.Chorus({ frequency: 1, delayTime: 4, depth: 0.5, wet: 1 }).start();
      return {
        node,
        set: same('chorus', ({ rateHz, depth }, _bpm, rampS) => {
          node.frequency.rampTo(rateHz, rampS);
          node.depth = depth / 100;
        }),
      };
    }
    case 'phaser': {
      const node = new Tone.Phaser({ frequency: 0.5, octaves: 3, baseFrequency: 350, wet: 1 });
      return {
        node,
        set: same('phaser', ({ rateHz, depth }, _bpm, rampS) => {
          node.frequency.rampTo(rateHz, rampS);
          node.octaves = 1 + (depth / 100) * 4;
        }),
      };
    }
    case 'tremolo': {
      const node = new Tone.Tremolo({ frequency: 5, depth: 0.5, spread: 0, wet: 1 }).start();
      return {
        node,
        set: same('tremolo', ({ note, rateHz, depth }, bpm, rampS) => {
          node.frequency.rampTo(note === null ? rateHz : 1 / secondsOf(note, bpm), rampS);
          node.depth.rampTo(depth / 100, rampS);
        }),
      };
    }
    case 'delay': {
      const node = new Tone.FeedbackDelay({ delayTime: 0.4, feedback: 0.3, maxDelay: LONGEST_DELAY_S, wet: 1 });
      return {
        node,
        set: same('delay', ({ note, repeats }, bpm, rampS) => {
          node.delayTime.rampTo(Math.min(LONGEST_DELAY_S - 0.1, secondsOf(note, bpm)), Math.max(0.1, rampS));
          node.feedback.rampTo(repeats / 100, rampS);
        }),
      };
    }
    case 'compressor': {
      const node = new Tone.Compressor({ attack: 0.006, release: 0.18 });
      const makeUp = new Tone.Volume(0);
      node.connect(makeUp);
      return {
        node,
        tail: makeUp,
        set: same('compressor', ({ thresholdDb, ratio, makeUpDb }, _bpm, rampS) => {
          // Decibels may be 0 or below: a curve by ratio cannot lead there.
          node.threshold.linearRampTo(thresholdDb, rampS);
          node.ratio.linearRampTo(ratio, rampS);
          makeUp.volume.rampTo(makeUpDb, rampS);
        }),
      };
    }
    case 'filter': {
      const node = new Tone.Filter({ frequency: 2000, type: effect.type, rolloff: -24 });
      return {
        node,
        set: same('filter', ({ type, hz, resonance }, _bpm, rampS) => {
          if (node.type !== type) node.type = type;
          node.frequency.rampTo(hz, rampS);
          node.Q.rampTo(0.5 + resonance / 8, rampS);
        }),
      };
    }
    case 'reverb': {
      const node = new Tone.Reverb({ decay: effect.seconds, preDelay: 0.012, wet: 1 });
      // Another length is a room that has to be made anew: once, when the hand has come to rest.
      let waits: ReturnType<typeof setTimeout> | undefined;
      return {
        node,
        stop: () => clearTimeout(waits),
        set: same('reverb', ({ seconds }) => {
          clearTimeout(waits);
          if (Math.abs(Number(node.decay) - seconds) > 0.01)
            waits = setTimeout(() => {
              node.decay = seconds;
            }, ROOM_RESTS_MS);
        }),
      };
    }
    case 'limiter': {
      const node = new Tone.Limiter(effect.ceilingDb);
      return {
        node,
        set: same('limiter', ({ ceilingDb }, _bpm, rampS) => node.threshold.linearRampTo(ceilingDb, rampS)),
      };
    }
    default:
      return assertNever(effect);
  }
}
