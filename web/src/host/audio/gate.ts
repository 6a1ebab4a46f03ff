import { KnownParam } from './knownParam';

const CLOSED_S = 0.04;
const OPENS_S = 0.01;

/** A way in; one that is closed at first opens once what dies away meanwhile has gone. */
export function gate(context: BaseAudioContext, isClosed: boolean): GainNode {
  const node = context.createGain();
  if (isClosed) opening(node, context.currentTime + CLOSED_S, OPENS_S);
  return node;
}

/** A way in that opens from a time on, within another, so that nothing behind it begins all of a sudden. */
export function openingGate(context: BaseAudioContext, fromS: number, lengthS: number): GainNode {
  const node = context.createGain();
  if (lengthS > 0) opening(node, fromS, lengthS);
  return node;
}

const opening = ({ gain }: GainNode, fromS: number, lengthS: number): void =>
  new KnownParam(gain, 0).go(1, lengthS, fromS);
