import { driveGains } from '@rackle/core/show';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';

/** The curve holds for inputs of up to so many times full scale; what is louder is cut there, where it is flat. */
const CURVE_REACH = 8;
const CURVE_POINTS = 4096;
const LOWEST_HZ = 5;

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
  // What is not alike above and below comes out with something that stands still: that is taken out.
  const keeps = Math.exp((-2 * Math.PI * LOWEST_HZ) / context.sampleRate);
  const centre = context.createIIRFilter([(1 + keeps) / 2, -(1 + keeps) / 2], [1, -keeps]);
  into.connect(curve).connect(centre).connect(out);
  const level = new KnownParam(into.gain, 1 / CURVE_REACH);
  const makeUp = new KnownParam(out.gain, 1);
  return {
    input: into,
    output: out,
    tailS: NO_TAIL,
    set: ofKind('drive', ({ amount }, _bpm, rampS) => {
      const gains = driveGains(amount);
      level.go(gains.into / CURVE_REACH, rampS, context.currentTime);
      makeUp.go(gains.out, rampS, context.currentTime);
    }),
    dispose() {
      for (const node of [into, curve, centre, out]) node.disconnect();
    },
  };
}
