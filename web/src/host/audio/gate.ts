import { KnownParam } from './knownParam';

const CLOSED_S = 0.04;
const OPENS_S = 0.01;

/** A way in that opens once what dies away meanwhile has gone. */
export function closedGate(context: BaseAudioContext): GainNode {
  const node = context.createGain();
  new KnownParam(node.gain, 0).go(1, OPENS_S, context.currentTime, false, CLOSED_S);
  return node;
}
