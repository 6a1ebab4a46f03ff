import type { Bodies, Kinds } from './kinds';
import type { LayerSound } from './model/layer';
import { sameBody } from './sameBody';

/** Kinds of things that are played from. */
export type PlayedKind = 'songs' | 'instruments' | 'setlists' | 'gearLists' | 'everySetlist';
/** Kinds that are played from. */
export const PLAYED_KINDS: readonly PlayedKind[] = ['songs', 'instruments', 'setlists', 'gearLists', 'everySetlist'];
/** Their content. */
export type PlayedBodies = Pick<Bodies, PlayedKind>;

/**
 * What an edit means for what is played. Of what is known already only the fields that are new, so that everything else
 * keeps its identity (and is not compiled again); of what is not, all of it.
 */
export interface ShowNews {
  put: { [K in PlayedKind]?: Record<string, Partial<Kinds[K]>> };
  gone: { kind: PlayedKind; id: string }[];
}

/** A sound that is tried in the place of a layer's own; nothing is changed by it. */
export interface Audition {
  songId: string;
  layerId: string;
  sound: Pick<LayerSound, 'instrumentId' | 'presetId'>;
}

/** From one state of the show to a later one, for the things that were touched between them. */
export function newsBetween(
  before: PlayedBodies,
  after: PlayedBodies,
  touched: Iterable<{ kind: PlayedKind; id: string }>,
): ShowNews {
  const news: ShowNews = { put: {}, gone: [] };
  for (const { kind, id } of touched) {
    const [old, now] = [before[kind][id] ?? null, after[kind][id] ?? null];
    if (old === now) continue;
    if (now === null) news.gone.push({ kind, id });
    else put(news, kind, id, old === null ? now : newFields(old, now));
  }
  return news;
}

function put(news: ShowNews, kind: PlayedKind, id: string, body: object): void {
  const byId = (news.put[kind] ??= {}) as Record<string, object>;
  if (Object.keys(body).length > 0) byId[id] = body;
}

/** Fields that hold another value than before; undefined where one has gone. */
function newFields(old: object, now: object): object {
  const [from, to] = [old as Record<string, unknown>, now as Record<string, unknown>];
  return Object.fromEntries(
    [...new Set([...Object.keys(from), ...Object.keys(to)])]
      .filter((field) => !sameBody(from[field], to[field]))
      .map((field) => [field, to[field]]),
  );
}
