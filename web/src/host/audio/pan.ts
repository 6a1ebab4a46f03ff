import { KnownParam } from './knownParam';

/** A voice in the middle is on either side by 3 dB softer than one that stands on one. */
export const MIDDLE = Math.SQRT1_2;

/** What stands in the middle is as loud on either side as it came. */
const sidesOf = (pan: number): { left: number; right: number } => {
  const angle = ((pan + 1) * Math.PI) / 4;
  return { left: Math.SQRT2 * Math.cos(angle), right: Math.SQRT2 * Math.sin(angle) };
};

/**
 * A place between left (−1) and right (1), by one law for what comes in mono and in stereo: the power of both sides
 * together stays, and in the middle each is as it came.
 */
export class Pan {
  readonly input: GainNode;
  readonly output: ChannelMergerNode;
  private readonly left: KnownParam;
  private readonly right: KnownParam;
  private readonly nodes: readonly AudioNode[];

  constructor(context: BaseAudioContext) {
    this.input = context.createGain();
    this.input.channelCount = 2;
    this.input.channelCountMode = 'explicit';
    this.output = context.createChannelMerger(2);
    const split = context.createChannelSplitter(2);
    const [left, right] = [context.createGain(), context.createGain()];
    this.input.connect(split);
    split.connect(left, 0).connect(this.output, 0, 0);
    split.connect(right, 1).connect(this.output, 0, 1);
    this.left = new KnownParam(left.gain, 1);
    this.right = new KnownParam(right.gain, 1);
    this.nodes = [this.input, split, left, right, this.output];
  }

  go(pan: number, rampS: number, nowS: number): void {
    const { left, right } = sidesOf(pan);
    this.left.go(left, rampS, nowS);
    this.right.go(right, rampS, nowS);
  }

  disconnect(): void {
    for (const node of this.nodes) node.disconnect();
  }
}
