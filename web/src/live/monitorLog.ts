import { IGNORED_IN_WORDS } from '@rackle/core/monitor';
import { LineMaker, type MonitorLine } from '@rackle/core/monitor';
import type { StampedRecord } from '../protocol';

/** How many lines the monitor keeps. */
export const KEPT_LINES = 10_000;

/**
 * The last ten thousand lines of the monitor, outside of the store: thousands of messages a second must cost the pages
 * nothing.
 * Pages subscribe, and are told at most once for each batch.
 */
export class MonitorLog {
  private lines: MonitorLine[] = [];
  private readonly maker = new LineMaker(IGNORED_IN_WORDS);
  private readonly listeners = new Set<() => void>();
  /** What pages see: made anew at most once for each batch. */
  private shown: readonly MonitorLine[] = [];

  add(records: readonly StampedRecord[]): void {
    for (const { record } of records) {
      const line = this.maker.add(record);
      if (line) this.lines.push(line);
    }
    // Cut now and then rather than at each line.
    if (this.lines.length > KEPT_LINES * 1.2) this.lines = this.lines.slice(-KEPT_LINES);
    this.changed();
  }

  clear(): void {
    this.lines = [];
    this.changed();
  }

  /** Oldest first; the same array until something has come in. */
  all = (): readonly MonitorLine[] => this.shown;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  private changed(): void {
    this.shown = this.lines.slice(-KEPT_LINES);
    for (const listener of this.listeners) listener();
  }
}
