import { ofKind, type EffectCore, type EffectSurroundings } from './effectCore';

const RESTS_MS = 180;
const CROSS_S = 0.02;
const GONE_MS = 250;

interface Room {
  node: ConvolverNode;
  level: GainNode;
}

/** A room by its impulse response. Another length is another room, made once the hand has come to rest. */
export function reverb(
  { context, after, impulses }: EffectSurroundings,
  firstS: number,
  preDelayS: number,
): EffectCore {
  const input = context.createGain();
  const output = context.createGain();
  let seconds = firstS;
  let room: Room | null = null;
  let cancel: (() => void) | null = null;
  const enter = (buffer: AudioBuffer): void => {
    const old = room;
    const now = context.currentTime;
    const node = context.createConvolver();
    node.buffer = buffer;
    const level = context.createGain();
    level.gain.setValueAtTime(old === null ? 1 : 0, now);
    if (old !== null) level.gain.linearRampToValueAtTime(1, now + CROSS_S);
    input.connect(node).connect(level).connect(output);
    room = { node, level };
    if (old === null) return;
    old.level.gain.setValueAtTime(1, now);
    old.level.gain.linearRampToValueAtTime(0, now + CROSS_S);
    after(GONE_MS, () => leave(old));
  };
  const leave = ({ node, level }: Room): void => {
    node.disconnect();
    level.disconnect();
    try {
      input.disconnect(node);
    } catch {
      // All of it has been let go of already.
    }
  };
  const makeAnew = (): void => {
    const job = impulses.make(seconds, preDelayS);
    const step = (): void => {
      const { done, value } = job.next();
      if (done) enter(value);
      else cancel = after(0, step);
    };
    step();
  };
  const known = impulses.known(firstS, preDelayS);
  if (known) enter(known);
  return {
    input,
    output,
    *prepare() {
      if (room === null) enter(yield* impulses.make(seconds, preDelayS));
    },
    set: ofKind('reverb', ({ seconds: to }) => {
      if (Math.abs(to - seconds) <= 0.01) return;
      seconds = to;
      cancel?.();
      if (room !== null) cancel = after(RESTS_MS, makeAnew);
    }),
    tailS: () => seconds + preDelayS,
    dispose() {
      cancel?.();
      if (room !== null) leave(room);
      input.disconnect();
      output.disconnect();
    },
  };
}
