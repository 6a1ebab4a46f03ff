/**
 * How often the last stretch falls by e in the time constant of the first: it is 50 dB long, and nothing is left to
 * click.
 */
const LAST_STRETCH = 0.3;
const FASTER = 6;

/**
 * Lets a gain fall from wherever it stands now: by e in each `tauS`, and after `lengthS` quickly to nothing. Straight
 * lines are of no use
 * here: one that is asked for behind a falling curve takes the place of the curve.
 * @returns when it is over and its source may stop, in seconds of the context.
 */
export function dieAway(gain: AudioParam, nowS: number, lengthS: number, tauS: number): number {
  gain.cancelAndHoldAtTime(nowS);
  gain.setTargetAtTime(0, nowS, tauS);
  gain.setTargetAtTime(0, nowS + lengthS, (lengthS * LAST_STRETCH) / FASTER);
  return nowS + lengthS * (1 + LAST_STRETCH);
}
