import { gainOf } from '../decibels';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';
import { COMPRESSOR, LIMITER } from './processors';
import { twoSided, letGo } from './workletNode';

/** Evens out loud and soft. */
export function compressor(context: BaseAudioContext): EffectCore {
  const node = twoSided(context, COMPRESSOR);
  const known = (name: string, value: number): KnownParam => new KnownParam(node.parameters.get(name)!, value);
  const [threshold, ratio, makeUp] = [known('thresholdDb', 0), known('ratio', 1), known('makeUpDb', 0)];
  const [attack, release] = [known('attackMs', 6), known('releaseMs', 180)];
  return {
    input: node,
    output: node,
    tailS: NO_TAIL,
    set: ofKind('compressor', ({ thresholdDb, ratio: to, attackMs, releaseMs, makeUpDb }, _bpm, rampS) => {
      const now = context.currentTime;
      threshold.go(thresholdDb, rampS, now);
      ratio.go(to, rampS, now);
      attack.go(attackMs, rampS, now);
      release.go(releaseMs, rampS, now);
      makeUp.go(makeUpDb, rampS, now);
    }),
    dispose: () => letGo(node),
  };
}

/** Keeps below a ceiling, in dB, between the samples too. */
export function limiter(context: BaseAudioContext, ceilingDb: number): EffectCore {
  const node = twoSided(context, LIMITER);
  const ceiling = new KnownParam(node.parameters.get('ceiling')!, gainOf(ceilingDb));
  return {
    input: node,
    output: node,
    tailS: NO_TAIL,
    set: ofKind('limiter', ({ ceilingDb: to }, _bpm, rampS) => ceiling.go(gainOf(to), rampS, context.currentTime)),
    dispose: () => letGo(node),
  };
}
