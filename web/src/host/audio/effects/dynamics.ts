import { gainOf } from '../decibels';
import { KnownParam } from '../knownParam';
import { NO_TAIL, ofKind, type EffectCore } from './effectCore';
import { COMPRESSOR, LIMITER } from './processors';

/** A node of the worklet with both sides; the context must have loaded it. */
const twoSided = (context: BaseAudioContext, name: string): AudioWorkletNode =>
  new AudioWorkletNode(context, name, {
    outputChannelCount: [2],
    channelCount: 2,
    channelCountMode: 'explicit',
    channelInterpretation: 'speakers',
  });

function letGo(node: AudioWorkletNode): void {
  node.port.postMessage(null);
  node.disconnect();
}

/** Evens out loud and soft. */
export function compressor(context: BaseAudioContext): EffectCore {
  const node = twoSided(context, COMPRESSOR);
  const known = (name: string, value: number): KnownParam => new KnownParam(node.parameters.get(name)!, value);
  const [threshold, ratio, makeUp] = [known('thresholdDb', 0), known('ratio', 1), known('makeUpDb', 0)];
  return {
    input: node,
    output: node,
    tailS: NO_TAIL,
    set: ofKind('compressor', ({ thresholdDb, ratio: to, makeUpDb }, _bpm, rampS) => {
      const now = context.currentTime;
      threshold.go(thresholdDb, rampS, now);
      ratio.go(to, rampS, now);
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
