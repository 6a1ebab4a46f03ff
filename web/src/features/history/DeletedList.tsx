import { useState } from 'react';
import { KINDS, bodyOf } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { dayAndTime } from '../../ui/clockTime';
import { deletedThings, versionAt, type Version } from './historyApi';
import { LookOrBringBack } from './LookOrBringBack';
import { Line, Nothing, Problem, TwoSides } from './TwoSides';
import { useFetched } from './useFetched';

/** What is there no more, with the way back. */
export function DeletedList() {
  const serial = useApp(({ show }) => show.saveState.serial);
  const { value, problem } = useFetched('deleted', deletedThings, serial);
  const [at, setAt] = useState<number | null>(null);
  const chosen = value?.find(({ number }) => number === at) ?? null;
  const list = (
    <>
      <p className="text-[13px] text-ink2">What was deleted, the last first. Its last state is kept for ever.</p>
      {problem !== null && <Problem>{problem}</Problem>}
      {value?.length === 0 && <Nothing>Nothing was deleted.</Nothing>}
      <ul aria-label="what was deleted">
        {value?.map((gone) => (
          <Line key={gone.number} isChosen={gone === chosen} onChoose={() => setAt(gone.number)}>
            <span className="mono shrink-0 text-[13px]">{dayAndTime(new Date(gone.savedAt))}</span>
            <span className="min-w-0 flex-1">
              <span className="named text-lg leading-5">{gone.of ?? gone.id}</span>{' '}
              <span className="text-[13px] text-ink2">{KINDS[gone.kind].noun}</span>
            </span>
          </Line>
        ))}
      </ul>
    </>
  );
  return (
    <TwoSides list={list}>
      {chosen ? <Gone key={chosen.number} gone={chosen} /> : <Nothing>Choose what is to come back.</Nothing>}
    </TwoSides>
  );
}

function Gone({ gone }: { gone: Version }) {
  const { value, problem } = useFetched(String(gone.number), () => versionAt(gone.number));
  const now = useApp(({ show }) => bodyOf(show.working, gone.kind, gone.id));
  return (
    <>
      <h2 className="named text-3xl">{gone.of ?? gone.id}</h2>
      <p className="text-ink2">
        {KINDS[gone.kind].noun}, deleted {dayAndTime(new Date(gone.savedAt))}
        {gone.label !== null && ` by “${gone.label}”`}
      </p>
      {problem !== null && <Problem>{problem}</Problem>}
      {value?.body && (
        <LookOrBringBack
          source={`v-${gone.number}`}
          kind={gone.kind}
          body={value.body}
          now={now}
          savedAt={value.savedAt}
        />
      )}
      <p className="mt-2 text-[13px] text-ink2">
        It comes back by itself: where it stood in a setlist or had a number, put it in again, or bring that back too.
      </p>
    </>
  );
}
