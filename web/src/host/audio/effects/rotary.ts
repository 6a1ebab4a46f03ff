import { KnownParam } from '../knownParam';
import { ofKind, swingS, type EffectCore } from './effectCore';
import { ROTARY } from './processors';
import { letGo, twoSided } from './workletNode';

const TAIL_S = 0.02;

/** A rotary speaker. Its rotors speed up and slow down by themselves: a new speed is told at once. */
export function rotary(context: BaseAudioContext): EffectCore {
  const node = twoSided(context, ROTARY);
  const known = (name: string, value: number): KnownParam => new KnownParam(node.parameters.get(name)!, value);
  const [speed, ramp, depth] = [known('speed', 50), known('rampS', 1), known('depth', 0)];
  return {
    input: node,
    output: node,
    tailS: () => TAIL_S,
    set: ofKind('rotary', (effect, _bpm, rampS) => {
      const now = context.currentTime;
      speed.go(effect.speed, 0, now);
      ramp.go(effect.rampS, 0, now);
      depth.go(effect.depth, swingS(rampS), now);
    }),
    dispose: () => letGo(node),
  };
}
