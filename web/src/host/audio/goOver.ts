import type { KnownParam } from './knownParam';

/** How long a sound takes from one way to another. */
export const CROSS_S = 0.05;
/** New nodes learn only while they sound that both sides come in: their way opens a moment later. */
export const SETTLED_S = 0.009;

/** The sound goes over from one way to another, whose levels these are: together they stay what they were. */
export function goOver(context: BaseAudioContext, from: KnownParam, to: KnownParam, lengthS = CROSS_S): void {
  const holdS = lengthS > 0 ? SETTLED_S : 0;
  from.go(0, lengthS, context.currentTime, false, holdS);
  to.go(1, lengthS, context.currentTime, false, holdS);
}
