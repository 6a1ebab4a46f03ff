import { quartersOf, type NoteValue } from '@rackle/core/show';
import { SETTLED_S, goOver } from '../goOver';
import { KnownParam } from '../knownParam';
import { ofKind, type EffectCore, type EffectSurroundings } from './effectCore';

/** What a delay line can hold. */
export const LONGEST_DELAY_S = 4;
/** So long both places of a line are heard. */
const CROSS_S = 0.08;
const SILENT = 0.001;

/** A note value in seconds. */
export const secondsOf = (note: NoteValue, bpm: number): number => (quartersOf(note) * 60) / Math.max(20, bpm);

/** One of the two places at which a line is read. */
interface Tap {
  node: DelayNode;
  out: GainNode;
  level: KnownParam;
}

function tap(context: BaseAudioContext, from: AudioNode, to: AudioNode, delayS: number, level: number): Tap {
  const node = context.createDelay(LONGEST_DELAY_S);
  const out = context.createGain();
  from.connect(node).connect(out).connect(to);
  node.delayTime.value = delayS;
  return { node, out, level: new KnownParam(out.gain, level) };
}

/**
 * A delay that is fed back into itself. Another time is read at a second place of the line, and the sound goes over to
 * it: its pitch stays. At rest the loop is open: nothing goes round for ever.
 */
export function delayLine(
  { context, after }: EffectSurroundings,
  firstS: number,
  firstFeedback: number,
): EffectCore & { glide(delayS: number): void; feed(back: number, rampS: number): void } {
  const input = context.createGain();
  const output = context.createGain();
  const loop = context.createGain();
  const feedback = new KnownParam(loop.gain, firstFeedback);
  const taps = [1, 0].map((level) => tap(context, input, output, firstS, level));
  output.connect(loop);
  let awake = false;
  let isOver = false;
  let [here, nowS, wantedS] = [0, firstS, firstS];
  let freeS = -Infinity;
  const crossOver = (): void => {
    if (isOver || wantedS === nowS) return;
    const { currentTime } = context;
    // The one that is left is still heard: it may not be moved yet.
    if (currentTime < freeS) return void after((freeS - currentTime) * 1000 + 5, crossOver);
    const crossS = awake ? CROSS_S : 0;
    const [old, next] = [taps[here], taps[1 - here]];
    next.node.delayTime.setValueAtTime(wantedS, currentTime);
    goOver(context, old.level, next.level, crossS);
    here = 1 - here;
    nowS = wantedS;
    freeS = currentTime + crossS + SETTLED_S;
  };
  return {
    input,
    output,
    glide(delayS) {
      wantedS = Math.min(LONGEST_DELAY_S - 0.1, delayS);
      crossOver();
    },
    feed: (back, rampS) => feedback.go(back, rampS, context.currentTime),
    set: () => undefined,
    wake() {
      if (!awake) loop.connect(input);
      awake = true;
    },
    rest() {
      if (awake) loop.disconnect();
      awake = false;
    },
    // Not before all that the line can hold has gone by.
    tailS: () =>
      Math.max(
        LONGEST_DELAY_S,
        feedback.target <= 0 ? 0 : (nowS * Math.log(SILENT)) / Math.log(Math.min(0.99, feedback.target)),
      ),
    dispose() {
      isOver = true;
      for (const each of [input, output, loop, ...taps.flatMap(({ node, out }) => [node, out])]) each.disconnect();
    },
  };
}

/** Repeats in time with the tempo. */
export function delay(
  around: EffectSurroundings,
  first: { note: NoteValue; repeats: number },
  bpm: number,
): EffectCore {
  const line = delayLine(around, Math.min(LONGEST_DELAY_S - 0.1, secondsOf(first.note, bpm)), first.repeats / 100);
  return {
    ...line,
    set: ofKind('delay', ({ note, repeats }, nowBpm, rampS) => {
      line.glide(secondsOf(note, nowBpm));
      line.feed(repeats / 100, rampS);
    }),
  };
}
