import type { LoadTask } from './task';

/**
 * Loads that run, so many at once, each to its end; what waits begins in its order as soon as one has ended. Plain values:
 * a copy is another future.
 */
export interface Loader {
  /** When each of the places is free. */
  readonly freeAt: readonly number[];
  /** When each unit that has begun is ready. */
  readonly readyAt: ReadonlyMap<number, number>;
  readonly queue: readonly number[];
}

/** Nothing runs; these are ready. */
export const restingLoader = ({ parallel, resident }: Pick<LoadTask, 'parallel' | 'resident'>): Loader => ({
  freeAt: new Array<number>(Math.max(1, parallel)).fill(-Infinity),
  readyAt: new Map(resident.map((unit) => [unit, -Infinity])),
  queue: [],
});

/** As it is at a moment, when from an earlier one on nothing else was asked for. */
export function run(loader: Loader, loadMs: (unit: number) => number, fromMs: number, untilMs: number): Loader {
  if (loader.queue.length === 0) return loader;
  const freeAt = [...loader.freeAt];
  const readyAt = new Map(loader.readyAt);
  const queue = [...loader.queue];
  while (queue.length > 0) {
    const place = freeAt.indexOf(Math.min(...freeAt));
    const begins = Math.max(freeAt[place], fromMs);
    if (begins >= untilMs) break;
    const unit = queue.shift()!;
    freeAt[place] = begins + loadMs(unit);
    readyAt.set(unit, freeAt[place]);
  }
  return { freeAt, readyAt, queue };
}

/** The same without what is let go of, and with what is asked for besides, in the order given. */
export function asked(loader: Loader, gone: (unit: number) => boolean, queue: readonly number[]): Loader {
  const readyAt = new Map([...loader.readyAt].filter(([unit]) => !gone(unit)));
  return { freeAt: loader.freeAt, readyAt, queue };
}

/** When all of these are ready, if nothing else is asked for meanwhile; −Infinity: they are. */
export function readyBy(
  loader: Loader,
  loadMs: (unit: number) => number,
  fromMs: number,
  units: readonly number[],
): number {
  const { readyAt } = run(loader, loadMs, fromMs, Infinity);
  return units.reduce((latest, unit) => Math.max(latest, readyAt.get(unit) ?? -Infinity), -Infinity);
}
