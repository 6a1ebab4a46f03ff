/** A page that has not come by then never will; keys are what they were. */
const AT_MOST_MS = 5000;

/**
 * When pages change. What is typed before the next one is to be seen was meant for the last: it never reaches the next,
 * however long the change takes.
 */
export class PageChange {
  private leftMs: number | null = null;
  private shownMs = 0;

  /** The page that was there is gone, the next one not yet there. */
  left(atMs: number): void {
    this.leftMs = atMs;
  }

  /** The next one is there. Before the first of a visit there was none for which anything could have been meant. */
  shown(atMs: number): void {
    if (this.leftMs === null) return;
    this.leftMs = null;
    this.shownMs = atMs;
  }

  /** Whether what was typed then was typed while no page was there to take it. */
  isBetween(typedMs: number): boolean {
    if (typedMs < this.shownMs) return true;
    return this.leftMs !== null && typedMs - this.leftMs < AT_MOST_MS;
  }
}

/** That of this window. Times are those of events. */
export const pageChange = new PageChange();
