import { ofKind, type EffectCore } from './effectCore';
import { ringSeconds } from './room';
import { ROOM, type RoomOptions } from './processors';

const SAME_S = 0.01;

/**
 * A room, reckoned on the sound's own thread: made in no time, whatever its length, and still when nothing rings in it.
 * The context must have loaded its worklet.
 */
export function reverb(context: BaseAudioContext, firstS: number, preDelayS: number): EffectCore {
  const processorOptions: RoomOptions = { seconds: firstS, preDelayS };
  const node = new AudioWorkletNode(context, ROOM, { outputChannelCount: [2], processorOptions });
  let seconds = firstS;
  return {
    input: node,
    output: node,
    set: ofKind('reverb', ({ seconds: to }) => {
      if (Math.abs(to - seconds) <= SAME_S) return;
      seconds = to;
      node.port.postMessage(to);
    }),
    tailS: () => ringSeconds(seconds) + preDelayS,
    dispose() {
      node.port.postMessage(null);
      node.disconnect();
    },
  };
}
