import { useState } from 'react';
import { useApp } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { dayAndTime } from '../../ui/clockTime';
import { Question } from '../../ui/Question';
import { deleteState, nameState, namedState, namedStates } from './historyApi';
import { PastShowShown } from './PastShowShown';
import { Line, Nothing, Problem, TwoSides } from './TwoSides';
import { useFetched } from './useFetched';

/** States of the whole show under names of the player's own. */
export function StatesList() {
  const { value, problem, again } = useFetched('states', namedStates);
  const [at, setAt] = useState<string | null>(null);
  const [isAsking, setIsAsking] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const chosen = value?.find(({ id }) => id === at) ?? null;
  const letGo = async (id: string): Promise<void> => {
    setIsAsking(false);
    const answer = await deleteState(id);
    setWrong(answer.ok ? null : answer.problem);
    again();
  };
  const list = (
    <>
      <NameNow onNamed={again} />
      {(problem ?? wrong) !== null && <Problem>{problem ?? wrong}</Problem>}
      {value?.length === 0 && (
        <Nothing>
          No state has a name yet. Name the show after a gig, and you can always see it as it was played.
        </Nothing>
      )}
      <ul aria-label="named states">
        {value?.map((state) => (
          <Line key={state.id} isChosen={state === chosen} onChoose={() => setAt(state.id)}>
            <span className="named min-w-0 flex-1 text-lg leading-5">{state.name}</span>
            <span className="mono shrink-0 text-[13px]">{dayAndTime(new Date(state.savedAt))}</span>
          </Line>
        ))}
      </ul>
    </>
  );
  return (
    <TwoSides list={list}>
      {chosen ? (
        <>
          <PastShowShown
            key={chosen.id}
            source={`s-${chosen.id}`}
            title={chosen.name}
            ask={() => namedState(chosen.id)}
          />
          <p className="mt-4">
            <Button look="plain" className="-ml-2" onClick={() => setIsAsking(true)}>
              delete this state
            </Button>
          </p>
          {isAsking && (
            <Question
              title={`Delete ${chosen.name}?`}
              answers={[['Delete it', () => void letGo(chosen.id)]]}
              leave="keep it"
              onLeave={() => setIsAsking(false)}
            >
              <p>Nothing in the show changes. Its saves thin out with time, as all others do.</p>
            </Question>
          )}
        </>
      ) : (
        <Nothing>Choose a state to see what has changed since, and to bring all or some of it back.</Nothing>
      )}
    </TwoSides>
  );
}

/** Names the show as it stands; what still waits to be saved is saved first. */
function NameNow({ onNamed }: { onNamed: () => void }) {
  const waiting = useApp(({ show }) => show.saveState.waiting + show.held.length);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    const answer = await nameState(newId('state'), name.trim());
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setName('');
    onNamed();
  };
  return (
    <form
      className="mb-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== '' && waiting === 0) void save();
      }}
    >
      <input
        aria-label="name of the show as it stands now"
        placeholder="as played at …"
        maxLength={200}
        dir="auto"
        value={name}
        onChange={({ target }) => setName(target.value)}
        className="min-h-9 min-w-0 flex-1 border border-ink bg-ground px-2"
      />
      <Button type="submit" disabled={name.trim() === '' || waiting > 0}>
        Name the show as it stands
      </Button>
      {waiting > 0 && <span className="text-[13px] text-ink2">Once everything is saved.</span>}
      {problem !== null && <Problem>{problem}</Problem>}
    </form>
  );
}
