import { gainOf } from '../decibels';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';

const MOST_DRIVE_DB = 34;
/** How much of what the drive adds in level is taken back, as a power of it. */
const MADE_UP = 0.45;
/** The curve holds for inputs of up to so many times full scale; what is louder is cut there, where it is flat. */
const CURVE_REACH = 8;
const CURVE_POINTS = 4096;

/** One curve for all drives. */
const CURVE = Float32Array.from({ length: CURVE_POINTS }, (_, i) =>
  Math.tanh(((2 * i) / (CURVE_POINTS - 1) - 1) * CURVE_REACH),
);

/** One fixed curve, driven into and made up for: levels can glide, a curve could only jump. */
export function drive(context: BaseAudioContext): EffectCore {
  const into = context.createGain();
  const curve = context.createWaveShaper();
  curve.curve = CURVE;
  curve.oversample = '2x';
  const out = context.createGain();
  into.connect(curve).connect(out);
  const level = new KnownParam(into.gain, 1 / CURVE_REACH);
  const makeUp = new KnownParam(out.gain, 1);
  return {
    input: into,
    output: out,
    tailS: NO_TAIL,
    set: ofKind('drive', ({ amount }, _bpm, rampS) => {
      const gain = gainOf((amount / 100) * MOST_DRIVE_DB);
      level.go(gain / CURVE_REACH, rampS, context.currentTime);
      makeUp.go(gain ** -MADE_UP, rampS, context.currentTime);
    }),
    dispose() {
      for (const node of [into, curve, out]) node.disconnect();
    },
  };
}
