import { KNEE_DB, LIMIT_RATIO } from '@rackle/core/show';
import { gainOf } from '../decibels';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';

const LIMIT_ATTACK_S = 0.003;
const LIMIT_RELEASE_S = 0.01;

function compressorNode(
  context: BaseAudioContext,
  about: { attackS: number; releaseS: number; thresholdDb: number; ratio: number },
): { node: DynamicsCompressorNode; threshold: KnownParam; ratio: KnownParam } {
  const node = context.createDynamicsCompressor();
  node.attack.value = about.attackS;
  node.release.value = about.releaseS;
  node.knee.value = KNEE_DB;
  return {
    node,
    threshold: new KnownParam(node.threshold, about.thresholdDb),
    ratio: new KnownParam(node.ratio, about.ratio),
  };
}

/** Evens out loud and soft. */
export function compressor(context: BaseAudioContext): EffectCore {
  const { node, threshold, ratio } = compressorNode(context, {
    attackS: 0.006,
    releaseS: 0.18,
    thresholdDb: -24,
    ratio: 12,
  });
  const out = context.createGain();
  node.connect(out);
  const makeUp = new KnownParam(out.gain, 1);
  return {
    input: node,
    output: out,
    tailS: NO_TAIL,
    set: ofKind('compressor', ({ thresholdDb, ratio: to, makeUpDb }, _bpm, rampS) => {
      const now = context.currentTime;
      threshold.go(thresholdDb, rampS, now);
      ratio.go(to, rampS, now);
      makeUp.go(gainOf(makeUpDb), rampS, now);
    }),
    dispose() {
      node.disconnect();
      out.disconnect();
    },
  };
}

/** Keeps below a ceiling, in dB. */
export function limiter(context: BaseAudioContext, ceilingDb: number): EffectCore {
  const { node, threshold } = compressorNode(context, {
    attackS: LIMIT_ATTACK_S,
    releaseS: LIMIT_RELEASE_S,
    thresholdDb: ceilingDb,
    ratio: LIMIT_RATIO,
  });
  return {
    input: node,
    output: node,
    tailS: NO_TAIL,
    set: ofKind('limiter', ({ ceilingDb: to }, _bpm, rampS) => threshold.go(to, rampS, context.currentTime)),
    dispose: () => node.disconnect(),
  };
}
