const CLOSED_S = 0.04;
const OPENS_S = 0.01;

/** A way in; one that is closed at first opens once what dies away meanwhile has gone. */
export function gate(context: BaseAudioContext, isClosed: boolean): GainNode {
  const node = context.createGain();
  if (!isClosed) return node;
  const opensS = context.currentTime + CLOSED_S;
  node.gain.value = 0;
  node.gain.setValueAtTime(0, opensS);
  node.gain.linearRampToValueAtTime(1, opensS + OPENS_S);
  return node;
}
