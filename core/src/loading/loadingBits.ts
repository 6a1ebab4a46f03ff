import { has, type CourseBits, type Units } from './bits';

/** Loads that run and wait, as `Loader` has them, of few units. */
export interface Loading {
  /** When each of the places is free. */
  readonly freeAt: readonly number[];
  /** What runs, and when it is ready. */
  readonly running: readonly Run[];
  readonly queue: Units;
}

interface Run {
  unit: number;
  readyAt: number;
}

/** Times that differ by less are the same, ms. */
export const SAME_MS = 1e-6;

export const atRest = (parallel: number): Loading => ({
  freeAt: new Array<number>(Math.max(1, parallel)).fill(-Infinity),
  running: [],
  queue: 0,
});

/** As it is at the next stop. */
export function advanced({ times, order, loadMs }: CourseBits, loading: Loading, stop: number): Loading {
  const now = times[stop + 1];
  const running = loading.running.filter(({ readyAt }) => readyAt > now);
  let { queue } = loading;
  if (queue === 0) return { freeAt: loading.freeAt, running, queue };
  const freeAt = [...loading.freeAt];
  for (const unit of order[stop]) {
    if (!has(queue, unit)) continue;
    const place = soonest(freeAt);
    const begins = freeAt[place] > times[stop] ? freeAt[place] : times[stop];
    if (begins >= now) break;
    queue &= ~(1 << unit);
    freeAt[place] = begins + loadMs[unit];
    if (freeAt[place] > now) running.push({ unit, readyAt: freeAt[place] });
  }
  return { freeAt, running, queue };
}

/** Without what is no more held, with what is new. */
export const asked = ({ freeAt, running, queue }: Loading, holds: Units, added: Units): Loading => ({
  freeAt,
  running: running.every(({ unit }) => has(holds, unit)) ? running : running.filter(({ unit }) => has(holds, unit)),
  queue: (queue & holds) | added,
});

/** How long the player waits at a stop for what is needed there. */
export function waitAt(bits: CourseBits, { freeAt, running, queue }: Loading, stop: number): number {
  const now = bits.times[stop];
  const needs = bits.needs[stop];
  let ready = now;
  for (const { unit, readyAt } of running) if (has(needs, unit) && readyAt > ready) ready = readyAt;
  const waiting = queue & needs;
  if (waiting === 0) return ready > now ? ready - now : 0;
  const free = [...freeAt];
  // What is needed here comes first.
  for (const unit of bits.order[stop]) {
    if (!has(waiting, unit)) continue;
    const place = soonest(free);
    free[place] = (free[place] > now ? free[place] : now) + bits.loadMs[unit];
    if (free[place] > ready) ready = free[place];
  }
  return ready > now ? ready - now : 0;
}

function soonest(freeAt: readonly number[]): number {
  let place = 0;
  for (let i = 1; i < freeAt.length; i++) if (freeAt[i] < freeAt[place]) place = i;
  return place;
}

/** The same things will be ready at the same times, whatever is asked for. */
export const isSame = (a: Loading, b: Loading, now: number): boolean =>
  a.queue === b.queue && isNoLater(a, b, now, NO_TIME) && isNoLater(b, a, now, NO_TIME);

const NO_TIME: readonly number[] = [];

/**
 * Nothing will be ready later than in the other one, whatever is asked for, as long as nothing is let go of before it is
 * ready: fewer loads with places free sooner, one after the other, all end sooner.
 */
export function isNoLater(a: Loading, b: Loading, now: number, loadMs: readonly number[]): boolean {
  if ((a.queue & ~b.queue) !== 0) return false;
  const [mine, other] = [late(a.freeAt, now), late(b.freeAt, now)];
  if (mine.some((at, i) => at > other[i] + SAME_MS)) return false;
  return a.running.every(({ unit, readyAt }) => {
    if (readyAt <= now) return true;
    const there = b.running.find((run) => run.unit === unit);
    if (there) return readyAt <= there.readyAt + SAME_MS;
    return has(b.queue, unit) && readyAt <= other[0] + loadMs[unit] + SAME_MS;
  });
}

const late = (freeAt: readonly number[], now: number): number[] =>
  freeAt.map((at) => (at > now ? at : now)).sort((a, b) => a - b);
