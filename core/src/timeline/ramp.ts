import type { TempoMap } from './tempoMap';

/** Two values of one controller stand at least so far apart on a ramp, in ms by the song's own tempo. */
const APART_MS = 5;

/** Share of the way of a ramp at a share of its time: 0–1; a curve of −100…100 bends it late or early. */
export const rampShape = (share: number, curve: number): number => share ** (4 ** (-curve / 100));
const timeOfShare = (share: number, curve: number): number => share ** (4 ** (curve / 100));

/** A ramp as it is written in a cue. */
export interface Ramp {
  atTick: number;
  value: number;
  toValue: number;
  lengthTicks: number;
  curve: number;
}

/**
 * The values of a ramp behind its first one, each at the tick at which it is reached: only changes, none nearer to the
 * one before than `APART_MS`; the last stands exactly at its end.
 */
export function rampPoints(ramp: Ramp, map: TempoMap): { tick: number; value: number }[] {
  const { atTick, value, toValue, lengthTicks, curve } = ramp;
  const steps = Math.abs(toValue - value);
  const points: { tick: number; value: number }[] = [];
  let lastMs = map.msAt(atTick);
  for (let i = 1; i < steps; i++) {
    const tick = atTick + Math.ceil(lengthTicks * timeOfShare(i / steps, curve) - 1e-9);
    const ms = map.msAt(tick);
    if (ms - lastMs < APART_MS) continue;
    points.push({ tick, value: value + Math.sign(toValue - value) * i });
    lastMs = ms;
  }
  const end = atTick + lengthTicks;
  while (points.length > 0 && (points.at(-1)!.tick >= end || map.msAt(end) - map.msAt(points.at(-1)!.tick) < APART_MS))
    points.pop();
  if (steps > 0) points.push({ tick: end, value: toValue });
  return points;
}
