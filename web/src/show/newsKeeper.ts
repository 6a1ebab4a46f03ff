import type { PlayedShowParts } from '@rackle/core/engine';
import { PLAYED_KINDS, newsBetween, type Bodies, type Change, type PlayedKind, type ShowNews } from '@rackle/core/show';

const isPlayed = (kind: Change['kind']): kind is PlayedKind => (PLAYED_KINDS as readonly string[]).includes(kind);

/** What somebody who follows the show has been told of it, and what is new since. */
export class NewsKeeper {
  private told: Bodies | null = null;
  private readonly touched = new Map<string, { kind: PlayedKind; id: string }>();

  /** @returns whether any of it is played from. */
  touch(changes: readonly Change[]): boolean {
    for (const { kind, id } of changes) if (isPlayed(kind)) this.touched.set(`${kind} ${id}`, { kind, id });
    return this.touched.size > 0;
  }

  get knowsNothing(): boolean {
    return this.told === null;
  }

  /** The whole show is to be told again. */
  forget(): void {
    this.told = null;
  }

  /** What is to be told now: everything, or what is new (null: nothing is). From here on it counts as told. */
  take(show: Bodies): { whole: PlayedShowParts } | { news: ShowNews } | null {
    const { told } = this;
    const news = told === null ? null : newsBetween(told, show, this.touched.values());
    this.told = show;
    this.touched.clear();
    if (news === null) {
      const lists = PLAYED_KINDS.map((kind) => [kind, Object.values(show[kind])]);
      return { whole: Object.fromEntries(lists) as PlayedShowParts };
    }
    const isNews = news.gone.length > 0 || Object.values(news.put).some((byId) => Object.keys(byId).length > 0);
    return isNews ? { news } : null;
  }
}

/** Nothing has changed. */
export const NO_NEWS: ShowNews = { put: {}, gone: [] };
