/** A node of the worklet with both sides; the context must have loaded it. */
export const twoSided = (context: BaseAudioContext, name: string): AudioWorkletNode =>
  new AudioWorkletNode(context, name, {
    outputChannelCount: [2],
    channelCount: 2,
    channelCountMode: 'explicit',
    channelInterpretation: 'speakers',
  });

/** Ends what it reckons. */
export function letGo(node: AudioWorkletNode): void {
  node.port.postMessage(null);
  node.disconnect();
}
