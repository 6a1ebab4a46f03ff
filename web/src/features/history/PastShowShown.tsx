import { useState } from 'react';
import { Link } from 'react-router';
import { KINDS, bodyOf, differing, type Bodies, type Body, type Kind } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { useDifferenceNames } from '../../state/useDifferenceNames';
import { Button } from '../../ui/Button';
import { Question } from '../../ui/Question';
import { asItWasPath } from './asItWasPath';
import { bodiesOfPast, type Answer, type PastShow } from './historyApi';
import { Nothing, Problem } from './TwoSides';
import { comparedWith, useBringBack } from './useBringBack';
import { useFetched } from './useFetched';

const MOST_WORDS = 4;

/** A whole show of the past: what of it is otherwise now, thing by thing, and all of it. */
export function PastShowShown({
  source,
  title,
  ask,
}: {
  source: string;
  title: string;
  ask: () => Promise<Answer<PastShow>>;
}) {
  const { value, problem } = useFetched(source, ask);
  return (
    <>
      <h2 className="named text-3xl">{title}</h2>
      {problem !== null && <Problem>{problem}</Problem>}
      {value === null && problem === null && <p className="text-ink2">Opening it …</p>}
      {value && <Compared source={source} title={title} past={value} />}
    </>
  );
}

function Compared({ source, title, past }: { source: string; title: string; past: PastShow }) {
  const working = useApp(({ show }) => show.working);
  const back = useBringBack();
  const [isAsking, setIsAsking] = useState(false);
  const [then] = useState(() => bodiesOfPast(past));
  const { different, since } = comparedWith(working, then);
  const count = different.length + since.length;
  return (
    <>
      <p className="text-ink2">
        {count === 0 ? 'Everything stands so now' : `${count} ${count === 1 ? 'thing is' : 'things are'} otherwise now`}
      </p>
      {past.unreadable.length > 0 && (
        <Problem>{past.unreadable.join(', ')} cannot be read, and would stay as it is.</Problem>
      )}
      <p className="mt-2">
        <Button disabled={count === 0} onClick={() => setIsAsking(true)}>
          Bring the whole show back
        </Button>
      </p>
      {isAsking && (
        <Question
          title="Bring the whole show back?"
          answers={[
            [
              'Bring it back',
              () => {
                setIsAsking(false);
                back.show(kept(then, past, working), title, past.savedAt);
              },
            ],
          ]}
          leave="leave it"
          onLeave={() => setIsAsking(false)}
        >
          <p>
            {different.length} {different.length === 1 ? 'thing becomes' : 'things become'} what{' '}
            {different.length === 1 ? 'it was' : 'they were'}
            {since.length > 0 && `, and ${listed(since)}, made since, ${since.length === 1 ? 'goes' : 'go'}`}. It is one
            step: undo brings back what stands now.
          </p>
        </Question>
      )}
      <ul aria-label="what differs" className="mt-3 border-t border-ink">
        {different.map(([kind, body]) => (
          <Otherwise key={`${kind} ${body.id}`} source={source} kind={kind} body={body} savedAt={past.savedAt} />
        ))}
        {since.map(([kind, body]) => (
          <li key={`${kind} ${body.id}`} className="border-b border-rule py-1.5">
            <Name kind={kind} body={body} /> made since
          </li>
        ))}
      </ul>
      {count === 0 && <Nothing>Nothing differs.</Nothing>}
    </>
  );
}

/** What nobody could read of the past stays as it stands now. */
function kept(then: Bodies, { unreadable }: PastShow, now: Bodies): Bodies {
  if (unreadable.length === 0) return then;
  const all = { ...then } as Record<string, Record<string, Body>>;
  for (const [kind, bodies] of Object.entries(now) as [string, Record<string, Body>][])
    for (const id of unreadable) if (bodies[id]) all[kind] = { ...all[kind], [id]: bodies[id] };
  return all as unknown as Bodies;
}

const listed = (things: readonly (readonly [Kind, Body])[]): string =>
  things.length <= MOST_WORDS ? things.map(([, { name }]) => name).join(', ') : `${things.length} things`;

const Name = ({ kind, body }: { kind: Kind; body: Body }) => (
  <>
    <b className="named text-lg">{body.name}</b> <span className="text-[13px] text-ink2">{KINDS[kind].noun}</span>
  </>
);

function Otherwise({ source, kind, body, savedAt }: { source: string; kind: Kind; body: Body; savedAt: string }) {
  const now = useApp(({ show }) => bodyOf(show.working, kind, body.id));
  const names = useDifferenceNames();
  const back = useBringBack();
  const words = now === null ? ['it is there no more'] : differing(kind, body, now, names).map((one) => one.words);
  const path = asItWasPath(source, kind, body.id);
  return (
    <li aria-label={body.name} className="flex items-center gap-3 border-b border-rule py-1.5">
      <span className="min-w-0 flex-1">
        <Name kind={kind} body={body} />
        <span className="block text-[13px]">
          {words.slice(0, MOST_WORDS).join('; ')}
          {words.length > MOST_WORDS && `; and ${words.length - MOST_WORDS} more`}
        </span>
      </span>
      {path !== null && (
        <Link to={path} aria-label={`look at ${body.name} as it was`} className="min-h-9 px-2 py-2 font-bold underline">
          look
        </Link>
      )}
      <Button look="plain" aria-label={`bring back ${body.name}`} onClick={() => back.all(kind, body, savedAt)}>
        bring back
      </Button>
    </li>
  );
}
