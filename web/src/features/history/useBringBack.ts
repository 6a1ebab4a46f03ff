import {
  KIND_NAMES,
  bodyOf,
  broughtBack,
  draftOf,
  sameBody,
  type Bodies,
  type Body,
  type Kind,
  type Kinds,
  type Thing,
} from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { dayAndTime } from '../../ui/clockTime';

/** What is brought back, each as one edit that can be undone. */
export function useBringBack() {
  const edit = useEdit();
  const working = useApp(({ show }) => show.working);
  const labelled = (what: string, savedAt: string): string =>
    `bring back ${what} of ${dayAndTime(new Date(savedAt))}`.slice(0, 200);
  return {
    /** All of one thing. */
    all: (kind: Kind, body: Body, savedAt: string): void =>
      edit({ label: labelled(body.name, savedAt), ...draftOf([{ kind, id: body.id, body }]) }),
    /** What differs at one place, and nothing else. */
    thing: (kind: Kind, body: Body, thing: Thing, words: string, savedAt: string): void => {
      const now = bodyOf(working, kind, body.id);
      if (!now) return;
      const next = broughtBack<Kind>(kind, now as Kinds[Kind], body as Kinds[Kind], thing);
      edit({ label: labelled(`“${words}”`, savedAt), ...draftOf([{ kind, id: body.id, body: next }]) });
    },
    /** A whole show: what was made since goes, and undo brings that back. */
    show: (bodies: Bodies, name: string, savedAt: string): void => {
      const { different, since } = comparedWith(working, bodies);
      const back = different.map(([kind, body]) => ({ kind, id: body.id as string, body }));
      const gone = since.map(([kind, { id }]) => ({ kind, id: id as string, body: null }));
      edit({ label: labelled(name, savedAt), ...draftOf([...back, ...gone]) });
    },
  };
}

/** What of a show of the past is otherwise now, or not there, and what was made since. */
export function comparedWith(now: Bodies, then: Bodies): { different: [Kind, Body][]; since: [Kind, Body][] } {
  const different: [Kind, Body][] = [];
  const since: [Kind, Body][] = [];
  for (const kind of KIND_NAMES) {
    for (const body of Object.values(then[kind]) as Body[])
      if (!sameBody(bodyOf(now, kind, body.id), body)) different.push([kind, body]);
    for (const body of Object.values(now[kind]) as Body[])
      if (bodyOf(then, kind, body.id) === null) since.push([kind, body]);
  }
  return { different, since };
}
