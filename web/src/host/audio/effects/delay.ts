import { quartersOf, type NoteValue } from '@rackle/core/show';
import { KnownParam } from '../knownParam';
import { ofKind, type EffectCore } from './effectCore';

/** What a delay line can hold. */
export const LONGEST_DELAY_S = 4;
const SHORTEST_GLIDE_S = 0.1;
const SILENT = 0.001;

/** A note value in seconds. */
export const secondsOf = (note: NoteValue, bpm: number): number => (quartersOf(note) * 60) / Math.max(20, bpm);

/** A delay that is fed back into itself. At rest the loop is open: nothing goes round for ever. */
export function delayLine(
  context: BaseAudioContext,
  firstS: number,
  firstFeedback: number,
): EffectCore & { glide(delayS: number, rampS: number): void; feed(back: number, rampS: number): void } {
  const input = context.createGain();
  const node = context.createDelay(LONGEST_DELAY_S);
  const loop = context.createGain();
  const time = new KnownParam(node.delayTime, firstS);
  const feedback = new KnownParam(loop.gain, firstFeedback);
  input.connect(node);
  node.connect(loop);
  let awake = false;
  return {
    input,
    output: node,
    glide: (delayS, rampS) => time.go(Math.min(LONGEST_DELAY_S - 0.1, delayS), rampS, context.currentTime),
    feed: (back, rampS) => feedback.go(back, rampS, context.currentTime),
    set: () => undefined,
    wake() {
      if (!awake) loop.connect(node);
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
        feedback.target <= 0 ? 0 : (time.target * Math.log(SILENT)) / Math.log(Math.min(0.99, feedback.target)),
      ),
    dispose() {
      for (const each of [input, node, loop]) each.disconnect();
    },
  };
}

/** Repeats in time with the tempo. */
export function delay(context: BaseAudioContext, first: { note: NoteValue; repeats: number }, bpm: number): EffectCore {
  const line = delayLine(context, Math.min(LONGEST_DELAY_S - 0.1, secondsOf(first.note, bpm)), first.repeats / 100);
  return {
    ...line,
    set: ofKind('delay', ({ note, repeats }, nowBpm, rampS) => {
      line.glide(secondsOf(note, nowBpm), rampS === 0 ? 0 : Math.max(SHORTEST_GLIDE_S, rampS));
      line.feed(repeats / 100, rampS);
    }),
  };
}
